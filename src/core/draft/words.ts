/** Edits in words: where in the draft, and what stood there before and after. For the audit trail and for stale saves. */
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

const listNames: Record<string, string> = {
  slots: "Slot",
  variants: "variant",
  audiences: "Audience",
  placeLists: "Place list",
  markers: "Marker",
  popups: "Pop-up",
  offers: "Offer",
  redirects: "Redirect",
  goals: "Goal",
  library: "Block",
  picks: "Pick",
  blockTypes: "Kind of block",
  site: "Settings",
  dataFields: "Own data",
  collect: "What is read from pages",
  wordParameters: "Search words",
  searchSources: "Search engines",
};
const partNames: Record<string, string> = {
  rule: "its rule",
  pages: "its pages",
  at: "where on the page it is",
  changes: "what is changed of the page’s own",
  on: "switched on",
  name: "its name",
  rememberDays: "days remembered",
  take: "how many it shows",
  order: "its place in the order",
  fallback: "the fallback",
  content: "",
  arms: "",
  fields: "",
  tokens: "the values it names",
  signal: "what is put in",
  zone: "the time zone",
  currency: "the currency",
  language: "the language",
  origin: "the address",
  goal: "the goal by which it is read",
  holdout: "the share that sees no variant",
  way: "how it is reached",
  value: "what it is worth",
  worth: "where the page says what it is worth",
  largestValue: "the largest value that counts",
  popupGapMinutes: "the minutes between pop-ups",
  gain: "when it is gained",
  gainViews: "the page views that it takes",
  lose: "when it is lost",
  days: "the days for which it is held",
  setFrom: "gained from",
  setUntil: "gained until",
  places: "its places",
  weight: "its share",
  opensAfter: "when it opens",
  size: "its size",
  cap: "how often it opens",
  threshold: "the threshold",
  scope: "what it counts and takes from",
  reward: "what it gives",
  label: "its label",
  combines: "going together with others",
  from: "from when on",
  until: "until when",
  to: "where it leads",
  status: "its status",
  keepQuery: "keeping the link’s parameters",
  frequency: "how often it sends",
  skipBots: "leaving crawlers out",
  exemptAddresses: "the addresses that it leaves out",
};

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
  return out.length > 1 && listNames[path.split("/")[0] as string] === "Slot"
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
      ? `${value.percent} % off`
      : "amount" in value
        ? `${value.amount} ${site.currency} off`
        : "free delivery",
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
  if (value == null) return /\/(rule|pages)$/.test(path) ? "for everyone" : "nothing";
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value !== "object") return String(value);
  if (/\/(rule|pages|gain|lose)$/.test(path)) return ruleText(value as Rule, draft);
  // Each of the table takes what stands at its place: the schema has seen to it.
  const own = words[path.slice(path.lastIndexOf("/") + 1)]?.(value as never, draft);
  if (own) return own;
  if (Array.isArray(value) && value.every((item) => typeof item === "string")) return value.join(", ") || "nothing";
  const texts = textsIn(value);
  const { rule, name } = value as { rule?: Rule; name?: string };
  const when = rule === undefined || rule === null ? [] : [`when ${ruleText(rule, draft)}`];
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
