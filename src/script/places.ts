/**
 * Where the places of slots are: in the page, and in its parts that draw themselves apart (open shadow roots, DOM Standard, “Shadow
 * trees”).
 */
type Root = Document | ShadowRoot;
const entered = new Set<ShadowRoot>();
const marked = "[data-mirada-slot]";

/** The page, and what was entered of it and is still there. */
export const roots = (): Root[] => [document, ...entered].filter((root) => root.isConnected);

/** The places that stand marked on the page now. @param which what else they answer to, as a selector */
export const placesHere = (which = ""): HTMLElement[] =>
  roots().flatMap((root) => [...root.querySelectorAll<HTMLElement>(marked + which)]);
export const placesOf = (slot: string, which = ""): HTMLElement[] =>
  placesHere(`[data-mirada-slot="${CSS.escape(slot)}"]${which}`);

/**
 * Everything that a selector finds.
 * @param within selectors of the elements in whose open shadow roots it is looked for, from the outermost on
 * @throws for a selector that this browser does not take
 */
export function findThere(selector: string, within: readonly string[] = []): Element[] {
  let there: Root[] = [document];
  for (const host of within)
    there = there.flatMap((root) => [...root.querySelectorAll(host)].flatMap(({ shadowRoot }) => shadowRoot ?? []));
  for (const root of there) if (root instanceof ShadowRoot) entered.add(root);
  return there.flatMap((root) => [...root.querySelectorAll(selector)]);
}
