/** Whether a site is connected: its address, its pages, its tag, and whether the tag was heard from. */
import { now } from "@/clock";
import type { Finding } from "@/core/analysis/findings";
import { deliverySettings } from "@/data/delivery";
import { listKeys } from "@/data/keys";
import { listPages } from "@/data/pages";
import { ownOrigins, readSite, lookOrigin } from "@/data/sites";
import { listTagRefused, listTagSeen } from "@/data/tag-seen";
import { fetchPage } from "./ask-page";
import { deliveryAddress } from "./delivery-address";
import type { Fetched } from "./fetch-page";
import { findAll, parsePage, textOf } from "./page-places";
import { forEach } from "./read-pages";
import { keptOutOf, tagOf, type TagState } from "./tag-on-page";
import { isFramed } from "./way";

/** Where the tag was heard from. */
export interface Heard {
  pages: number;
  first: { at: string } | undefined;
  last: { at: string; path: string } | undefined;
  /** Whether the site has a key for a server: then its pages may be made without the tag. */
  served: boolean;
  /** Origins whose pages carry the key and may not ask. */
  refused: { origin: string; lastAt: string }[];
}

/** A page as it was found just now. */
export interface TagOnPageNow {
  path: string;
  /** The server cannot read it: why. */
  problem?: string;
  state?: TagState;
  /** When its tag was last heard from: a tag that scripts put in does not stand in the page as it is served. */
  heardAt?: string;
  /** What the page's policy keeps out: a directive each, with what to add. */
  keptOut?: string[];
}

export interface Connection {
  /** The site's first page, or why it cannot be read. */
  address: { origin: string } & (
    { ok: true; title: string; language: string | undefined; framed: boolean } | { ok: false; problem: string }
  );
  /** How many pages are known. */
  pages: number;
  tried: TagOnPageNow[];
}

const mostTried = 60;

export async function heardOf(site: string): Promise<Heard> {
  const [seen, refused, row, { origins }, keys] = await Promise.all([
    listTagSeen(site),
    listTagRefused(site),
    readSite(site),
    deliverySettings(site),
    listKeys(site),
  ]);
  const may = new Set([...(row ? ownOrigins(row) : []), ...origins]);
  const [last] = seen;
  const first = seen.reduce<string | undefined>(
    (least, { firstAt }) => (least && least < firstAt ? least : firstAt),
    undefined,
  );
  return {
    pages: seen.length,
    first: first === undefined ? undefined : { at: first },
    last: last && { at: last.lastAt, path: last.path },
    served: keys.some((key) => key.kind === "secret" && !key.endedAt),
    refused: refused.filter(({ origin }) => !may.has(origin)),
  };
}

/** Looks at the site's pages as they are served just now. */
export async function lookAtConnection(site: string): Promise<Connection | undefined> {
  const [row, pages, seen] = await Promise.all([readSite(site), listPages(site), listTagSeen(site)]);
  if (!row) return undefined;
  const heard = new Map(seen.map(({ path, lastAt }) => [path, lastAt]));
  const delivery = deliveryAddress();
  const known = pages.slice(0, mostTried).map(({ path }) => path);
  const paths = known.length > 0 ? known : ["/"];
  const found = new Map<string, TagOnPageNow>();
  await forEach(paths, async (path) => void found.set(path, await lookAtTag(site, path, heard.get(path), delivery)));
  const page = await fetchPage(site, paths.includes("/") ? "/" : (paths[0] ?? "/"));
  const origin = lookOrigin(row);
  return {
    address:
      page.ok && page.status < 400
        ? { origin, ok: true, ...saidBy(page) }
        : { origin, ok: false, problem: whyNot(page) },
    pages: pages.length,
    tried: paths.flatMap((path) => found.get(path) ?? []),
  };
}

function saidBy(page: Fetched): { title: string; language: string | undefined; framed: boolean } {
  const document = parsePage(page.body);
  const [title] = (findAll("title", document) ?? []).map(textOf);
  const [html] = findAll("html", document) ?? [];
  const language = html && "attribs" in html ? html.attribs.lang : undefined;
  return { title: title ?? "", language: language || undefined, framed: isFramed(page) };
}

const whyNot = (page: Awaited<ReturnType<typeof fetchPage>>): string =>
  page.ok ? `The site answered ${page.status}.` : page.problem;

/** For so long a tag that was heard from is taken to be there still, in milliseconds. */
const fresh = 86_400_000;
/** Pages that the tag was heard from, which carry it no more as they are served, and were silent for a day. */
export async function lookForLostTags(site: string): Promise<Finding[]> {
  const [row, pages, seen] = await Promise.all([readSite(site), listPages(site), listTagSeen(site)]);
  if (row?.lookedBy !== "tag") return [];
  const heard = new Map(seen.map((page) => [page.path, Date.parse(page.lastAt)]));
  const silent = pages.filter(({ path }) => (heard.get(path) ?? Infinity) < now() - fresh).slice(0, mostTried);
  const lost: string[] = [];
  await forEach(silent, async ({ path }) => {
    const page = await fetchPage(site, path);
    if (page.ok && page.status < 400 && tagOf(page.body, site) !== "here") lost.push(path);
  });
  const [first, ...more] = silent.flatMap(({ path }) => (lost.includes(path) ? [path] : []));
  if (first === undefined) return [];
  const last = new Date(heard.get(first) ?? 0).toLocaleDateString("en-GB", { dateStyle: "long", timeZone: "UTC" });
  return [
    {
      finding: "tag-gone",
      proof: "searched",
      says: `${first}${more.length > 0 ? ` and ${more.length} more` : ""} no longer ${more.length > 0 ? "carry" : "carries"} the tag, and the last visitor’s page to ask there did so on ${last}. The page’s own content stands there`,
    },
  ];
}

async function lookAtTag(
  site: string,
  path: string,
  heardAt: string | undefined,
  delivery: string,
): Promise<TagOnPageNow> {
  const page = await fetchPage(site, path);
  const heard = heardAt === undefined ? {} : { heardAt };
  if (!page.ok || page.status >= 400) return { path, problem: whyNot(page), ...heard };
  const keptOut = keptOutOf(page, delivery);
  return { path, state: tagOf(page.body, site), ...heard, ...(keptOut.length > 0 ? { keptOut } : {}) };
}
