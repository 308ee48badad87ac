/**
 * The signals (docs/engine.md, section 2): one entry each. What is not declared is refused by the compiler; the editor, sentences,
 * the analysis, advice on caching, replay and the reference in docs/signals.md follow from it.
 */
import { exponentOf } from "../money/currency";
import type { SignalKind } from "../formats/operators";
import type { DataField } from "../formats/ruleset";
import { capitalized, type Text } from "../text/text";
import { browsers, deviceKinds, systems } from "./device";
import type { Reading } from "./reading";
import {
  deviceText,
  fixedText,
  fromCart,
  fromFigures,
  fromHistory,
  own,
  searchWords,
  texts,
  typed,
  type Getter,
} from "./readers";
import { referrerKind, referrerKinds } from "./referrer";

export const signalGroups = [
  "Time",
  "Place",
  "Campaign",
  "Link",
  "Referrer and search",
  "Device",
  "Language",
  "Page",
  "History",
  "Markers",
  "Cart",
  "Site data",
] as const;
export type SignalGroup = (typeof signalGroups)[number];

/**
 * What of a request something depends on. `link`, `language`, `device` and `visitor` can be told apart by a cache from what a
 * request carries (its address and headers); `place` only by a cache that knows its visitors' places itself; `arrival` and
 * `measured` differ from visitor to visitor, so that nothing would ever be found in the cache.
 */
export const leanings = ["time", "link", "language", "device", "visitor", "place", "arrival", "measured"] as const;
export type Leaning = (typeof leanings)[number];

/** The part of a visit that a signal is read from; the analysis sets each part by itself. */
export type FacetKind =
  | "time"
  | "parameter"
  | "arrival"
  | "device"
  | "width"
  | "place"
  | "language"
  | "history"
  | "page"
  | "page fact"
  | "cart"
  | "ip"
  | "marker"
  | "cookie"
  | "data"
  | "page data";

/** Why a log of requests does not tell a signal. */
export type NotCarried =
  "cart" | "consent" | "language" | "cookies" | "site data" | "window" | "page text" | "visitor's clock";

/** What is so of a signal whatever its name. */
export interface SignalTraits {
  group: SignalGroup;
  /** What its value is, in a sentence for whoever builds a rule. */
  means: string;
  /** What else people call it (common practice), so that it is found by that. */
  also: string;
  /** Why it may not be known of a visitor, in general and for the visit at hand; null: it always is. */
  unknown: { why: string; because(r: Reading): string } | null;
  facet: FacetKind;
  /** Null: on the page alone. */
  leans: Leaning | null;
  /** How much work it is to read, roughly: what is cheap is asked first. */
  cost: number;
  /** How little a table of variants gains by it: 0 parts visitors well; null: a table cannot be made by it. */
  key: 0 | 100 | null;
  /** What a log of requests lacks of it, and how it is judged then; null: a log tells it. */
  log: { what: NotCarried; judged: "unknown" | "absent" } | null;
  /** All its values, where they are few and known. */
  values: readonly string[] | null;
  /** Whether offers work it out: neither their own rules nor those of markers may ask for it. */
  byOffers: boolean;
}

interface FixedEntry extends SignalTraits {
  kind: SignalKind;
  /** The words people read for it, as they stand in a sentence: "the source". */
  label: string;
  /** Null: it is no value; schedules are asked with the instant. */
  read: Getter | null;
  /** The parameter of a link that it is read from. */
  parameter?: string;
}

/** Signals with a name of their own after what they begin with. */
interface NamedEntry extends SignalTraits {
  /** What a signal of this name is; undefined: the ruleset declares none. */
  describe(name: string, names: SignalNames): { kind: SignalKind; label: string } | undefined;
  read(name: string, signal: string, fields: ReadonlyMap<string, DataField>): Getter | undefined;
  /** How it is offered where the name is free; null: only declared ones are. */
  offered: { label: string; what: string; example: string } | null;
}

/** What a ruleset declares that makes further signals. */
export interface SignalNames {
  dataFields: readonly DataField[];
  markers: readonly { id: string; name: string }[];
  offers: readonly { id: string; name: string }[];
}

/** What most signals are: always known, cheap, told by a log, leaning on the visitor. */
const usual = { also: "", unknown: null, cost: 1, key: null, log: null, values: null, byOffers: false } as const;

