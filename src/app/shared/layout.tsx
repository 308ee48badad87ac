import type { Metadata, Viewport } from "next";
import "@/workbench/shared/shared.css";

export const metadata: Metadata = { title: "Through a lens · Mirada", robots: { index: false, follow: false } };
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
