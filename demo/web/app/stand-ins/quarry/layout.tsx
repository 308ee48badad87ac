import type { Metadata } from "next";
import "../../../../stand-ins/stand-ins.css";

export const metadata: Metadata = { title: "Quarry" };

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body className="quarry">{children}</body>
    </html>
  );
}