const campaign = (parameter: string, label: string, also = ""): FixedEntry => ({
  ...usual,
  kind: "text",
  group: "Campaign",
  label,
  means: `The parameter ${parameter} of the page’s address.`,
  also: `${parameter} ${also}`.trim(),
  parameter,
  read: fixedText((r) => r.page.first(parameter)),
  facet: "parameter",
  leans: "link",
  key: 0,
});

const arrival = (
  label: string,
  means: string,
  also: string,
  key: 0 | 100 | null,
  get: (r: Reading) => string | undefined,
) => ({
  ...usual,
  kind: "text" as const,
  group: "Referrer and search" as const,
  label,
  means,
  also,
  read: fixedText(get),
  facet: "arrival" as const,
  leans: "arrival" as const,
  key,
});

const noAgent = { why: "A browser may not say what it is.", because: () => "no user agent was sent" };
const device = (
  part: "kind" | "os" | "browser",
  label: string,
  means: string,
  values: readonly string[],
  also: string,
) => ({
  ...usual,
  kind: "text" as const,
  group: "Device" as const,
  label,
  means,
  also,
  read: deviceText(part),
  unknown: noAgent,
  facet: "device" as const,
  leans: "device" as const,
  cost: 4,
  key: 100 as const,
  values,
});

const ofPage = { ...usual, group: "Page", facet: "page fact", leans: null } as const;
const pageText = (label: string, means: string, key: 0 | 100 | null, get: (r: Reading) => string | undefined) => ({
  ...ofPage,
  kind: "text" as const,
  label,
  means,
  read: fixedText(get),
  key,
});

const remembered = {
  ...usual,
  unknown: {
    why: "Of visitors who have not given consent nothing is known.",
    because: () => "the visitor has not given consent",
  },
  leans: "visitor",
  log: { what: "consent", judged: "unknown" },
} as const;
const ofHistory = { ...remembered, group: "History", facet: "history" } as const;

const ofCart = {
  ...usual,
  group: "Cart",
  unknown: {
    why: "The page may not tell the cart.",
    because: (r: Reading) =>
      r.visit.cart && exponentOf(r.rules.currency) !== undefined && !r.cartTold
        ? `the cart is in ${r.visit.cart.currency}, not in ${r.rules.currency}`
        : "the site has not told the cart",
  },
  facet: "cart",
  leans: "visitor",
  cost: 5,
  log: { what: "cart", judged: "unknown" },
} as const;

