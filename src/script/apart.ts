/** Parts of a page that draw themselves apart (open shadow roots, DOM Standard): how one gets in, and out again. */

/** What an element lies in, beyond the part that draws itself apart, too. */
export const parentOf = (element: Element): Element | null => element.parentElement ?? hostOf(element) ?? null;

/** The element that draws this one apart from the page; undefined: it stands in the page itself. */
export function hostOf(element: Element): Element | undefined {
  const root = element.getRootNode();
  return root instanceof ShadowRoot ? root.host : undefined;
}

/** What of the page itself an element is drawn in; itself, where it stands in the page. */
export function outermost(element: Element): Element {
  const host = hostOf(element);
  return host ? outermost(host) : element;
}

/** The element at a point of the window, within what draws itself apart, too. */
export function elementAt(x: number, y: number): Element | null {
  let found = document.elementFromPoint(x, y);
  for (;;) {
    const inner = found?.shadowRoot?.elementFromPoint(x, y);
    // A root that has nothing there answers with what holds it.
    if (!inner || inner === found) return found;
    found = inner;
  }
}

/** What lies in an element, in the order of the page: what it draws apart comes before what was put into it. */
export const childrenOf = (element: Element): Element[] => [
  ...(element.shadowRoot?.children ?? []),
  ...element.children,
];

/** Whether one element lies in another, or is it. */
export const liesIn = (element: Element | null, other: Element): boolean =>
  element !== null && (element === other || liesIn(parentOf(element), other));

/** All elements in another, in the order of the page. */
export const allIn = (element: Element): Element[] => childrenOf(element).flatMap((child) => [child, ...allIn(child)]);

/**
 * Whether an element draws itself apart and lets nobody in: one with a name of its own (HTML, “Valid custom element names”) that
 * shows more than it holds.
 */
export const isClosed = (element: Element): boolean =>
  element.localName.includes("-") &&
  element.shadowRoot === null &&
  element.children.length === 0 &&
  (element.textContent ?? "").trim() === "" &&
  element.getBoundingClientRect().height > 0;
