/**
 * Selectors for parts of pages that survive small changes: what a page's makers name (ids, attributes, classes), what a part says
 * or leads to, and only where nothing else tells it from its like, its position.
 */

export interface Found {
  selector: string;
  /** Whether it counts positions: another part may stand there tomorrow. */
  byPosition: boolean;
}

/** The longest selector that is made: as long as a ruleset takes. */
const longest = 500;
/** So many selectors are tried before positions are counted: on a long page nobody waits. */
const mostTries = 2000;
/** How many of its ancestors a part is told by, at most. */
const farthest = 12;
/** Attributes that say what a thing is, most telling first. */
const telling = ["itemprop", "name", "aria-label", "role", "rel", "alt", "title", "for", "placeholder", "type"];
/** Data attributes that change with what happens on the page, or that are ours. */
const passing = /^data-(mirada|react|v-|ng|state|index|key|hydr|src|loaded|active|open|selected)/;
/** Landmarks: bare names of elements that say where something is. */
const landmarks = new Set(["header", "nav", "main", "aside", "footer", "article", "form", "dialog", "figure", "table"]);

/**
 * Whether a name is made of words, and so of somebody's: names that programs make (css-1q2w3e, sc-bdVaJa, :r1:) change with the
 * next build. Common practice of build tools; no standard says so.
 */
export function isOfWords(name: string): boolean {
  if (!/^[a-z][a-z0-9_-]*$/i.test(name) || /\d{3}/.test(name)) return false;
  const parts = name.split(/[-_]+|(?<=[a-z])(?=[A-Z])/).filter((part) => part !== "");
  return parts.every((part) => /^\d{1,2}$/.test(part) || (!/\d[a-z]|[a-z]\d[a-z]/i.test(part) && isWord(part)));
}
const isWord = (part: string): boolean =>
  /^[a-z]+\d{0,2}$/i.test(part) && !/[^aeiouy\d]{5}/i.test(part) && !/[a-z][A-Z]/.test(part) && part.length < 25;

const quoted = (text: string): string => `"${text.replace(/["\\]/g, "\\$&").replace(/\n/g, "\\a ")}"`;
const isShort = (text: string | null): text is string => text !== null && text.trim() !== "" && text.length <= 120;

