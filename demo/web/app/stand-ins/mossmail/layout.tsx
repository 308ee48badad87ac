import type { Metadata } from "next";
import "../../../../stand-ins/stand-ins.css";

export const metadata: Metadata = { title: "Mossmail" };

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body className="mossmail">{children}</body>
    </html>
  );
}
