/** The parts of a page as people see them: headings, texts, buttons, links, pictures, and the blocks that they stand in. */
import type { Part, PartKind } from "@/core/preview/messages";
import { seenText } from "./own";
import { selectorOf } from "./selectors";

/** Elements that only set off words within a text. */
const wordsOnly = "b,strong,em,i,u,s,span,small,sup,sub,mark,code,abbr,time,br,wbr,q,cite,kbd,bdi,font";
/** What nobody sees or can point at. */
const unseen = "script,style,template,noscript,link,meta,head,title,br,wbr,option,source,track,param,svg *";
const mostParts = 200;

const isButton = (element: Element): boolean =>
  element.matches("button,[role=button],input[type=submit],input[type=button]") ||
  (element.localName === "a" && /(^|[-_\s])(btn|button|cta)([-_\s]|$)/i.test(element.getAttribute("class") ?? ""));

/** Whether all that is in an element is one text. */
const isText = (element: Element): boolean =>
  seenText(element) !== "" &&
  [...element.querySelectorAll("*")].every((inner) => inner.matches(wordsOnly) && !isButton(inner)) &&
  [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent?.trim() !== "");

export function kindOf(element: Element): PartKind {
  if (element.localName === "img") return "picture";
  if (isButton(element)) return "button";
  if (element.localName === "a") return "link";
  if (element.matches("h1,h2,h3,h4,h5,h6,[role=heading]")) return "heading";
  return isText(element) ? "text" : "block";
}

const kindNames: Record<Exclude<PartKind, "block">, string> = {
  heading: "Heading",
  text: "Text",
  button: "Button",
  link: "Link",
  picture: "Picture",
};
const blockNames: Record<string, string> = {
  header: "Header",
  nav: "Navigation",
  main: "Main part",
  footer: "Footer",
  aside: "Aside",
  article: "Article",
  section: "Section",
  form: "Form",
  ul: "List",
  ol: "List",
  li: "Entry",
  table: "Table",
  figure: "Figure",
  iframe: "Frame",
  body: "The whole page",
};
const short = (text: string): string => (text.length > 48 ? `${text.slice(0, 46).trimEnd()} …` : text);

/** What people would call a part: Heading “Rooms with a view”. */
export function nameOf(element: Element): string {
  const kind = kindOf(element);
  const [inside, ...more] = kind === "block" ? element.querySelectorAll("h1,h2,h3,h4,h5,h6") : [];
  const words =
    kind === "picture"
      ? (element.getAttribute("alt") ?? "").trim()
      : element.localName === "input"
        ? ((element as HTMLInputElement).value ?? "")
        : inside
          ? seenText(inside)
          : kind === "block" && element.localName !== "li"
            ? element.localName === "iframe"
              ? (element.getAttribute("title") ?? "").trim()
              : ""
            : seenText(element);
  const what =
    kind === "block"
      ? (blockNames[element.localName] ?? (element.localName.includes("-") ? "Component" : "Block"))
      : kindNames[kind];
  if (words === "") return what;
  // What holds several is told from the first of them by their number.
  const rest = more.length > 0 ? ` and ${more.length} more` : "";
  return inside ? `${what} with “${short(words)}”${rest}` : `${what} “${short(words)}”`;
}

/** What a part has that a variant can change. */
export function heldBy(element: Element): Omit<Part, "part"> {
  const kind = kindOf(element);
  const href = element.localName === "a" ? element.getAttribute("href") : null;
  const src = element.localName === "img" ? element.getAttribute("src") : null;
  const alt = element.getAttribute("alt");
  const text = isText(element) ? seenText(element) : undefined;
  return {
    kind,
    name: nameOf(element).slice(0, 300),
    ...(text !== undefined && text.length <= 20_000 ? { text } : {}),
    ...(href !== null && href.length <= 4000 ? { link: href } : {}),
    ...(src !== null && src.length <= 4000
      ? { image: { src, ...(alt === null ? {} : { alt: alt.slice(0, 1000) }) } }
      : {}),
  };
}

/** Whether an element can be pointed at. */
export const isPart = (element: Element): element is HTMLElement =>
  element instanceof HTMLElement && !element.matches(unseen) && element !== document.documentElement;

/**
 * The parts of a place that a variant can change, in their order there.
 * @param alike further places of the same slot: parts that one of them has not, or twice, are none
 */
export function partsOf(place: Element, alike: readonly Element[] = []): Part[] {
  const out: Part[] = [];
  const add = (element: Element): void => {
    const held = heldBy(element);
    if (held.text === undefined && held.link === undefined && held.image === undefined) return;
    const part = element === place ? "" : selectorOf(element, place, alike)?.selector;
    if (part === undefined || out.length >= mostParts) return;
    const others = alike.map((other) => (part === "" ? other : other.querySelector(part)));
    const differs = held.text !== undefined && others.some((other) => other && seenText(other) !== held.text);
    out.push({ part, ...held, ...(differs ? { differs: true } : {}) });
  };
  const walk = (element: Element): void => {
    if (!isPart(element)) return;
    add(element);
    if (!isText(element)) for (const child of element.children) walk(child);
  };
  walk(place);
  return out;
}
