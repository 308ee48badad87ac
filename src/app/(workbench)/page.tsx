import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import { currentAccount } from "@/server/session";
import { sitesOf } from "@/server/sites";
import { lastSiteCookie } from "@/workbench/parts/desk/last-site";

/** To the site one works on; to the list, where there are several or none. `to`: an address of before, of a screen. */
export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { to, ...rest } = await searchParams;
  const query = new URLSearchParams(
    Object.entries(rest).flatMap(([name, value]) => [[name, String(value)]]),
  ).toString();
  const pages = `/pages${query ? `?${query}` : ""}`;
  const screen = typeof to === "string" && /^\/[a-z]+(\?.*)?$/.test(to) ? to : pages;
  const account = await currentAccount();
  if (!account) redirect(`/sign-in?next=${encodeURIComponent(typeof to === "string" ? screen : "/")}`);
  const open = (await sitesOf(account)).filter((site) => !site.archivedAt);
  // With several: the one that this browser was at last, if it is still one of them.
  const last = (await cookies()).get(lastSiteCookie)?.value;
  const site = open.length === 1 ? open[0] : open.find(({ id }) => id === last);
  redirect(site ? `/s/${site.id}${screen}` : "/sites");
}
