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
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: React.ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? "";
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        {/* The theme that was chosen, or the system's, before anything is drawn. */}
        <InitColorSchemeScript attribute={themeAttribute} defaultMode="system" nonce={nonce} />
        <AppRouterCacheProvider options={{ nonce }}>
          <Frame nonce={nonce}>{children}</Frame>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
