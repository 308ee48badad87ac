import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import { t } from "@/core/messages/t";
import { languageOf } from "@/server/speech";
import { Spoken } from "@/workbench/parts/spoken";
import "@/workbench/shared/shared.css";

export const generateMetadata = (): Metadata => ({
  title: t("Through a lens · Mirada"),
  robots: { index: false, follow: false },
});
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function Layout({ children }: { children: React.ReactNode }) {
  const asked = await headers();
  const language = languageOf(asked.get("cookie") ?? undefined, asked.get("accept-language") ?? undefined);
  return (
    <html lang={language}>
      <body>
        <Spoken language={language}>{children}</Spoken>
      </body>
    </html>
  );
}
