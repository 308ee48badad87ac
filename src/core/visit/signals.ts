/**
 * The signals (docs/engine.md, section 2): one entry each. What is not declared is refused by the compiler; the editor, sentences,
 * the analysis, advice on caching, replay and the reference in docs/signals.md follow from it.
 */
import { said, t, text, type Words } from "../messages/t";
import { bare } from "../messages/articles";
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
/** The groups as people read them. */
export const groupNames: Readonly<Record<SignalGroup, string>> = said({
  Time: text("Time"),
  Place: text("Place"),
  Campaign: text("Campaign"),
  Link: text("Link"),
  "Referrer and search": text("Referrer and search"),
  Device: text("Device"),
  Language: text("Language"),
  Page: text("Page"),
  History: text("History"),
  Markers: text("Markers"),
  Cart: text("Cart"),
  "Site data": text("Site data"),
});

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
  means: Words;
  /** What else people call it (common practice), so that it is found by that. */
  also: Words | null;
  /** Why it may not be known of a visitor, in general and for the visit at hand; null: it always is. */
  unknown: { why: Words; because(r: Reading): string } | null;
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
  label: Words;
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
  offered: { label: Words; what: Words; example: Words } | null;
}

/** What a ruleset declares that makes further signals. */
export interface SignalNames {
  dataFields: readonly DataField[];
  markers: readonly { id: string; name: string }[];
  offers: readonly { id: string; name: string }[];
}

/** What most signals are: always known, cheap, told by a log, leaning on the visitor. */
const usual = { also: null, unknown: null, cost: 1, key: null, log: null, values: null, byOffers: false } as const;

const campaign = (parameter: string, label: Words, means: Words, also: Words | null = null): FixedEntry => ({
  ...usual,
  kind: "text",
  group: "Campaign",
  label,
  means,
  also,
  parameter,
  read: fixedText((r) => r.page.first(parameter)),
  facet: "parameter",
  leans: "link",
  key: 0,
});

