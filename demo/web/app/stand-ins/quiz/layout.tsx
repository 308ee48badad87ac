import type { Metadata } from "next";
import "../../../../stand-ins/stand-ins.css";

export const metadata: Metadata = { title: "Which plant are you?" };

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body className="quiz">{children}</body>
    </html>
  );
}
