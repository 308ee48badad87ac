/** Edits in words: where in the draft, and what stood there before and after. For the audit trail and for stale saves. */
import { said, t, text } from "../messages/t";
import type { Rule } from "../formats/rule";
import { capWords, opensWords } from "../decision/popup-words";
import type { Offer, PlaceEntry, Popup } from "../formats/ruleset";
import type { SiteDraft } from "../formats/site-draft";
import { joinParts } from "../rules/phrases";
import { placesPhrase, ruleText, type SentenceNames } from "../rules/sentence";
import { same, type Edit, type EditPath } from "./edit";

/** What edits change, by place: a path with its keys joined by "/". */
export interface ChangedPlaces {
  before: Record<string, unknown>;
  after: Record<string, unknown>;
}

/** The places that edits change, with what stood there before the first and stands there after the last of them. */
export function changedPlaces(edits: readonly Edit[]): ChangedPlaces {
  const out: ChangedPlaces = { before: {}, after: {} };
  const put = (path: EditPath, before: unknown, after: unknown) => {
    const key = path.join("/");
    if (!(key in out.before)) out.before[key] = before ?? null;
    out.after[key] = after ?? null;
  };
  for (const edit of edits)
    if (edit.do === "set") put(edit.at, edit.before, edit.after);
    else if (edit.do === "move") put([...edit.list, edit.id, "order"], `${edit.from + 1}`, `${edit.to + 1}`);
    else {
      const at = [...edit.list, edit.item.id];
      if (edit.do === "insert") put(at, null, edit.item);
      else put(at, edit.item, null);
    }
  // What came out as it had been is no change.
  for (const key of Object.keys(out.before))
    if (same(out.before[key], out.after[key])) {
      delete out.before[key];
      delete out.after[key];
    }
  return out;
}

const listNames: Record<string, string> = said({
  slots: text("Slot"),
  variants: "variant",
  audiences: text("Audience"),
  placeLists: text("Place list"),
  markers: text("Marker"),
  popups: "Pop-up",
  offers: text("Offer"),
  redirects: text("Redirect"),
  goals: text("Goal"),
  library: text("Block"),
  picks: text("Pick"),
  blockTypes: text("Kind of block"),
  site: text("Settings"),
  dataFields: text("Own data"),
  collect: text("What is read from pages"),
  wordParameters: text("Search words"),
  searchSources: text("Search engines"),
});
const partNames: Record<string, string> = said({
  rule: text("its rule"),
  pages: text("its pages"),
  at: text("where on the page it is"),
  changes: text("what is changed of the page’s own"),
  on: text("switched on"),
  name: text("its name"),
  rememberDays: text("days remembered"),
  take: text("how many it shows"),
  order: text("its place in the order"),
  fallback: text("the fallback"),
  content: "",
  arms: "",
  fields: "",
  tokens: text("the values it names"),
  signal: "what is put in",
  zone: text("the time zone"),
  currency: text("the currency"),
  language: text("the language"),
  origin: text("the address"),
  goal: text("the goal by which it is read"),
  holdout: text("the share that sees no variant"),
  way: text("how it is reached"),
  value: text("what it is worth"),
  worth: text("where the page says what it is worth"),
  largestValue: text("the largest value that counts"),
  popupGapMinutes: text("the minutes between pop-ups"),
  gain: text("when it is gained"),
  gainViews: text("the page views that it takes"),
  lose: text("when it is lost"),
  days: text("the days for which it is held"),
  setFrom: text("gained from"),
  setUntil: text("gained until"),
  places: text("its places"),
  weight: text("its share"),
  opensAfter: text("when it opens"),
  size: text("its size"),
  cap: text("how often it opens"),
  threshold: text("the threshold"),
  scope: text("what it counts and takes from"),
  reward: text("what it gives"),
  label: text("its label"),
  combines: text("going together with others"),
  from: text("from when on"),
  until: text("until when"),
  to: text("where it leads"),
  status: text("its status"),
  keepQuery: text("keeping the link’s parameters"),
  frequency: text("how often it sends"),
  skipBots: text("leaving crawlers out"),
  exemptAddresses: text("the addresses that it leaves out"),
});

