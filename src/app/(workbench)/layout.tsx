import type { Metadata } from "next";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import "@fontsource-variable/hanken-grotesk/index.css";
import "@fontsource-variable/source-serif-4/index.css";
import "@fontsource-variable/jetbrains-mono/index.css";
import "@/workbench/workbench.css";
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en">
      <body>
        <AppRouterCacheProvider>
          <Frame>{children}</Frame>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
