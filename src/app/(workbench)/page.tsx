import { redirect } from "next/navigation";
import { listSites } from "@/data/sites";
import { currentAccount } from "@/server/session";

/** To the site one works on; to the list, where there are several or none. `to`: an address of before, of a screen. */
export default async function Page({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const { to } = await searchParams;
  const screen = typeof to === "string" && /^\/[a-z]+(\?.*)?$/.test(to) ? to : "/pages";
  const account = await currentAccount();
  if (!account) redirect(`/sign-in?next=${encodeURIComponent(typeof to === "string" ? screen : "/")}`);
  const open = (await listSites(account.administrator ? undefined : account.id)).filter((site) => !site.archivedAt);
  const [first, second] = open;
  redirect(first && !second ? `/s/${first.id}${screen}` : "/sites");
}