const arrival = (
  label: Words,
  means: Words,
  also: Words | null,
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

const noAgent = { why: text("A browser may not say what it is."), because: () => t("no user agent was sent") };
const device = (
  part: "kind" | "os" | "browser",
  label: Words,
  means: Words,
  values: readonly string[],
  also: Words | null,
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
const pageText = (label: Words, means: Words, key: 0 | 100 | null, get: (r: Reading) => string | undefined) => ({
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
    why: text("Of visitors who have not given consent nothing is known."),
    because: () => t("the visitor has not given consent"),
  },
  leans: "visitor",
  log: { what: "consent", judged: "unknown" },
} as const;
const ofHistory = { ...remembered, group: "History", facet: "history" } as const;

const ofCart = {
  ...usual,
  group: "Cart",
  unknown: {
    why: text("The page may not tell the cart."),
    because: (r: Reading) =>
      r.visit.cart && exponentOf(r.rules.currency) !== undefined && !r.cartTold
        ? t("the cart is in {currency}, not in {currency2}", {
            currency: r.visit.cart.currency,
            currency2: r.rules.currency,
          })
        : t("the site has not told the cart"),
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
    label: text("the time"),
    means: text(
      "Date, weekday and hour at which the page is opened, in the site’s time zone, the visitor’s or another.",
    ),
    also: text("date day weekday hour schedule office hours clock"),
    read: null,
    unknown: {
      why: text("The visitor’s own time zone may not be known."),
      because: () => t("the visitor’s own time zone is not known"),
    },
    facet: "time",
    leans: "time",
    cost: 3,
  },
  place: {
    ...usual,
    kind: "place",
    group: "Place",
    label: text("the place"),
    means: text(
      "Where the visitor is, by their IP address: continent, country, region, city, or within a distance of a point.",
    ),
    also: text("country region city location geo"),
    read: (r) => r.place ?? null,
    unknown: {
      why: text("Of some addresses no country is known."),
      because: (r) => (r.address ? t("no country was found for this address") : t("no address or place is known")),
    },
    facet: "place",
    leans: "place",
    cost: 2,
  },
  "campaign.source": campaign(
    "utm_source",
    text("the campaign source"),
    text("The parameter utm_source of the page’s address."),
  ),
  "campaign.medium": campaign(
    "utm_medium",
    text("the campaign medium"),
    text("The parameter utm_medium of the page’s address."),
    text("channel"),
  ),
  "campaign.name": campaign(
    "utm_campaign",
    text("the campaign name"),
    text("The parameter utm_campaign of the page’s address."),
  ),
  "campaign.term": campaign(
    "utm_term",
    text("the campaign term"),
    text("The parameter utm_term of the page’s address."),
    text("keyword"),
  ),
  "campaign.content": campaign(
    "utm_content",
    text("the campaign content"),
    text("The parameter utm_content of the page’s address."),
    text("ad"),
  ),
  "campaign.id": campaign("utm_id", text("the campaign id"), text("The parameter utm_id of the page’s address.")),
  "referrer.kind": {
    ...arrival(
      text("the kind of referrer"),
      text(
        "How the visitor came: directly, from another page of the site, by a search engine, web mail, a social network or another site.",
      ),
      text("traffic source direct social search"),
      100,
      (r) => referrerKind(r.referrer, r.page.host),
    ),
    values: referrerKinds,
  },
  "referrer.host": arrival(
    text("the referring site"),
    text("Host of the page that the visitor comes from, without www."),
    text("referrer partner domain"),
    0,
    (r) => r.referrer?.host,
  ),
  "referrer.url": arrival(
    text("the referring page"),
    text("Whole address of the page that the visitor comes from."),
    text("referrer address"),
    null,
    (r) => (r.referrer?.host === undefined ? undefined : r.visit.referrer),
  ),
  "search.engine": arrival(
    text("the search engine"),
    text("Name of the search engine that the visitor comes from."),
    null,
    0,
    (r) => r.referrer?.source?.engine,
  ),
  "search.words": arrival(
    text("the search"),
    text("Words that the visitor searched for, where the referrer or the link carries them."),
    text("keywords search words query"),
    null,
    searchWords,
  ),
  "device.kind": device(
    "kind",
    text("the device"),
    text("Phone, tablet, desktop, crawler or other, by the browser’s user agent."),
    deviceKinds,
    text("mobile phone tablet desktop"),
  ),
  "device.os": device(
    "os",
    text("the system"),
    text("Operating system, by the browser’s user agent."),
    systems,
    text("operating system iOS Android Windows"),
  ),
  "device.browser": device(
    "browser",
    text("the browser"),
    text("Browser, by its own name, also on iOS."),
    browsers,
    null,
  ),
  "device.browserVersion": {
    ...usual,
    kind: "number",
    group: "Device",
    label: text("the browser version"),
    means: text("The main version of the browser, such as 142."),
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
    label: text("the window width"),
    means: text("Width of the browser window in CSS pixels."),
    also: text("screen viewport"),
    read: (r) => r.visit.hints?.width ?? null,
    unknown: {
      why: text("A browser tells its width only from its second page on, or by the tag."),
      because: () => t("the browser has not told its width"),
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
    label: text("the language"),
    means: text("The languages that the visitor’s browser asks for, in order of preference."),
    also: text("locale accept-language"),
    read: (r) => (r.languages.length === 0 ? undefined : r.languages),
    facet: "language",
    leans: "language",
    log: { what: "language", judged: "absent" },
  },
  "page.path": {
    ...pageText(text("the path"), text("Path of the page’s address, without host and parameters."), 0, (r) => r.path),
    also: text("url address page"),
  },
  "page.id": pageText(text("the page"), text("Id that the site gives to the page."), 0, (r) => r.visit.page?.id),
  "page.category": {
    ...pageText(
      text("the page category"),
      text("Category that the site gives to the page."),
      0,
      (r) => r.visit.page?.category,
    ),
    facet: "page",
  },
  "page.language": pageText(
    text("the page language"),
    text("Language that the site gives to the page."),
    100,
    (r) => r.visit.page?.language,
  ),
  "page.tags": {
    ...ofPage,
    kind: "texts",
    label: text("the page tags"),
    means: text("Tags that the site gives to the page."),
    read: (r) => texts(r.visit.page?.tags ?? []),
    key: 0,
  },
  "page.text": {
    ...pageText(
      text("the page text"),
      text("Text of the page, as the site gives it."),
      null,
      (r) => r.visit.page?.text,
    ),
    log: { what: "page text", judged: "absent" },
  },
  "history.views": {
    ...ofHistory,
    kind: "number",
    label: text("the pages seen in this visit"),
    means: text(
      "Page views since the visit began, this one counted. A visit begins after 30 minutes without a page view.",
    ),
    also: text("page views session"),
    read: fromHistory((h) => h.views),
  },
  "history.visits": {
    ...ofHistory,
    kind: "number",
    label: text("the number of visits"),
    means: text("Visits so far, this one counted."),
    read: fromHistory((h) => h.visits),
  },
  "history.minutes": {
    ...ofHistory,
    kind: "number",
    label: text("the minutes since this visit began"),
    means: text("Whole minutes since the first page view of this visit."),
    also: text("time on site session duration"),
    read: fromHistory((h) => h.minutes),
  },
  "history.daysSinceLast": {
    ...ofHistory,
    kind: "number",
    label: text("the days since the last visit"),
    means: text("Whole days since the previous visit’s last page view."),
    read: fromHistory((h) => h.daysSinceLast),
  },
  "history.returning": {
    ...ofHistory,
    kind: "flag",
    label: text("returning"),
    means: text("Whether the visitor has been here on an earlier visit."),
    also: text("new visitor first-time returning visitor"),
    read: fromHistory((h) => h.visits > 1),
  },
  "history.landing": {
    ...ofHistory,
    kind: "text",
    label: text("the landing page"),
    means: text("Path of the first page of this visit."),
    read: fromHistory((h, r) => r.text("history.landing", () => h.landing)),
  },
  "cart.subtotal": {
    ...ofCart,
    kind: "money",
    label: text("the cart value"),
    means: text("Value of the items in the cart, before offers."),
    also: text("basket order value"),
    read: (r) => r.cartSubtotal,
  },
  "cart.total": {
    ...ofCart,
    kind: "money",
    label: text("the cart total after offers"),
    means: text("Value of the cart with all offers taken off."),
    also: text("basket order value"),
    read: fromFigures((f) => f.total),
    byOffers: true,
  },
  "cart.count": {
    ...ofCart,
    kind: "number",
    label: text("the number of items in the cart"),
    means: text("All items in the cart, each by its quantity."),
    also: text("basket quantity"),
    read: fromCart((lines) => lines.reduce((sum, line) => sum + line.quantity, 0)),
  },
  "cart.skus": {
    ...ofCart,
    kind: "texts",
    label: text("the items in the cart"),
    means: text("Product codes (SKU) of the items in the cart."),
    also: text("basket products"),
    read: fromCart((lines) => texts(lines.map((line) => line.sku))),
  },
  "cart.categories": {
    ...ofCart,
    kind: "texts",
    label: text("the categories in the cart"),
    means: text("Categories of the items in the cart."),
    read: fromCart((lines) => texts(lines.map((line) => line.category).filter((item) => item !== undefined))),
  },
  ip: {
    ...usual,
    kind: "address",
    group: "Site data",
    label: text("the IP address"),
    means: text("The address that the visitor’s request comes from."),
    read: (r) => r.address ?? null,
    unknown: { why: text("The address may not be told."), because: () => t("it was not told") },
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
    means: text("A parameter of the page’s address, by its name; it may have several values."),
    also: text("url query string parameter utm"),
    describe: (name) => ({ kind: "texts", label: t("the parameter “{name}”", { name }) }),
    read: (name, signal) => (r) =>
      r.query.get(name)?.map((item, index) => r.text(`${signal} ${index}`, () => item) as Text),
    offered: {
      label: text("a parameter of the link"),
      what: text("Name of the parameter"),
      example: text("as in ?name=value"),
    },
    facet: "parameter",
    leans: "link",
    key: 0,
  },
  "cookie.": {
    ...usual,
    group: "Site data",
    means: text("A cookie that the browser sends to the site, by its name."),
    also: text("consent"),
    describe: (name) => ({ kind: "text", label: t("the cookie “{name}”", { name }) }),
    read: (name, signal) => (r) => {
      // Most cookies that are asked for are not there: that is settled before anything is kept.
      const raw = own(r.visit.cookies, name);
      return raw === undefined ? undefined : r.text(signal, () => raw);
    },
    offered: { label: text("a cookie"), what: text("Name of the cookie"), example: text("as the site sets it") },
    facet: "cookie",
    leans: "visitor",
    key: 0,
    log: { what: "cookies", judged: "absent" },
  },
  "history.category.": {
    ...remembered,
    group: "History",
    means: text("How often the visitor has looked at pages of a category."),
    describe: (name) => ({ kind: "number", label: t("the views of {name}", { name }) }),
    read: (name) => fromHistory((h) => h.categories.get(name) ?? 0),
    offered: { label: text("views of a page category"), what: text("Page category"), example: text("such as ferns") },
    facet: "page",
  },
  "marker.": {
    ...remembered,
    group: "Markers",
    means: text("Whether the visitor has the marker: it is set and cleared by page views, and lasts some days."),
    describe(name, { markers }) {
      const marker = markers.find((item) => item.id === name);
      return marker && { kind: "flag", label: t("the marker “{marker}”", { marker: marker.name }) };
    },
    read: (name) => (r) => (r.markers === undefined ? null : r.markers.has(name)),
    offered: null,
    facet: "marker",
  },
  "cart.toGo.": {
    ...ofCart,
    means: text("Amount that the cart still needs to reach the offer’s minimum."),
    describe(name, { offers }) {
      const offer = offers.find((item) => item.id === name);
      return offer && { kind: "money", label: t("the amount left to “{offer}”", { offer: offer.name }) };
    },
    read: (name) => fromFigures((f) => f.toGo.get(name) ?? 0),
    offered: null,
    byOffers: true,
  },
  "page.data.": {
    ...ofPage,
    means: text("A data field of the page, as it is declared in Settings."),
    describe(name, names) {
      const field = declaredField("page.data", name, names);
      return field && { kind: field.kind, label: t("“{name}” of the page", { name }) };
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
    means: text("A data field of the visitor, as it is declared in Settings."),
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
  if (isFixed(signal)) {
    const { kind, label, group } = fixedSignals[signal];
    return { kind, label: t(label), group };
  }
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
  traitsOf(signal)?.unknown?.because(r) ?? t("it was not told");

/** The parameter of a link that a signal is read from; undefined for signals that come from elsewhere. */
export function parameterOf(signal: string): string | undefined {
  if (isFixed(signal)) return fixedSignals[signal].parameter;
  const split = splitSignal(signal);
  return split?.prefix === "query." ? split.name : undefined;
}

/** What is called otherwise in a list than in a sentence. */
const listed: Readonly<Record<string, string>> = said({
  time: text("Date and time"),
  place: text("Location"),
  "search.words": text("Search words"),
  "device.os": text("Operating system"),
  "page.id": text("Page id"),
  "history.returning": text("Returning visitor"),
});
/** A signal as it stands in a list: "Campaign name", where sentences have "the campaign name". */
export const signalName = (signal: string, label: string): string => listed[signal] ?? capitalized(bare(label));