/** A part of something in the draft, in words. */
export const partName = (key: string): string => partNames[key] || key;

/** A place of the draft by names, as far as they are still there: "Home hero, Repotting clinic, its rule". */
export function placeName(path: string, draft: SiteDraft): string {
  const out: string[] = [];
  let here: unknown = draft;
  for (const [index, key] of path.split("/").entries()) {
    const item: unknown = Array.isArray(here)
      ? here.find((one: { id?: string }) => one.id === key)
      : (here as Record<string, unknown> | undefined)?.[key];
    const name = (item as { name?: unknown } | undefined)?.name;
    if (Array.isArray(here) && typeof name === "string") out.push(name);
    else if (index === 0) out.push(listNames[key] ?? key);
    else if (Array.isArray(here)) out.push(`“${key}”`);
    else if (partNames[key] !== "" && listNames[key] === undefined) out.push(partNames[key] ?? key);
    here = item;
  }
  return out.length > 1 && listNames[path.split("/")[0] as string] === t("Slot")
    ? out.slice(1).join(", ")
    : out.join(", ");
}

/** Values that have words of their own, by the last key of their place. */
const words: Record<string, (value: never, names: SentenceNames) => string> = {
  opensAfter: (value: Popup["opensAfter"]) => opensWords(value),
  cap: (value: Popup["cap"]) => capWords(value),
  size: ({ width, height }: Popup["size"]) => `${width} × ${height}`,
  reward: (value: Offer["reward"], { site }) =>
    "percent" in value
      ? t("{percent} % off", { percent: value.percent })
      : "amount" in value
        ? t("{amount} {currency} off", { amount: value.amount, currency: site.currency })
        : t("free delivery"),
  scope: ({ categories = [], skus = [] }: NonNullable<Offer["scope"]>) => [...categories, ...skus].join(", "),
  places: (value: readonly PlaceEntry[], names) => joinParts(placesPhrase(value, names)),
  fields: (value: unknown) =>
    Array.isArray(value)
      ? (value as { name: string; kind: string }[]).map(({ name, kind }) => `${name} (${kind})`).join(", ")
      : "",
};

/** What stands at a place, as somebody would read it: rules as sentences, content as its texts. */
export function valueText(path: string, value: unknown, draft: SentenceNames): string {
  if (value == null && path.endsWith("/cap")) return capWords(undefined);
  if (value == null) return /\/(rule|pages)$/.test(path) ? t("for everyone") : t("nothing");
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? t("yes") : t("no");
  if (typeof value !== "object") return String(value);
  if (/\/(rule|pages|gain|lose)$/.test(path)) return ruleText(value as Rule, draft);
  // Each of the table takes what stands at its place: the schema has seen to it.
  const own = words[path.slice(path.lastIndexOf("/") + 1)]?.(value as never, draft);
  if (own) return own;
  if (Array.isArray(value) && value.every((item) => typeof item === "string")) return value.join(", ") || t("nothing");
  const texts = textsIn(value);
  const { rule, name } = value as { rule?: Rule; name?: string };
  const when = rule === undefined || rule === null ? [] : [t("when {ruleText}", { ruleText: ruleText(rule, draft) })];
  const said = [...(name ? [name] : []), ...when, ...texts.filter((text) => text !== name)].join(" · ");
  return said || JSON.stringify(value);
}

/** The texts of content, however deep they lie: what stands in its fields. */
function textsIn(value: unknown, inFields = false): string[] {
  if (typeof value === "string") return inFields && value !== "" ? [value] : [];
  if (typeof value !== "object" || value === null) return [];
  if (Array.isArray(value)) return value.flatMap((inner) => textsIn(inner, inFields));
  return Object.entries(value).flatMap(([key, inner]) =>
    key === "type" ? [] : textsIn(inner, inFields || key === "fields"),
  );
}
