/** Which values a ruleset collects from pages, of which kind, and where pages commonly have them. */
import { t } from "../messages/t";
import { exponentOf } from "../money/currency";
import { collectable, type Collect } from "../formats/collect";
import type { Ruleset } from "../formats/ruleset";
import { fixedSignals, signalName } from "../visit/signals";
import type { Source } from "./gather";
import type { ValueKind } from "./values";

type Fields = Pick<Ruleset, "dataFields">;

/** The kind of what can be collected; undefined: it cannot, or is no declared data field. */
export function kindOfSignal(signal: string, { dataFields }: Fields): ValueKind | undefined {
  const page = collectable.find((name) => name === signal);
  if (page) return fixedSignals[page].kind as ValueKind;
  return dataFields.find((field) => `${field.signal}.${field.name}` === signal)?.kind;
}

/** By this name the worth of a goal is read from a page, beside the signals. */
export const worthSignal = (goal: string): string => `goal.${goal}`;
/** Whether a name is that of a goal's worth. */
export const isWorth = (signal: string): boolean => signal.startsWith("goal.");
const digitsOf = ({ currency }: Pick<Ruleset["site"], "currency">): number => exponentOf(currency) ?? 2;

/** What can be collected of a site, with its name as rules have it: what is mostly wanted first. */
export const allCollectable = ({ dataFields }: Fields): { signal: string; name: string }[] => [
  ...[...collectable]
    .sort((a, b) => Number(b.startsWith("cart.")) - Number(a.startsWith("cart.")))
    .map((signal) => ({ signal: signal as string, name: signalName(signal, t(fixedSignals[signal].label)) })),
  ...dataFields.map(({ signal, name }) => ({
    signal: `${signal}.${name}`,
    name: `${name}, ${signal === "data" ? t("of the visitor") : t("of the page")}`,
  })),
];

export const nameOfSignal = (signal: string, ruleset: Fields): string =>
  allCollectable(ruleset).find((item) => item.signal === signal)?.name ?? signal;

/** An entry made ready for pages, or where a goal's worth is read; undefined: its signal cannot be collected. */
export function sourceOf(
  { signal, from, decimal }: Collect,
  ruleset: Pick<Ruleset, "dataFields" | "site">,
): Source | undefined {
  const kind = isWorth(signal) ? "money" : kindOfSignal(signal, ruleset);
  if (!kind) return undefined;
  return {
    signal,
    from,
    kind,
    ...(decimal ? { decimal } : {}),
    ...(kind === "money" ? { digits: digitsOf(ruleset.site) } : {}),
  };
}
export const sourcesOf = (ruleset: Pick<Ruleset, "collect" | "dataFields" | "site">): Source[] =>
  ruleset.collect.flatMap((entry) => sourceOf(entry, ruleset) ?? []);

/** What is read from a page that is looked at through a lens: what its goals are worth, too. */
export const lookSources = (ruleset: Pick<Ruleset, "collect" | "dataFields" | "site" | "goals">): Source[] => [
  ...sourcesOf(ruleset),
  ...ruleset.goals.flatMap(
    ({ id, worth }) => (worth && sourceOf({ signal: worthSignal(id), ...worth }, ruleset)) ?? [],
  ),
];

/** Where a value stands, in words. */
export const fromWords = ({ from }: Pick<Collect, "from">): string =>
  "jsonLd" in from
    ? t("from the linked data, {jsonLd}", { jsonLd: from.jsonLd })
    : "objects" in from
      ? t("from the data objects {objects}, {key}", { objects: from.objects, key: from.key })
      : t("from {selector}{attribute}", {
          selector: from.selector,
          attribute: from.attribute ? t(", its {attribute}", { attribute: from.attribute }) : "",
        });

const meta = (name: string) => ({ selector: `meta[property="${name}"], meta[name="${name}"]`, attribute: "content" });
const item = (type: string, property: string) => ({ selector: `[itemtype$="/${type}"] [itemprop~="${property}"]` });
/**
 * Where pages commonly have what can be collected, by open standards: HTML’s `lang`, metadata (the Open Graph protocol; WHATWG,
 * standard metadata names), and schema.org’s Product, Article and BreadcrumbList as JSON-LD or microdata.
 */
export const standardSources: readonly Collect[] = [
  { signal: "page.category", from: { jsonLd: "Product.category" } },
  { signal: "page.category", from: item("Product", "category") },
  { signal: "page.category", from: { jsonLd: "Article.articleSection" } },
  { signal: "page.category", from: { jsonLd: "BlogPosting.articleSection" } },
  { signal: "page.category", from: { jsonLd: "NewsArticle.articleSection" } },
  { signal: "page.category", from: meta("article:section") },
  { signal: "page.category", from: meta("product:category") },
  { signal: "page.category", from: { jsonLd: "BreadcrumbList.itemListElement.-2.name" } },
  { signal: "page.category", from: { jsonLd: "BreadcrumbList.itemListElement.-2.item.name" } },
  { signal: "page.id", from: { jsonLd: "Product.sku" } },
  { signal: "page.id", from: { jsonLd: "Product.productID" } },
  { signal: "page.id", from: item("Product", "sku") },
  { signal: "page.tags", from: { jsonLd: "Article.keywords" } },
  { signal: "page.tags", from: meta("article:tag") },
  { signal: "page.tags", from: meta("keywords") },
  { signal: "page.language", from: { selector: "html", attribute: "lang" } },
];
/** What of a page a data field may be made of: a number or text that open standards give it. */
export const standardData: readonly { name: string; kind: "number" | "text"; from: Collect["from"] }[] = [
  { name: "price", kind: "number", from: { jsonLd: "Product.offers.price" } },
  { name: "price", kind: "number", from: { jsonLd: "Product.offers.lowPrice" } },
  { name: "price", kind: "number", from: item("Product", "price") },
  { name: "price", kind: "number", from: meta("product:price:amount") },
  { name: "availability", kind: "text", from: { jsonLd: "Product.offers.availability" } },
  { name: "brand", kind: "text", from: { jsonLd: "Product.brand.name" } },
  { name: "rating", kind: "number", from: { jsonLd: "Product.aggregateRating.ratingValue" } },
];