/** What a file is called, without what builds put into its name and without its query. */
function fileOf(src: string): string | undefined {
  const name = /([^/?#]+)(?:[?#].*)?$/.exec(src)?.[1];
  if (!name || src.startsWith("data:")) return undefined;
  const [stem = "", ...hashed] = name.split(".");
  return hashed.length > 1 || !isOfWords(stem) ? undefined : stem;
}

/** Compound selectors that an element answers to, without positions: those that tell most first. `bare`: also its mere name. */
export function namesOf(element: Element, bare: boolean): string[] {
  const tag = element.localName;
  const out: string[] = [];
  const { id } = element;
  if (id && isOfWords(id)) out.push(`#${CSS.escape(id)}`);
  for (const { name, value } of element.attributes)
    if (
      name.startsWith("data-") &&
      !passing.test(name) &&
      isShort(value) &&
      (isOfWords(value) || /test|id$/.test(name))
    )
      out.push(`[${name}=${quoted(value)}]`);
  const href = element.localName === "a" ? element.getAttribute("href") : null;
  if (isShort(href) && !href.includes("#mirada")) out.push(`a[href=${quoted(href)}]`);
  for (const name of telling) {
    const value = element.getAttribute(name);
    if (isShort(value)) out.push(`${tag}[${name}=${quoted(value)}]`);
  }
  const src = element.localName === "img" ? element.getAttribute("src") : null;
  const file = src === null ? undefined : fileOf(src);
  if (file) out.push(`img[src*=${quoted(`/${file}.`)}]`);
  const classes = [...element.classList];
  for (const name of classes) if (isOfWords(name)) out.push(`${tag}.${CSS.escape(name)}`);
  // Of Card_title__x7Qz1 the build makes the end anew, the rest is somebody's.
  for (const name of classes) {
    const kept = /^([A-Za-z][\w-]*?[A-Za-z]__)[\w-]{4,8}$/.exec(name)?.[1];
    if (kept) out.push(`${tag}[class*=${quoted(kept)}]`);
  }
  if (bare || landmarks.has(tag)) out.push(tag);
  return out;
}

/** What an element has in it that tells it from its like: a link, a picture, a name. */
function contentsOf(element: Element): string[] {
  const out = new Set<string>();
  for (const inner of [...element.querySelectorAll("a[href], img[src], [id], [name]")].slice(0, 12))
    for (const name of namesOf(inner, false)) if (/^(#|a\[href|img\[|\w+\[name)/.test(name)) out.add(name);
  return [...out].slice(0, 6);
}

export const pathWithin = (element: Element, root: ParentNode): Element[] => {
  const out: Element[] = [];
  for (let next = element.parentElement; next && next !== root && next.localName !== "html"; next = next.parentElement)
    if (next.localName !== "body") out.push(next);
  return out.slice(0, farthest);
};

/**
 * A selector that finds one element of a page, or within a part of it.
 * @param root what is searched: the document, or an element whose descendants are
 * @param alike other parts like that one, in each of which it has to find one element, too
 * @returns undefined: nothing tells it apart, or only what is too long
 */
export function selectorOf(element: Element, root: ParentNode, alike: readonly ParentNode[] = []): Found | undefined {
  let tries = 0;
  const isIt = (selector: string): boolean => {
    if (selector.length > longest || ++tries > mostTries) return false;
    try {
      const found = root.querySelectorAll(selector);
      return (
        found.length === 1 &&
        found[0] === element &&
        alike.every((other) => other.querySelectorAll(selector).length === 1)
      );
    } catch {
      return false;
    }
  };
  const sure = (selector: string): Found => ({ selector, byPosition: false });
  const own = namesOf(element, true);
  // Its mere name is enough where it stands for itself: one h1, one main.
  const alone = own.find((name) => isIt(name) && (name !== element.localName || /^(h1|main|form|footer)$/.test(name)));
  if (alone) return sure(alone);
  const around = pathWithin(element, root).map((ancestor) => namesOf(ancestor, false));
  const twos = around.flat().flatMap((outer) => own.map((inner) => `${outer} ${inner}`));
  const two = twos.find(isIt);
  if (two) return sure(two);
  const name = element.localName;
  if (isIt(name)) return sure(name);
  // A card is known by what is in it: .card:has(a[href="/ferns"]) h3
  for (const ancestor of [element, ...pathWithin(element, root)]) {
    const [outer = ancestor.localName] = namesOf(ancestor, true);
    for (const inner of contentsOf(ancestor))
      for (const end of ancestor === element ? [""] : own.map((one) => ` ${one}`)) {
        const selector = `${outer}:has(${inner})${end}`;
        if (isIt(selector)) return sure(selector);
      }
  }
  for (const [index, outers] of around.entries())
    for (const outer of around.slice(index + 1).flat())
      for (const inner of outers) {
        const three = own.map((one) => `${outer} ${inner} ${one}`).find(isIt);
        if (three) return sure(three);
      }
  tries = 0;
  return byPosition(element, root, isIt);
}

/** Steps down by position, from the nearest ancestor that is found without. */
function byPosition(element: Element, root: ParentNode, isIt: (selector: string) => boolean): Found | undefined {
  let steps = "";
  for (let here: Element | null = element; here && here !== root; here = here.parentElement) {
    const parent: Element | null = here.parentElement;
    const tag = here.localName;
    const like = parent ? [...parent.children].filter((other) => other.localName === tag) : [];
    const step = like.length > 1 ? `${tag}:nth-of-type(${like.indexOf(here) + 1})` : tag;
    steps = steps === "" ? step : `${step} > ${steps}`;
    const start = parent && parent !== root && parent.localName !== "body" ? namesOf(parent, false)[0] : undefined;
    // Within a part of a page, from that part on: what lies deeper is no like of it.
    const within = parent !== null && parent === root ? [`:scope > ${steps}`] : [];
    for (const selector of [...(start ? [`${start} > ${steps}`] : []), ...within, steps])
      if (isIt(selector)) return { selector, byPosition: /:nth-/.test(selector) };
  }
  return undefined;
}
