import type { Metadata } from "next";
import { cookies, headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { readSite, lookOrigin } from "@/data/sites";
import { openDesk } from "@/server/desk";
import { asPerson } from "@/server/members";
import { currentAccount } from "@/server/session";
import { listsOf } from "@/workbench/parts/desk/screens";
import { closedSteps, closedStepsCookie } from "@/workbench/parts/help/closed-steps";
import { sideWidth, sideWidthOf } from "@/workbench/page/side-width";
import { Desk } from "@/workbench/parts/desk/desk";

/** A tab says which screen of which site it holds. */
export async function generateMetadata({ params }: { params: Promise<{ site: string }> }): Promise<Metadata> {
  const { site } = await params;
  return { title: { template: `%s · ${site} · Mirada`, default: "Mirada" } };
}

export default async function Layout({
  children,
  params,
}: {
  children: React.ReactNode;
  params: Promise<{ site: string }>;
}) {
  const account = await currentAccount();
  const address = (await headers()).get("x-mirada-path") ?? "/";
  if (!account) redirect(`/sign-in?next=${encodeURIComponent(address)}`);
  const { site } = await params;
  // Whoever is none of its people learns nothing of a site, not even whether there is one.
  const who = await asPerson(account, site);
  const row = who && (await readSite(site));
  const { pathname, searchParams } = new URL(address, "https://workbench.invalid");
  const lists = listsOf(pathname.slice(`/s/${site}`.length));
  const [lens, page] = [searchParams.get("lens"), searchParams.get("page")];
  const opened = row && (await openDesk(who, { lists, lens, page }));
  if (!opened) notFound();
  const jar = await cookies();
  const kept = {
    stepsClosed: closedSteps(jar.get(closedStepsCookie)?.value).includes(site),
    side: sideWidthOf(jar.get(sideWidth.cookie)?.value),
  };
  return (
    <Desk opened={opened} storefront={lookOrigin(row)} lookedBy={row.lookedBy} kept={kept}>
      {children}
    </Desk>
  );
}
