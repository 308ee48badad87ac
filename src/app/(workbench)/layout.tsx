import type { Metadata } from "next";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import "@fontsource-variable/hanken-grotesk/index.css";
import "@fontsource-variable/source-serif-4/index.css";
import "@fontsource-variable/jetbrains-mono/index.css";
import "@/workbench/workbench.css";
import "@/workbench/team.css";
import "@/workbench/sending.css";
import "@/workbench/narrow.css";
import InitColorSchemeScript from "@mui/material/InitColorSchemeScript";
import { headers } from "next/headers";
import { themeAttribute } from "@/workbench/theme-attribute";
import { languageOf } from "@/server/speech";
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: React.ReactNode }) {
  const asked = await headers();
  const nonce = asked.get("x-nonce") ?? "";
  const language = languageOf(asked.get("cookie") ?? undefined, asked.get("accept-language") ?? undefined);
  return (
    <html lang={language} suppressHydrationWarning>
      <body>
        {/* The theme that was chosen, or the system's, before anything is drawn. */}
        <InitColorSchemeScript attribute={themeAttribute} defaultMode="system" nonce={nonce} />
        <AppRouterCacheProvider options={{ nonce }}>
          <Frame nonce={nonce} language={language}>
            {children}
          </Frame>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
