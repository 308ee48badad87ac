import { exponentOf } from "../money/currency";
import { cartSubtotal } from "./cart-lines";
import type { DataField, Ruleset, SearchSource } from "../formats/ruleset";
import { parseInstant, type Place, type Visit } from "../formats/visit";
import { isDate } from "../calendar/calendar";
import { isZone } from "../calendar/zone";
import { Text } from "../text/text";
import { parseAddress, type Address } from "./address";
import { readDevice, type Device } from "./device";
import { languageChoices } from "./language";
import type { PlaceLookup } from "./places";
import { readReferrer, referrerKind, sourceTable, type Referrer } from "./referrer";
import { splitSignal, type SignalNames } from "./signals";
import { queryOf, readablePath } from "./url";

/**
 * The value of a signal. `undefined` is absent (known not to be there), `null` is unknown (could not be determined);
 * text is a `Text`, texts a list of them, money a whole number of minor units, a date its `YYYY-MM-DD`.
 */
export type Value = Text | Text[] | number | boolean | string | string[] | Place | Address | undefined | null;

/** What a ruleset says about reading visits, made ready once. */
export interface ReadingRules {
  siteZone: string;
  currency: string;
  wordParameters: readonly string[];
  sources: ReadonlyMap<string, SearchSource>;
  fields: ReadonlyMap<string, DataField>;
}

export function readingRules(ruleset: Ruleset): ReadingRules {
  return {
    siteZone: ruleset.site.zone,
    currency: ruleset.site.currency,
    wordParameters: ruleset.wordParameters,
    sources: sourceTable(ruleset.searchSources),
    fields: new Map(ruleset.dataFields.map((field) => [`${field.signal}.${field.name}`, field])),
  };
}

/** History as this page view sees it; this page counted. */
export interface History {
  views: number;
  visits: number;
  minutes: number;
  daysSinceLast: number | undefined;
  landing: string;
  categories: ReadonlyMap<string, number>;
}

/** The money figures of a cart, in minor units. */
export interface CartFigures {
  subtotal: number;
  total: number;
  toGo: ReadonlyMap<string, number>;
}

/** Reads user agents; a caller may pass one that remembers equal ones. */
export type DeviceReader = typeof readDevice;

/**
 * One visit, read signal by signal when first asked for. What depends on memory, markers and offers is set by the
 * decision before rules are judged.
 */
export class Reading {
  readonly at: number;
  readonly url: URL;
  /** Undefined: no consent, so unknown. */
  history: History | undefined;
  markers: ReadonlySet<string> | undefined;
  /** Works out the money figures; null if the cart is not told or in another currency. */
  figures: (() => CartFigures | null) | undefined;
  /** Names of data values whose kind is not the declared one: they count as absent. */
  readonly misfits: string[] = [];

  #query: Map<string, string[]> | undefined;
  #texts = new Map<string, Text | undefined>();
  #referrer: Referrer | undefined | null = null;
  #device: Device | undefined | null = null;
  #place: Place | undefined | null = null;
  #languages: string[] | undefined;
  #figures: CartFigures | null | undefined;
  #subtotal: number | null | undefined;

  constructor(
    readonly visit: Visit,
    readonly rules: ReadingRules,
    readonly lookup?: PlaceLookup,
    readonly device_: DeviceReader = readDevice,
  ) {
    this.at = parseInstant(visit.at) as number;
    this.url = new URL(visit.url);
  }

