/** What a page itself has in a slot's place, with changes: all of a version's changes, or none, so that no page is ever half of one. */
import { spaced } from "@/core/text/spaced";

export interface OwnChange {
  /** A selector within the place that finds exactly one element; "": the place itself. */
  part: string;
  /** The text that stood there when the change was made. */
  was?: string;
  text?: string;
  link?: string;
  image?: { src: string; alt?: string };
  hidden?: true;
}

/** Only web, mail and telephone addresses, and the page's own, lead anywhere. */
export const safe = (link: string): boolean => /^(https?:\/\/|mailto:|tel:|\/(?!\/)|#)/i.test(link);

/** The text of an element as people see it. */
export const seenText = (element: Element): string => spaced(element.textContent ?? "");

/** The one element that a change is for; undefined: there is none, or several, or something else stands there now. */
function find(place: HTMLElement, change: OwnChange): HTMLElement | undefined {
  let found: Element[];
  try {
    found = change.part === "" ? [place] : [...place.querySelectorAll(change.part)];
  } catch {
    return undefined;
  }
  const [element] = found;
  if (found.length !== 1 || !(element instanceof HTMLElement)) return undefined;
  if (change.was !== undefined && seenText(element) !== spaced(change.was)) return undefined;
  if (change.link !== undefined && !(element instanceof HTMLAnchorElement && safe(change.link))) return undefined;
  if (change.image !== undefined && !(element instanceof HTMLImageElement && safe(change.image.src))) return undefined;
  return element;
}

const hide = (element: HTMLElement): void => element.style.setProperty("display", "none", "important");

/** Sets attributes, and gives back what takes that back. */
function setAttributes(element: Element, values: Record<string, string | null>): () => void {
  const before = Object.fromEntries(Object.keys(values).map((name) => [name, element.getAttribute(name)]));
  const put = (all: Record<string, string | null>) => {
    for (const [name, value] of Object.entries(all))
      if (value === null) element.removeAttribute(name);
      else element.setAttribute(name, value);
  };
  put(values);
  return () => put(before);
}

/**
 * Applies the changes of a version to the page's own content.
 * @returns what takes them back; undefined: the page has changed under the version, and nothing was done
 */
export function applyOwn(place: HTMLElement, changes: readonly OwnChange[]): (() => void) | undefined {
  const found = changes.map((change) => ({ change, element: find(place, change) }));
  if (found.some(({ element }) => element === undefined)) return undefined;
  const undo: (() => void)[] = [];
  for (const { change, element } of found as { change: OwnChange; element: HTMLElement }[]) {
    if (change.text !== undefined) {
      const before = [...element.childNodes];
      element.textContent = change.text;
      undo.push(() => element.replaceChildren(...before));
    } else if (change.link !== undefined) undo.push(setAttributes(element, { href: change.link }));
    else if (change.image !== undefined) {
      // Other sizes of the old picture would be taken instead of the new one.
      for (const source of element.parentElement?.tagName === "PICTURE"
        ? element.parentElement.querySelectorAll("source")
        : [])
        undo.push(setAttributes(source, { srcset: null, media: "not all" }));
      undo.push(
        setAttributes(element, {
          src: change.image.src,
          srcset: null,
          ...(change.image.alt === undefined ? {} : { alt: change.image.alt }),
        }),
      );
    } else undo.push(hidden(element));
  }
  return () => undo.reverse().forEach((step) => step());
}

/** Takes an element away. @returns what brings it back */
export function hidden(element: HTMLElement): () => void {
  const before = element.getAttribute("style");
  hide(element);
  return () => (before === null ? element.removeAttribute("style") : element.setAttribute("style", before));
}
