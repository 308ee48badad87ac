import type { Metadata } from "next";
import "../../../../shop/shop.css";

export const metadata: Metadata = {
  description: "Ferns, succulents, seed boxes and tools by mail",
};

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
