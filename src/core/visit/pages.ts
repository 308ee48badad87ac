/** What a site tells of its pages belongs to the page, not to the visitor: it follows the address. */
import type { Visit } from "../formats/visit";
import { readablePath } from "./url";

/** What a site tells of its pages, by path. */
export type PageFacts = ReadonlyMap<string, Visit["page"]>;

export const factsByPath = (pages: readonly { path: string; facts: Visit["page"] }[]): PageFacts =>
  new Map(pages.map((page) => [page.path, page.facts]));

/** A visit with what is told of the page at its address, and of no other. */
export function onPage(visit: Visit, facts: PageFacts): Visit {
  const { page: _page, ...rest } = visit;
  const page = facts.get(readablePath(new URL(visit.url).pathname));
  return page ? { ...rest, page } : rest;
}
