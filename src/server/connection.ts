/** Whether a site is connected: its address, its pages, its tag, and whether the tag was heard from. */
import { t } from "@/core/messages/t";
import { now } from "@/clock";
import type { Finding } from "@/core/analysis/findings";
import { isSilent, tagStanding, type TriedPage } from "@/core/preview/tag-standing";
import { shortInstantPhrase } from "@/core/rules/phrases";
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
import { keptOutOf, tagOf } from "./tag-on-page";
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

export interface Connection {
  /** The site's first page, or why it cannot be read. */
  address: { origin: string } & (
    { ok: true; title: string; language: string | undefined; framed: boolean } | { ok: false; problem: string }
  );
  /** How many pages are known. */
  pages: number;
  tried: TriedPage[];
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
  const known = pages.slice(0, mostTried).map(({ path }) => path);
  const paths = known.length > 0 ? known : ["/"];
  const tried = await lookAtTags(site, paths, heard);
  const page = await fetchPage(site, paths.includes("/") ? "/" : (paths[0] ?? "/"));
  const origin = lookOrigin(row);
  return {
    address:
      page.ok && page.status < 400
        ? { origin, ok: true, ...saidBy(page) }
        : { origin, ok: false, problem: whyNot(page) },
    pages: pages.length,
    tried,
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
  page.ok ? t("The site answered {status}.", { status: page.status }) : page.problem;

/**
 * Pages that the tag was heard from, which carry it no more as they are served, and were silent for a day.
 * @param zone in which it is said when it was last heard from
 */
export async function lookForLostTags(site: string, zone: string): Promise<Finding[]> {
  const [row, pages, seen] = await Promise.all([readSite(site), listPages(site), listTagSeen(site)]);
  if (row?.lookedBy !== "tag") return [];
  const at = now();
  const heard = new Map(seen.flatMap((page) => (isSilent(page.lastAt, at) ? [[page.path, page.lastAt]] : [])));
  const silent = pages.flatMap(({ path }) => (heard.has(path) ? [path] : [])).slice(0, mostTried);
  const { another, lost } = tagStanding(await lookAtTags(site, silent, heard), at);
  const [first, ...more] = [...lost, ...another];
  if (!first) return [];
  const last = shortInstantPhrase(Date.parse(first.heardAt ?? ""), zone);
  return [
    {
      finding: "tag-gone",
      proof: "searched",
      says: t(
        "{path}{more} no longer {more2} the tag, and the last visitor’s page to ask there did so on {last}. The page’s own content stands there",
        {
          path: first.path,
          more: more.length > 0 ? t(" and {more} more", { more: more.length }) : "",
          more2: more.length > 0 ? "carry" : "carries",
          last,
        },
      ),
    },
  ];
}

async function lookAtTags(
  site: string,
  paths: readonly string[],
  heard: ReadonlyMap<string, string>,
): Promise<TriedPage[]> {
  const delivery = deliveryAddress();
  const found = new Map<string, TriedPage>();
  await forEach(paths, async (path) => void found.set(path, await lookAtTag(site, path, heard.get(path), delivery)));
  return paths.flatMap((path) => found.get(path) ?? []);
}

async function lookAtTag(
  site: string,
  path: string,
  heardAt: string | undefined,
  delivery: string,
): Promise<TriedPage> {
  const page = await fetchPage(site, path);
  const heard = heardAt === undefined ? {} : { heardAt };
  if (!page.ok || page.status >= 400) return { path, problem: whyNot(page), ...heard };
  const keptOut = keptOutOf(page, delivery);
  return { path, state: tagOf(page.body, site), ...heard, ...(keptOut.length > 0 ? { keptOut } : {}) };
}
