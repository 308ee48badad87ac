import type { Metadata } from "next";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import "@fontsource-variable/hanken-grotesk/index.css";
import "@fontsource-variable/source-serif-4/index.css";
import "@fontsource-variable/jetbrains-mono/index.css";
import "@/workbench/workbench.css";
import "@/workbench/team.css";
import "@/workbench/sending.css";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { openDesk } from "@/server/desk";
import { currentPerson } from "@/server/session";
import { Desk } from "@/workbench/parts/desk/desk";
import { Frame } from "@/workbench/parts/frame";

export const metadata: Metadata = { title: "Mirada", icons: { icon: "/icon.svg" } };
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: React.ReactNode }) {
  const incoming = await headers();
  const who = await currentPerson();
  if (!who) redirect(`/sign-in?next=${encodeURIComponent(incoming.get("x-mirada-path") ?? "/")}`);
  const opened = await openDesk(who);
  const port = (incoming.get("host") ?? "localhost").split(":")[1];
  const nonce = incoming.get("x-nonce") ?? "";
  return (
    <html lang="en">
      <body>
        <AppRouterCacheProvider options={{ nonce }}>
          <Frame nonce={nonce}>
            {opened ? (
              <Desk opened={opened} storefront={`http://${who.site}.localhost${port ? `:${port}` : ""}`}>
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
