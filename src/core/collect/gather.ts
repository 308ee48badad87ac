/** What a page tells of itself, its cart and its data, gathered from where it stands. It runs in visitors' pages. */
import type { CollectFrom } from "../formats/collect";
import { follow, inJsonLd } from "./json-ld";
import { readValue, type Value, type ValueKind } from "./values";

/** An entry of a ruleset's `collect`, made ready for a page. */
export interface Source {
  signal: string;
  from: CollectFrom;
  kind: ValueKind;
  decimal?: "." | ",";
  /** Decimals of the site's currency, for money. */
  digits?: number;
}
/** How a page is read: in a browser, or as a server got it. */
export interface PageReader {
  /** What the elements say that a selector finds, or an attribute of them, in their order. */
  texts: (selector: string, attribute: string | undefined) => string[];
  /** The page's linked data, document by document. */
  jsonLd: () => unknown[];
  /** A list of data objects in the page's scripts; undefined: there is none, or it cannot be known here. */
  objects: (name: string) => readonly unknown[] | undefined;
}
/**
 * What an element says: what it carries for machines (HTML, microdata values), what was typed into it, else its text.
 */
export const saidBy = (element: {
  get: (attribute: string) => string | null | undefined;
  typed?: string;
  text: () => string;
}): string =>
  element.get("content") ?? element.get("datetime") ?? element.typed ?? element.get("value") ?? element.text();

export interface Told {
  page?: Record<string, unknown>;
  cart?: { lines: { sku: string; quantity: number; unitPrice: number }[] };
  data?: Record<string, unknown>;
}

/** The value of one source on a page; undefined: the page does not have it. */
export function valueOf({ from, kind, decimal }: Source, page: PageReader): Value | undefined {
  const first = (raws: readonly unknown[]) => {
    for (const raw of raws) {
      const value = readValue(raw, kind, decimal);
      if (value !== undefined) return value;
    }
    return undefined;
  };
  if ("jsonLd" in from) return first([inJsonLd(page.jsonLd(), from.jsonLd)]);
  if ("objects" in from)
    return first((page.objects(from.objects) ?? []).map((item) => follow(item, from.key.split("."))).reverse());
  const texts = page.texts(from.selector, from.attribute);
  return kind === "texts" ? readValue(texts, kind) : first(texts);
}

/** The value of each source, by its signal: the first source that has one counts. */
export function gather(sources: readonly Source[], page: PageReader): Map<string, Value> {
  const out = new Map<string, Value>();
  for (const source of sources) {
    if (out.has(source.signal)) continue;
    const value = valueOf(source, page);
    if (value !== undefined) out.set(source.signal, value);
  }
  return out;
}

/** A cart of which only the value (in major units) and the number of things are known; undefined: not even the value. */
export function cartOf(subtotal: unknown, count: unknown, digits: number): Told["cart"] {
  if (typeof subtotal !== "number" || !(subtotal >= 0)) return undefined;
  const unitPrice = Math.round(subtotal * 10 ** digits);
  const more = typeof count === "number" && Number.isInteger(count) ? count - 1 : 0;
  if (unitPrice === 0 && more < 0) return { lines: [] };
  if (unitPrice === 0 && count === undefined) return { lines: [] };
  // What the things are is not known: one line has the value, another the rest of the number.
  const rest = more > 0 ? [{ sku: "more", quantity: more, unitPrice: 0 }] : [];
  return { lines: [{ sku: "cart", quantity: 1, unitPrice }, ...rest] };
}

/** Gathered values as a visit tells them. */
export function asTold(values: ReadonlyMap<string, Value>, sources: readonly Source[]): Told {
  const page: Record<string, unknown> = {};
  const pageData: Record<string, unknown> = {};
  const data: Record<string, unknown> = {};
  for (const [signal, value] of values)
    if (signal.startsWith("page.data.")) pageData[signal.slice(10)] = value;
    else if (signal.startsWith("data.")) data[signal.slice(5)] = value;
    else if (signal.startsWith("page.")) page[signal.slice(5)] = value;
  const digits = sources.find((source) => source.digits !== undefined)?.digits ?? 2;
  const cart = cartOf(values.get("cart.subtotal"), values.get("cart.count"), digits);
  const any = (object: object) => Object.keys(object).length > 0;
  if (any(pageData)) page.data = pageData;
  return { ...(any(page) ? { page } : {}), ...(cart ? { cart } : {}), ...(any(data) ? { data } : {}) };
}
