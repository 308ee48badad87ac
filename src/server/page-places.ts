/** A page as the server gets it, and where slots are on it: without what scripts draw. */
import { selectAll } from "css-select";
import { DomUtils, parseDocument } from "htmlparser2";
import type { SlotPlace } from "@/core/formats/ruleset";
import { spaced } from "@/core/text/spaced";

export type PageNodes = ReturnType<typeof parseDocument>["children"];
export type PageNode = PageNodes[number];

export const parsePage = (html: string): PageNodes => parseDocument(html).children;

/** What a selector finds; undefined: this reader does not know it, browsers may. */
export function findAll(selector: string, within: PageNodes | PageNode): PageNode[] | undefined {
  try {
    return selectAll(selector, within);
  } catch {
    return undefined;
  }
}

/**
 * The places of a slot on a page: those that it marks, else those that its selector finds.
 * @returns undefined: only a browser can tell, since they lie in what draws itself apart, or are found by what this reader does not know
 */
export function placesOf(
  page: PageNodes,
  { id, at }: { id: string; at?: Pick<SlotPlace, "selector" | "within"> | undefined },
): PageNode[] | undefined {
  const marked = findAll(`[data-mirada-slot="${id}"]`, page);
  if (marked?.length || at === undefined) return marked;
  return at.within ? undefined : findAll(at.selector, page);
}

/** The text of an element as people see it. */
export const textOf = (node: PageNode): string => spaced(DomUtils.textContent(node));

/** A page with less text than this, in characters, is taken to be drawn in the browser: the server cannot tell what stands there. */
const drawn = 100;
export const isDrawnInBrowser = (page: PageNodes): boolean => spaced(DomUtils.innerText(page)).length < drawn;
