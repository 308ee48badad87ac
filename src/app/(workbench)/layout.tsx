import type { Metadata } from "next";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import "@fontsource-variable/hanken-grotesk/index.css";
import "@fontsource-variable/source-serif-4/index.css";
import "@fontsource-variable/jetbrains-mono/index.css";
import "@/workbench/workbench.css";
import { headers } from "next/headers";
import * as actions from "@/server/actions";
import { openDesk } from "@/server/desk";
import { Desk } from "@/workbench/parts/desk/desk";
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };
export const dynamic = "force-dynamic";
const site = "brackenfold";

export default async function Layout({ children }: { children: React.ReactNode }) {
  const opened = await openDesk(site);
  const port = ((await headers()).get("host") ?? "localhost").split(":")[1];
  return (
    <html lang="en">
      <body>
        <AppRouterCacheProvider>
          <Frame>
            {opened ? (
              <Desk
                opened={opened}
                storefront={`http://${site}.localhost${port ? `:${port}` : ""}`}
                actions={{ ...actions }}
              >
                {children}
              </Desk>
            ) : (
              <p style={{ padding: 24 }}>There is no site yet. Start with npm run demo, which fills in Brackenfold.</p>
            )}
          </Frame>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
