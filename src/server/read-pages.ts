/** Reading pages of a site, a few at a time, and each not more often than needed. */
import { fetchPage } from "./ask-page";
import { parsePage, type PageNodes } from "./page-places";

const atOnce = 6;
/** How long a page is believed to stay as it was read, in milliseconds. */
const believed = 60_000;
const mostKept = 300;
const longest = 3_000_000;
const kept = new Map<string, { document: Promise<PageNodes | undefined>; until: number }>();

/** A page as the server gets it; undefined: it cannot be read, or is too long. */
export function readPage(site: string, path: string): Promise<PageNodes | undefined> {
  const key = `${site} ${path}`;
  const known = kept.get(key);
  if (known && known.until > performance.now()) return known.document;
  const document = fetchPage(site, path).then(
    (page) => (page.ok && page.status === 200 && page.body.length <= longest ? parsePage(page.body) : undefined),
    () => undefined,
  );
  if (kept.size >= mostKept) kept.clear();
  kept.set(key, { document, until: performance.now() + believed });
  return document;
}

/** A page is read anew the next time. */
export const forgetPage = (site: string, path: string): unknown => kept.delete(`${site} ${path}`);

/** The pages of a site are read anew from here on. */
export function forgetPages(site: string): void {
  for (const key of kept.keys()) if (key.startsWith(`${site} `)) kept.delete(key);
}

/** Does something for each of several, a few at a time. */
export async function forEach<T>(items: readonly T[], work: (item: T) => Promise<void>): Promise<void> {
  const waiting = [...items];
  const one = async () => {
    for (let item = waiting.shift(); item !== undefined; item = waiting.shift()) await work(item);
  };
  await Promise.all(Array.from({ length: atOnce }, one));
}