const fixed = {
  time: {
    ...usual,
    kind: "schedule",
    group: "Time",
    label: "the time",
    means: "Date, weekday and hour at which the page is opened, in the site’s time zone, the visitor’s or another.",
    also: "date day weekday hour schedule office hours clock",
    read: null,
    unknown: {
      why: "The visitor’s own time zone may not be known.",
      because: () => "the visitor’s own time zone is not known",
    },
    facet: "time",
    leans: "time",
    cost: 3,
  },
  place: {
    ...usual,
    kind: "place",
    group: "Place",
    label: "the place",
    means:
      "Where the visitor is, by their IP address: continent, country, region, city, or within a distance of a point.",
    also: "country region city location geo",
    read: (r) => r.place ?? null,
    unknown: {
      why: "Of some addresses no country is known.",
      because: (r) => (r.address ? "no country was found for this address" : "no address or place is known"),
    },
    facet: "place",
    leans: "place",
    cost: 2,
  },
  "campaign.source": campaign("utm_source", "the campaign source"),
  "campaign.medium": campaign("utm_medium", "the campaign medium", "channel"),
  "campaign.name": campaign("utm_campaign", "the campaign name"),
  "campaign.term": campaign("utm_term", "the campaign term", "keyword"),
  "campaign.content": campaign("utm_content", "the campaign content", "ad"),
  "campaign.id": campaign("utm_id", "the campaign id"),
  "referrer.kind": {
    ...arrival(
      "the kind of referrer",
      "How the visitor came: directly, from another page of the site, by a search engine, web mail, a social network or another site.",
      "traffic source direct social search",
      100,
      (r) => referrerKind(r.referrer, r.page.host),
    ),
    values: referrerKinds,
  },
  "referrer.host": arrival(
    "the referring site",
    "Host of the page that the visitor comes from, without www.",
    "referrer partner domain",
    0,
    (r) => r.referrer?.host,
  ),
  "referrer.url": arrival(
    "the referring page",
    "Whole address of the page that the visitor comes from.",
    "referrer address",
    null,
    (r) => (r.referrer?.host === undefined ? undefined : r.visit.referrer),
  ),
  "search.engine": arrival(
    "the search engine",
    "Name of the search engine that the visitor comes from.",
    "",
    0,
    (r) => r.referrer?.source?.engine,
  ),
  "search.words": arrival(
    "the search",
    "Words that the visitor searched for, where the referrer or the link carries them.",
    "keywords search words query",
    null,
    searchWords,
  ),
  "device.kind": device(
    "kind",
    "the device",
    "Phone, tablet, desktop, crawler or other, by the browser’s user agent.",
    deviceKinds,
    "mobile phone tablet desktop",
  ),
  "device.os": device(
    "os",
    "the system",
    "Operating system, by the browser’s user agent.",
    systems,
    "operating system iOS Android Windows",
  ),
  "device.browser": device("browser", "the browser", "Browser, by its own name, also on iOS.", browsers, ""),
  "device.browserVersion": {
    ...usual,
    kind: "number",
    group: "Device",
    label: "the browser version",
    means: "The main version of the browser, such as 142.",
    read: (r) => (r.device === undefined ? null : r.device.version),
    unknown: noAgent,
    facet: "device",
    leans: "device",
    cost: 4,
  },
  "device.width": {
    ...usual,
    kind: "number",
    group: "Device",
    label: "the window width",
    means: "Width of the browser window in CSS pixels.",
    also: "screen viewport",
    read: (r) => r.visit.hints?.width ?? null,
    unknown: {
      why: "A browser tells its width only from its second page on, or by the tag.",
      because: () => "the browser has not told its width",
    },
    facet: "width",
    leans: "measured",
    cost: 4,
    log: { what: "window", judged: "unknown" },
  },
  language: {
    ...usual,
    kind: "language",
    group: "Language",
    label: "the language",
    means: "The languages that the visitor’s browser asks for, in order of preference.",
    also: "locale accept-language",
    read: (r) => (r.languages.length === 0 ? undefined : r.languages),
    facet: "language",
    leans: "language",
    log: { what: "language", judged: "absent" },
  },
  "page.path": {
    ...pageText("the path", "Path of the page’s address, without host and parameters.", 0, (r) => r.path),
    also: "url address page",
  },
  "page.id": pageText("the page", "Id that the site gives to the page.", 0, (r) => r.visit.page?.id),
  "page.category": {
    ...pageText("the page category", "Category that the site gives to the page.", 0, (r) => r.visit.page?.category),
    facet: "page",
  },
  "page.language": pageText(
    "the page language",
    "Language that the site gives to the page.",
    100,
    (r) => r.visit.page?.language,
  ),
  "page.tags": {
    ...ofPage,
    kind: "texts",
    label: "the page tags",
    means: "Tags that the site gives to the page.",
    read: (r) => texts(r.visit.page?.tags ?? []),
    key: 0,
  },
  "page.text": {
    ...pageText("the page text", "Text of the page, as the site gives it.", null, (r) => r.visit.page?.text),
    log: { what: "page text", judged: "absent" },
  },
  "history.views": {
    ...ofHistory,
    kind: "number",
    label: "the pages seen in this visit",
    means: "Page views since the visit began, this one counted. A visit begins after 30 minutes without a page view.",
    also: "page views session",
    read: fromHistory((h) => h.views),
  },
  "history.visits": {
    ...ofHistory,
    kind: "number",
    label: "the number of visits",
    means: "Visits so far, this one counted.",
    read: fromHistory((h) => h.visits),
  },
  "history.minutes": {
    ...ofHistory,
    kind: "number",
    label: "the minutes since this visit began",
    means: "Whole minutes since the first page view of this visit.",
    also: "time on site session duration",
    read: fromHistory((h) => h.minutes),
  },
  "history.daysSinceLast": {
    ...ofHistory,
    kind: "number",
    label: "the days since the last visit",
    means: "Whole days since the previous visit’s last page view.",
    read: fromHistory((h) => h.daysSinceLast),
  },
  "history.returning": {
    ...ofHistory,
    kind: "flag",
    label: "returning",
    means: "Whether the visitor has been here on an earlier visit.",
    also: "new visitor first-time returning visitor",
    read: fromHistory((h) => h.visits > 1),
  },
  "history.landing": {
    ...ofHistory,
    kind: "text",
    label: "the landing page",
    means: "Path of the first page of this visit.",
    read: fromHistory((h, r) => r.text("history.landing", () => h.landing)),
  },
  "cart.subtotal": {
    ...ofCart,
    kind: "money",
    label: "the cart value",
    means: "Value of the items in the cart, before offers.",
    also: "basket order value",
    read: (r) => r.cartSubtotal,
  },
  "cart.total": {
    ...ofCart,
    kind: "money",
    label: "the cart total after offers",
    means: "Value of the cart with all offers taken off.",
    also: "basket order value",
    read: fromFigures((f) => f.total),
    byOffers: true,
  },
  "cart.count": {
    ...ofCart,
    kind: "number",
    label: "the number of items in the cart",
    means: "All items in the cart, each by its quantity.",
    also: "basket quantity",
    read: fromCart((lines) => lines.reduce((sum, line) => sum + line.quantity, 0)),
  },
  "cart.skus": {
    ...ofCart,
    kind: "texts",
    label: "the items in the cart",
    means: "Product codes (SKU) of the items in the cart.",
    also: "basket products",
    read: fromCart((lines) => texts(lines.map((line) => line.sku))),
  },
  "cart.categories": {
    ...ofCart,
    kind: "texts",
    label: "the categories in the cart",
    means: "Categories of the items in the cart.",
    read: fromCart((lines) => texts(lines.map((line) => line.category).filter((item) => item !== undefined))),
  },
  ip: {
    ...usual,
    kind: "address",
    group: "Site data",
    label: "the IP address",
    means: "The address that the visitor’s request comes from.",
    read: (r) => r.address ?? null,
    unknown: { why: "The address may not be told.", because: () => "it was not told" },
    facet: "ip",
    leans: "measured",
  },
} satisfies Record<string, FixedEntry>;

