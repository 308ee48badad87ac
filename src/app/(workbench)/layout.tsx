import type { Metadata } from "next";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import "@fontsource-variable/hanken-grotesk/index.css";
import "@fontsource-variable/source-serif-4/index.css";
import "@fontsource-variable/jetbrains-mono/index.css";
import "@/workbench/workbench.css";
import "@/workbench/team.css";
import "@/workbench/sending.css";
import "@/workbench/narrow.css";
import { headers } from "next/headers";
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: React.ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? "";
  return (
    <html lang="en">
      <body>
        <AppRouterCacheProvider options={{ nonce }}>
          <Frame nonce={nonce}>{children}</Frame>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
