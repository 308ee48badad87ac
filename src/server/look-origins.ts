import { readShare } from "@/data/passes";
import { lookOrigin, readSite } from "@/data/sites";

/** How long it is believed where a site's pages are looked at, in milliseconds. */
const believed = 2000;
const most = 1000;
const kept = new Map<string, { origin: Promise<string | undefined>; until: number }>();

/** The origin at which a site's pages are looked at; undefined if there is no such site, or the database is away. */
export function siteLookOrigin(site: string): Promise<string | undefined> {
  const known = kept.get(site);
  if (known && known.until > performance.now()) return known.origin;
  const origin = readSite(site).then(
    (row) => (row && URL.canParse(lookOrigin(row)) ? lookOrigin(row) : undefined),
    () => undefined,
  );
  if (kept.size >= most) kept.clear();
  kept.set(site, { origin, until: performance.now() + believed });
  return origin;
}

/** The origin at which the site of a shared lens is looked at. */
export async function sharedOrigin(id: string): Promise<string | undefined> {
  const share = await readShare(id).catch(() => undefined);
  return share && siteLookOrigin(share.site);
}
