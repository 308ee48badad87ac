import { isUrl } from "@/core/text/is-url";
import { readShare } from "@/data/passes";
import { lookOrigin, readSite } from "@/data/sites";

/** How long it is believed where a site's pages are looked at, in milliseconds. */
const believed = 2000;
const most = 1000;
const kept = new Map<string, { origin: Promise<string | undefined>; until: number }>();
/** What was read last, for while the database is away. */
const last = new Map<string, string | undefined>();

async function readOrigin(site: string): Promise<string | undefined> {
  try {
    const row = await readSite(site);
    const origin = row && isUrl(lookOrigin(row)) ? lookOrigin(row) : undefined;
    if (last.size >= most) last.clear();
    last.set(site, origin);
    return origin;
  } catch (error) {
    // A page without its frame would stay so until it is loaded anew: what was known a moment ago is better.
    kept.delete(site);
    console.error(`where ${site} is looked at could not be read: ${error instanceof Error ? error.message : "?"}`);
    return last.get(site);
  }
}

/** The origin at which a site's pages are looked at; undefined if there is no such site, or none is known while the database is away. */
export function siteLookOrigin(site: string): Promise<string | undefined> {
  const known = kept.get(site);
  if (known && known.until > performance.now()) return known.origin;
  if (kept.size >= most) kept.clear();
  const origin = readOrigin(site);
  kept.set(site, { origin, until: performance.now() + believed });
  return origin;
}

/** The origin at which the site of a shared lens is looked at. */
export async function sharedOrigin(id: string): Promise<string | undefined> {
  const share = await readShare(id).catch(() => undefined);
  return share && siteLookOrigin(share.site);
}
