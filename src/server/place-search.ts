/** Whether a selector finds its place on the pages of a site, as the server gets them: without what scripts draw. */
import { selectAll } from "css-select";

import { parseDocument } from "htmlparser2";
import { selectorProblem } from "@/core/formats/selector";
import { listPages } from "@/data/pages";
import { fetchPage } from "./ask-page";

type Nodes = ReturnType<typeof parseDocument>["children"];

/** How often a selector was found on a page; `found` null: the page could not be read. */
export interface PlaceOnPage {
  path: string;
  title: string;
  found: number | null;
}
export interface PlaceSearch {
  pages: PlaceOnPage[];
  /** Pages of the site that were not tried, because they are too many. */
  untried: number;
}

const mostPages = 60;
const atOnce = 6;
/** How long a page is believed to stay as it was read, in milliseconds. */
const believed = 60_000;
const mostKept = 300;
const longest = 3_000_000;
const kept = new Map<string, { document: Promise<Nodes | undefined>; until: number }>();

function read(site: string, path: string): Promise<Nodes | undefined> {
  const key = `${site} ${path}`;
  const known = kept.get(key);
  if (known && known.until > performance.now()) return known.document;
  const document = fetchPage(site, path).then(
    (page) =>
      page.ok && page.status === 200 && page.body.length <= longest ? parseDocument(page.body).children : undefined,
    () => undefined,
  );
  if (kept.size >= mostKept) kept.clear();
  kept.set(key, { document, until: performance.now() + believed });
  return document;
}

/** Tries a selector on the pages of a site. @returns what is wrong with the selector, in words, if anything is */
export async function searchPlace(site: string, selector: string): Promise<PlaceSearch | { problem: string }> {
  const wrong = selectorProblem(selector);
  if (wrong) return { problem: `This ${wrong}.` };
  const all = await listPages(site);
  const tried = all.slice(0, mostPages);
  const pages: PlaceOnPage[] = [];
  const waiting = [...tried];
  const work = async () => {
    for (let page = waiting.shift(); page; page = waiting.shift()) {
      const document = await read(site, page.path);
      let found: number | null = null;
      try {
        found = document ? selectAll(selector, document).length : null;
      } catch {
        // A selector that browsers know and this reader does not: nothing is said of it.
      }
      pages.push({ path: page.path, title: page.title, found });
    }
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  const order = new Map(tried.map((page, index) => [page.path, index]));
  pages.sort((a, b) => (order.get(a.path) ?? 0) - (order.get(b.path) ?? 0));
  return { pages, untried: all.length - tried.length };
}