const declaredField = (source: DataField["signal"], name: string, { dataFields }: SignalNames) =>
  dataFields.find((item) => item.signal === source && item.name === name);

const named = {
  "query.": {
    ...usual,
    group: "Link",
    means: "A parameter of the page’s address, by its name; it may have several values.",
    also: "url query string parameter utm",
    describe: (name) => ({ kind: "texts", label: `the parameter “${name}”` }),
    read: (name, signal) => (r) =>
      r.query.get(name)?.map((item, index) => r.text(`${signal} ${index}`, () => item) as Text),
    offered: { label: "a parameter of the link", what: "Name of the parameter", example: "as in ?name=value" },
    facet: "parameter",
    leans: "link",
    key: 0,
  },
  "cookie.": {
    ...usual,
    group: "Site data",
    means: "A cookie that the browser sends to the site, by its name.",
    also: "consent",
    describe: (name) => ({ kind: "text", label: `the cookie “${name}”` }),
    read: (name, signal) => (r) => {
      // Most cookies that are asked for are not there: that is settled before anything is kept.
      const raw = own(r.visit.cookies, name);
      return raw === undefined ? undefined : r.text(signal, () => raw);
    },
    offered: { label: "a cookie", what: "Name of the cookie", example: "as the site sets it" },
    facet: "cookie",
    leans: "visitor",
    key: 0,
    log: { what: "cookies", judged: "absent" },
  },
  "history.category.": {
    ...remembered,
    group: "History",
    means: "How often the visitor has looked at pages of a category.",
    describe: (name) => ({ kind: "number", label: `the views of ${name}` }),
    read: (name) => fromHistory((h) => h.categories.get(name) ?? 0),
    offered: { label: "views of a page category", what: "Page category", example: "such as ferns" },
    facet: "page",
  },
  "marker.": {
    ...remembered,
    group: "Markers",
    means: "Whether the visitor has the marker: it is set and cleared by page views, and lasts some days.",
    describe(name, { markers }) {
      const marker = markers.find((item) => item.id === name);
      return marker && { kind: "flag", label: `the marker “${marker.name}”` };
    },
    read: (name) => (r) => (r.markers === undefined ? null : r.markers.has(name)),
    offered: null,
    facet: "marker",
  },
  "cart.toGo.": {
    ...ofCart,
    means: "Amount that the cart still needs to reach the offer’s minimum.",
    describe(name, { offers }) {
      const offer = offers.find((item) => item.id === name);
      return offer && { kind: "money", label: `the amount left to “${offer.name}”` };
    },
    read: (name) => fromFigures((f) => f.toGo.get(name) ?? 0),
    offered: null,
    byOffers: true,
  },
  "page.data.": {
    ...ofPage,
    means: "A data field of the page, as it is declared in Settings.",
    describe(name, names) {
      const field = declaredField("page.data", name, names);
      return field && { kind: field.kind, label: `“${name}” of the page` };
    },
    read(name, signal, fields) {
      const field = fields.get(signal);
      return field && ((r) => typed(r, signal, field, own(r.visit.page?.data, name)));
    },
    offered: null,
    facet: "page data",
  },
  "data.": {
    ...usual,
    group: "Site data",
    means: "A data field of the visitor, as it is declared in Settings.",
    describe(name, names) {
      const field = declaredField("data", name, names);
      return field && { kind: field.kind, label: `“${name}”` };
    },
    read(name, signal, fields) {
      const field = fields.get(signal);
      return field && ((r) => typed(r, signal, field, own(r.visit.data, name)));
    },
    offered: null,
    facet: "data",
    leans: "visitor",
    log: { what: "site data", judged: "absent" },
  },
} satisfies Record<string, NamedEntry>;

