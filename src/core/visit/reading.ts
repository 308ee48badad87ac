import { cartSubtotal } from "./cart-lines";
import type { DataField, Ruleset, SearchSource } from "../formats/ruleset";
import { parseInstant, type Place, type Visit } from "../formats/visit";
import { isZone } from "../calendar/zone";
import { Text } from "../text/text";
import { parseAddress, type Address } from "./address";
import { readDevice, type Device } from "./device";
import { languageChoices } from "./language";
import type { PlaceLookup } from "./places";
import { readReferrer, sourceTable, type Referrer } from "./referrer";
import { WebAddress } from "./web-address";

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

const none: readonly string[] = [];

/** Reads user agents; a caller may pass one that remembers equal ones. */
export type DeviceReader = typeof readDevice;

/**
 * What a visit does not tell by itself: it leans on memory, markers and offers. Each is worked out when it is first asked for, of the
 * very reading, so that it finds what it leans on in turn. What is left out is not known.
 */
export interface Beyond {
  history?(r: Reading): History;
  markers?(r: Reading): ReadonlySet<string>;
  /** The money figures; null if the cart is not told or in another currency. */
  figures?(r: Reading): CartFigures | null;
}
const nothing: Beyond = {};

/** One visit, read signal by signal when first asked for. */
export class Reading {
  /** Names of data values whose kind is not the declared one: they count as absent. */
  misfits: readonly string[] = none;

  #at: number | undefined;
  #page: WebAddress | undefined;
  #texts: Map<string, Text | undefined> | undefined;
  #referrer: Referrer | undefined | null = null;
  #device: Device | undefined | null = null;
  #place: Place | undefined | null = null;
  #languages: string[] | undefined;
  #history: History | undefined | null = null;
  #markers: ReadonlySet<string> | undefined | null = null;
  #figures: CartFigures | null | undefined;
  #subtotal: number | null | undefined;

  constructor(
    readonly visit: Visit,
    readonly rules: ReadingRules,
    readonly beyond: Beyond = nothing,
    readonly lookup?: PlaceLookup,
    readonly device_: DeviceReader = readDevice,
  ) {}

  /** The instant, epoch milliseconds. */
  get at(): number {
    return (this.#at ??= parseInstant(this.visit.at) as number);
  }
  /** The address of the page. */
  get page(): WebAddress {
    return (this.#page ??= WebAddress.of(this.visit.url));
  }
  get url(): URL {
    return this.page.url;
  }
  get query(): Map<string, string[]> {
    return this.page.query;
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
    return this.page.path;
  }
  /** Undefined: no consent, so unknown. */
  get history(): History | undefined {
    if (this.#history === null) this.#history = this.beyond.history?.(this);
    return this.#history;
  }
  /** The ids of the markers that are held; undefined: no consent, so unknown. */
  get markers(): ReadonlySet<string> | undefined {
    if (this.#markers === null) {
      // While they are worked out none is known: no marker leans on another.
      this.#markers = undefined;
      this.#markers = this.beyond.markers?.(this);
    }
    return this.#markers;
  }
  get cartFigures(): CartFigures | null {
    if (this.#figures === undefined) this.#figures = this.beyond.figures?.(this) ?? null;
    return this.#figures;
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
    const known = this.#texts?.get(key);
    if (known !== undefined || this.#texts?.has(key)) return known;
    const raw = get();
    const text = raw === undefined ? undefined : new Text(raw);
    (this.#texts ??= new Map()).set(key, text);
    return text;
  }
}