  get query(): Map<string, string[]> {
    return (this.#query ??= queryOf(this.url));
  }
  get referrer(): Referrer | undefined {
    return this.#referrer === null
      ? (this.#referrer = readReferrer(this.visit.referrer, this.rules.sources))
      : this.#referrer;
  }
  get device(): Device | undefined {
    return this.#device === null ? (this.#device = this.device_(this.visit.userAgent, this.visit.hints)) : this.#device;
  }
  /** Where the visitor is, if a country is known. */
  get place(): Place | undefined {
    if (this.#place !== null) return this.#place;
    const place = this.wholePlace;
    return (this.#place = place?.country ? place : undefined);
  }
  get wholePlace(): Place | undefined {
    if (this.visit.place) return this.visit.place;
    const address = this.address;
    return address && this.lookup?.(address);
  }
  get address(): Address | undefined {
    return this.visit.ip ? parseAddress(this.visit.ip) : undefined;
  }
  get languages(): string[] {
    return (this.#languages ??= languageChoices(this.visit.acceptLanguage));
  }
  /** The visitor's own zone, if it is known. */
  get zone(): string | undefined {
    const told = this.visit.zone;
    if (told && isZone(told)) return told;
    const placed = this.wholePlace?.zone;
    return placed && isZone(placed) ? placed : undefined;
  }
  get path(): string {
    return readablePath(this.url.pathname);
  }
  get cartFigures(): CartFigures | null {
    return this.#figures === undefined ? (this.#figures = this.figures ? this.figures() : null) : this.#figures;
  }
  /** What the cart comes to before offers, in minor units; null if it is not known or in another currency. */
  get cartSubtotal(): number | null {
    if (this.#subtotal === undefined)
      this.#subtotal = this.cartTold ? cartSubtotal(this.visit.cart?.lines ?? []) : null;
    return this.#subtotal;
  }
  /** Whether the cart's money can be told: a cart in the site's currency. */
  get cartTold(): boolean {
    const { cart } = this.visit;
    return cart !== undefined && (cart.currency === undefined || cart.currency === this.rules.currency);
  }

  /** Texts of signals with a fixed name, by the number of the signal; false is absent, undefined not asked for yet. */
  readonly fixedTexts: (Text | false | undefined)[] = [];

  /** A text kept under a key, so that its comparable forms are worked out once. */
  text(key: string, get: () => string | undefined): Text | undefined {
    if (this.#texts.has(key)) return this.#texts.get(key);
    const raw = get();
    const text = raw === undefined ? undefined : new Text(raw);
    this.#texts.set(key, text);
    return text;
  }
}

/** The parameter of a link in which each campaign signal stands, by what follows `campaign.`. */
export const campaignParameters: Readonly<Record<string, string>> = {
  source: "utm_source",
  medium: "utm_medium",
  name: "utm_campaign",
  term: "utm_term",
  content: "utm_content",
  id: "utm_id",
};
const firstFilled = (values: string[] | undefined): string | undefined => values?.find((value) => value !== "");

function searchWords(r: Reading): string | undefined {
  const { referrer, rules } = r;
  if (referrer?.source) {
    const told = firstFilled(referrer.url.searchParams.getAll(referrer.source.parameter));
    if (told !== undefined) return told;
  }
  for (const name of rules.wordParameters) {
    const told = firstFilled(r.query.get(name));
    if (told !== undefined) return told;
  }
  return undefined;
}

/** A value of the site's own data if it is of its field's kind; else absent, and noted. */
function typed(r: Reading, signal: string, field: DataField, value: unknown): Value {
  if (value === undefined || value === null) return undefined;
  switch (field.kind) {
    case "text":
      if (typeof value === "string") return r.text(signal, () => value);
      break;
    case "texts":
      if (Array.isArray(value) && value.every((item) => typeof item === "string"))
        return value.length === 0 ? undefined : value.map((item: string) => new Text(item));
      break;
    case "number":
      if (typeof value === "number" && Number.isFinite(value)) return value;
      break;
    case "flag":
      if (typeof value === "boolean") return value;
      break;
    case "date":
      if (typeof value === "string" && isDate(value)) return value;
      break;
  }
  if (!r.misfits.includes(signal)) r.misfits.push(signal);
  return undefined;
}

const own = <T>(record: Record<string, T> | undefined, name: string): T | undefined =>
  record && Object.hasOwn(record, name) ? record[name] : undefined;

const texts = (list: readonly string[]): Text[] | undefined =>
  list.length === 0 ? undefined : list.map((item) => new Text(item));

type Getter = (r: Reading) => Value;

let fixedCount = 0;
/** Reads a text signal with a fixed name once a visit: a look at an array after that. */
const fixedText = (get: (r: Reading) => string | undefined): Getter => {
  const number = fixedCount++;
  return (r) => {
    const found = r.fixedTexts[number];
    if (found !== undefined) return found === false ? undefined : found;
    const raw = get(r);
    const text = raw === undefined ? undefined : new Text(raw);
    r.fixedTexts[number] = text ?? false;
    return text;
  };
};
const deviceText = (part: "kind" | "os" | "browser"): Getter => {
  const told = fixedText((r) => r.device?.[part]);
  return (r) => (r.device === undefined ? null : told(r));
};
const fromHistory =
  (get: (history: History, r: Reading) => Value): Getter =>
  (r) =>
    r.history === undefined ? null : get(r.history, r);
const fromFigures =
  (get: (figures: CartFigures) => number): Getter =>
  (r) => {
    const figures = r.cartFigures;
    return figures === null ? null : get(figures);
  };
const fromCart =
  (get: (lines: NonNullable<Visit["cart"]>["lines"]) => Value): Getter =>
  (r) =>
    r.visit.cart === undefined ? null : get(r.visit.cart.lines);

const fixed: Record<string, Getter> = {
  place: (r) => r.place ?? null,
  "referrer.url": fixedText((r) => (r.referrer?.host === undefined ? undefined : r.visit.referrer)),
  "referrer.host": fixedText((r) => r.referrer?.host),
  "referrer.kind": fixedText((r) => referrerKind(r.referrer, r.url)),
  "search.engine": fixedText((r) => r.referrer?.source?.engine),
  "search.words": fixedText(searchWords),
  "device.kind": deviceText("kind"),
  "device.os": deviceText("os"),
  "device.browser": deviceText("browser"),
  "device.browserVersion": (r) => (r.device === undefined ? null : r.device.version),
  "device.width": (r) => r.visit.hints?.width ?? null,
  language: (r) => (r.languages.length === 0 ? undefined : r.languages),
  "page.path": fixedText((r) => r.path),
  "page.id": fixedText((r) => r.visit.page?.id),
  "page.category": fixedText((r) => r.visit.page?.category),
  "page.language": fixedText((r) => r.visit.page?.language),
  "page.text": fixedText((r) => r.visit.page?.text),
  "page.tags": (r) => texts(r.visit.page?.tags ?? []),
  "history.views": fromHistory((h) => h.views),
  "history.visits": fromHistory((h) => h.visits),
  "history.minutes": fromHistory((h) => h.minutes),
  "history.daysSinceLast": fromHistory((h) => h.daysSinceLast),
  "history.returning": fromHistory((h) => h.visits > 1),
  "history.landing": fromHistory((h, r) => r.text("history.landing", () => h.landing)),
  "cart.subtotal": (r) => r.cartSubtotal,
  "cart.total": fromFigures((f) => f.total),
  "cart.count": fromCart((lines) => lines.reduce((sum, line) => sum + line.quantity, 0)),
  "cart.skus": fromCart((lines) => texts(lines.map((line) => line.sku))),
  "cart.categories": fromCart((lines) =>
    texts(lines.map((line) => line.category).filter((item) => item !== undefined)),
  ),
  ip: (r) => r.address ?? null,
};
for (const [part, parameter] of Object.entries(campaignParameters))
  fixed[`campaign.${part}`] = fixedText((r) => firstFilled(r.query.get(parameter)));

/** The way to a signal's value in a reading. `time` has none: schedules are asked with the instant. */
export function getterOf(signal: string, fields: ReadonlyMap<string, DataField>): Getter | undefined {
  if (Object.hasOwn(fixed, signal)) return fixed[signal];
  const split = splitSignal(signal);
  if (!split) return undefined;
  const { prefix, name } = split;
  switch (prefix) {
    case "query.":
      return (r) => r.query.get(name)?.map((item, index) => r.text(`${signal} ${index}`, () => item) as Text);
    case "cookie.":
      return (r) => {
        // Most cookies that are asked for are not there: that is settled before anything is kept.
        const raw = own(r.visit.cookies, name);
        return raw === undefined ? undefined : r.text(signal, () => raw);
      };
    case "history.category.":
      return fromHistory((h) => h.categories.get(name) ?? 0);
    case "marker.":
      return (r) => (r.markers === undefined ? null : r.markers.has(name));
    case "cart.toGo.":
      return fromFigures((f) => f.toGo.get(name) ?? 0);
    case "page.data.":
    case "data.": {
      const field = fields.get(signal);
      if (!field) return undefined;
      return (r) => typed(r, signal, field, own(prefix === "data." ? r.visit.data : r.visit.page?.data, name));
    }
  }
}

/** Why a signal could not be determined, and what would make it known. */
export function unknownBecause(signal: string, r: Reading): string {
  if (signal === "place") return r.address ? "no country was found for this address" : "no address or place is known";
  if (signal === "time") return "the visitor’s own time zone is not known";
  if (signal === "device.width") return "the browser has not told its width";
  if (signal.startsWith("device.")) return "no user agent was sent";
  if (signal.startsWith("history.") || signal.startsWith("marker."))
    return "the visitor has not agreed to be remembered";
  if (signal.startsWith("cart."))
    return r.visit.cart && exponentOf(r.rules.currency) !== undefined && !r.cartTold
      ? `the cart is in ${r.visit.cart.currency}, not in ${r.rules.currency}`
      : "the site has not told the cart";
  return "it was not told";
}

export type { SignalNames };