/** Signals with a fixed name, in the order in which they are offered. */
export type FixedSignal = keyof typeof fixed;
export const fixedSignals: Readonly<Record<FixedSignal, FixedEntry>> = fixed;
/** What signals with a name of their own begin with. */
export type SignalPrefix = keyof typeof named;
export const namedSignals: Readonly<Record<SignalPrefix, NamedEntry>> = named;
const prefixes = Object.keys(named) as SignalPrefix[];

const isFixed = (signal: string): signal is FixedSignal => Object.hasOwn(fixed, signal);

/** A signal parted into what comes before its free name, and the name: `query.`, `x`. */
export function splitSignal(signal: string): { prefix: SignalPrefix; name: string } | undefined {
  const prefix = prefixes.find((text) => signal.startsWith(text) && signal.length > text.length);
  return prefix && { prefix, name: signal.slice(prefix.length) };
}

/** The entry that tells of a signal: its fixed name, or what it begins with. */
export const entryNameOf = (signal: string): FixedSignal | SignalPrefix | undefined =>
  isFixed(signal) ? signal : splitSignal(signal)?.prefix;

/** What is so of a signal whatever a ruleset declares; undefined: there is none that is called so. */
export function traitsOf(signal: string): SignalTraits | undefined {
  if (isFixed(signal)) return fixedSignals[signal];
  const split = splitSignal(signal);
  return split && namedSignals[split.prefix];
}

export interface SignalInfo {
  kind: SignalKind;
  label: string;
  group: SignalGroup;
}

/** What a signal is; undefined if there is no such signal in a ruleset that declares `names`. */
export function signalInfo(signal: string, names: SignalNames): SignalInfo | undefined {
  if (isFixed(signal)) return fixedSignals[signal];
  const split = splitSignal(signal);
  if (!split) return undefined;
  const entry = namedSignals[split.prefix];
  const found = entry.describe(split.name, names);
  return found && { ...found, group: entry.group };
}

/** The way to a signal's value in a reading. `time` has none: schedules are asked with the instant. */
export function getterOf(signal: string, fields: ReadonlyMap<string, DataField>): Getter | undefined {
  if (isFixed(signal)) return fixedSignals[signal].read ?? undefined;
  const split = splitSignal(signal);
  return split && namedSignals[split.prefix].read(split.name, signal, fields);
}

/** Why a signal could not be determined, and what would make it known. */
export const unknownBecause = (signal: string, r: Reading): string =>
  traitsOf(signal)?.unknown?.because(r) ?? "it was not told";

/** The parameter of a link that a signal is read from; undefined for signals that come from elsewhere. */
export function parameterOf(signal: string): string | undefined {
  if (isFixed(signal)) return fixedSignals[signal].parameter;
  const split = splitSignal(signal);
  return split?.prefix === "query." ? split.name : undefined;
}

/** What is called otherwise in a list than in a sentence. */
const listed: Readonly<Record<string, string>> = {
  time: "Date and time",
  place: "Location",
  "search.words": "Search words",
  "device.os": "Operating system",
  "page.id": "Page id",
  "history.returning": "Returning visitor",
};
/** A signal as it stands in a list: "Campaign name", where sentences have "the campaign name". */
export const signalName = (signal: string, label: string): string =>
  listed[signal] ?? capitalized(label.replace(/^(the|an?) /, ""));
