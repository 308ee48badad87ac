/** What a site tells of its pages belongs to the page, not to the visitor: it follows the address. */
import { asTold } from "../collect/gather";
import type { Value } from "../collect/values";
import type { Visit } from "../formats/visit";
import { readablePath } from "../visit/url";

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

/** What was read from a page, by signal. */
export type ReadValues = Readonly<Record<string, Value>>;

/** Facts of pages with what was read from pages that were opened: of those that scripts draw it is known only then. */
export function withTold(facts: PageFacts, told: ReadonlyMap<string, ReadValues>): PageFacts {
  const out = new Map(facts);
  for (const [path, values] of told) {
    const { page } = asTold(new Map(Object.entries(values)), []);
    if (page) out.set(path, { ...out.get(path), ...page });
  }
  return out;
}
