/**
 * Sections 2 to 5 of docs/engine.md written down a second time, slow and obvious: what a visit's signals are, and whether a rule is
 * true of it. Shares nothing with the engine but the shapes: URLs are the platform's, words the ICU's (Intl.Segmenter), wall clocks
 * Temporal's, blocks of addresses Node's. What leans on memory or offers is told from outside; it has tests of its own.
 */
import { BlockList, isIPv6 } from "node:net";
import { Temporal } from "temporal-polyfill";
import type { Condition, Rule } from "@/core/formats/rule";
import type { PlaceEntry, Ruleset } from "@/core/formats/ruleset";
import type { Schedule } from "@/core/formats/schedule";
import type { Place, Visit } from "@/core/formats/visit";
import { holdsPlainly } from "./plain-schedule";

/** True, false or unknown. */
export type Three = boolean | null;
/** What memory and offers come to, for one visit; null is unknown. */
export interface Outside {
  history: {
    views: number;
    visits: number;
    minutes: number;
    daysSinceLast?: number;
    landing: string;
    seen(category: string): number;
  } | null;
  holds(marker: string): boolean | null;
  /** In minor units. */
  total: number | null;
  toGo(offer: string): number | null;
}

/** A value: undefined is absent, null unknown. Texts of several values are lists. */
type Told = string | string[] | number | boolean | Place | undefined | null;

const nonEmpty = (values: string[]) => values.find((value) => value !== "");
const bare = (host: string) => host.toLowerCase().replace(/^www\./, "");
const isUnder = (host: string, domain: string) => host === domain || host.endsWith(`.${domain}`);

function referrerOf(visit: Visit): URL | undefined {
  return visit.referrer && URL.canParse(visit.referrer) ? new URL(visit.referrer) : undefined;
}
function sourceOf(visit: Visit, { searchSources }: Ruleset) {
  const host = bare(referrerOf(visit)?.hostname ?? "");
  return searchSources
    .filter((source) => isUnder(host, bare(source.host)))
    .sort((a, b) => b.host.length - a.host.length)[0];
}
function referrerKind(visit: Visit, ruleset: Ruleset): string {
  const referrer = referrerOf(visit);
  if (!referrer) return "direct";
  const host = bare(referrer.hostname);
  if (host === "") return "other";
  if (host === bare(new URL(visit.url).hostname)) return "internal";
  if (sourceOf(visit, ruleset)) return "search";
  // Of the lists that ship with the product, those that the made-up visits name.
  if (host === "mail.google.com") return "mail";
  if (isUnder(host, "facebook.com")) return "social";
  return "other";
}
function searchWords(visit: Visit, ruleset: Ruleset): string | undefined {
  const source = sourceOf(visit, ruleset);
  const said = source && nonEmpty(referrerOf(visit)?.searchParams.getAll(source.parameter) ?? []);
  if (said !== undefined) return said;
  for (const name of ruleset.wordParameters) {
    const typed = nonEmpty(new URL(visit.url).searchParams.getAll(name));
    if (typed !== undefined) return typed;
  }
  return undefined;
}

/** The agents of made-up visits, read by eye. */
function deviceOf({
  userAgent = "",
  hints,
}: Visit): { kind: string; os?: string; browser?: string; version?: number } | null {
  if (userAgent === "") return null;
  if (/bot/i.test(userAgent)) return { kind: "bot" };
  const system = /iPhone/.test(userAgent)
    ? "ios"
    : /iPad/.test(userAgent)
      ? "ipados"
      : /Android/.test(userAgent)
        ? "android"
        : /Windows/.test(userAgent)
          ? "windows"
          : "linux";
  const told = { Windows: "windows", Android: "android", iOS: "ios", macOS: "macos" }[hints?.platform ?? ""];
  const seen = /^(ios|android)$/.test(system) ? "phone" : system === "ipados" ? "tablet" : "desktop";
  const [browser, version] = /Chrome\/(\d+)/.test(userAgent)
    ? ["chrome", /Chrome\/(\d+)/]
    : /Firefox\/(\d+)/.test(userAgent)
      ? ["firefox", /Firefox\/(\d+)/]
      : (["safari", /Version\/(\d+)/] as const);
  return {
    kind: seen === "desktop" && hints?.mobile === true ? "phone" : seen,
    os: told ?? system,
    browser: browser as string,
    version: Number((version as RegExp).exec(userAgent)?.[1]),
  };
}

/** The choices of an Accept-Language header (RFC 9110, 12.5.4), best first. */
function languagesOf(header = ""): string[] {
  return header
    .split(",")
    .map((part) => {
      const [tag = "", weight = "q=1"] = part.split(";").map((text) => text.trim());
      return { tag, q: Number(weight.replace(/^q=/, "")) };
    })
    .filter(({ tag, q }) => tag !== "*" && tag !== "" && q > 0)
    .sort((a, b) => b.q - a.q)
    .map(({ tag }) => tag);
}

function pathOf(url: string): string {
  const { pathname } = new URL(url);
  try {
    return decodeURIComponent(pathname);
  } catch {
    return pathname;
  }
}

const orAbsent = (list: string[] | undefined) => (list === undefined || list.length === 0 ? undefined : list);
const utm = {
  source: "source",
  medium: "medium",
  name: "campaign",
  term: "term",
  content: "content",
  id: "id",
} as const;

function valueOf(signal: string, visit: Visit, ruleset: Ruleset, outside: Outside): Told {
  const parameters = new URL(visit.url).searchParams;
  const { history } = outside;
  const { cart, page } = visit;
  const after = (prefix: string) => (signal.startsWith(prefix) ? signal.slice(prefix.length) : undefined);
  const own = (values: Record<string, unknown> | undefined, name: string) =>
    values && Object.hasOwn(values, name) ? (values[name] as Told) : undefined;
  const campaign = after("campaign.");
  if (campaign !== undefined) return nonEmpty(parameters.getAll(`utm_${utm[campaign as keyof typeof utm]}`));
  const parameter = after("query.");
  if (parameter !== undefined) return orAbsent(parameters.getAll(parameter));
  const cookie = after("cookie.");
  if (cookie !== undefined) return own(visit.cookies, cookie);
  const category = after("history.category.");
  if (category !== undefined) return history && history.seen(category);
  const marker = after("marker.");
  if (marker !== undefined) return outside.holds(marker);
  const offer = after("cart.toGo.");
  if (offer !== undefined) return outside.toGo(offer);
  const ofPage = after("page.data.");
  if (ofPage !== undefined) return own(page?.data, ofPage);
  const ofVisitor = after("data.");
  if (ofVisitor !== undefined) {
    const value = own(visit.data, ofVisitor);
    return Array.isArray(value) ? orAbsent(value) : value;
  }
  const device = deviceOf(visit);
  switch (signal) {
    case "place":
      return visit.place?.country ? visit.place : null;
    case "referrer.url":
      return referrerOf(visit)?.hostname ? visit.referrer : undefined;
    case "referrer.host":
      return bare(referrerOf(visit)?.hostname ?? "") || undefined;
    case "referrer.kind":
      return referrerKind(visit, ruleset);
    case "search.engine":
      return sourceOf(visit, ruleset)?.engine;
    case "search.words":
      return searchWords(visit, ruleset);
    case "device.kind":
      return device && device.kind;
    case "device.os":
      return device && device.os;
    case "device.browser":
      return device && device.browser;
    case "device.browserVersion":
      return device && device.version;
    case "device.width":
      return visit.hints?.width ?? null;
    case "language":
      return orAbsent(languagesOf(visit.acceptLanguage));
    case "page.path":
      return pathOf(visit.url);
    case "page.id":
      return page?.id;
    case "page.category":
      return page?.category;
    case "page.language":
      return page?.language;
    case "page.text":
      return page?.text;
    case "page.tags":
      return orAbsent(page?.tags);
    case "history.views":
      return history && history.views;
    case "history.visits":
      return history && history.visits;
    case "history.minutes":
      return history && history.minutes;
    case "history.daysSinceLast":
      return history && history.daysSinceLast;
    case "history.returning":
      return history && history.visits > 1;
    case "history.landing":
      return history && history.landing;
    case "cart.subtotal":
      return cart && (cart.currency ?? ruleset.site.currency) === ruleset.site.currency
        ? cart.lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0)
        : null;
    case "cart.total":
      return outside.total;
    case "cart.count":
      return cart ? cart.lines.reduce((sum, line) => sum + line.quantity, 0) : null;
    case "cart.skus":
      return cart ? orAbsent(cart.lines.map((line) => line.sku)) : null;
    case "cart.categories":
      return cart ? orAbsent(cart.lines.flatMap((line) => line.category ?? [])) : null;
    case "ip":
      return visit.ip ? visit.ip.replace(/^::ffff:(?=\d+\.)/, "") : null;
    default:
      throw new Error(`no such signal: ${signal}`);
  }
}

/** Full case folding by way of capitals, which is the same for the words that the made-up visits use. */
const folded = (text: string) => text.normalize("NFC").toUpperCase().toLowerCase().normalize("NFC");
const segmenter = new Intl.Segmenter("en", { granularity: "word" });
const wordsOf = (text: string) =>
  [...segmenter.segment(text)].map(({ segment }) => segment).filter((word) => /[\p{L}\p{N}]/u.test(word));
const star = (pattern: string) =>
  new RegExp(
    `^${pattern
      .split("*")
      .map((part) => part.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"))
      .join("[^]*")}$`,
  );

/** Whether one text meets an operator that denies nothing. */
function textHolds(op: string, value: unknown, text: string, exact: boolean): boolean {
  const form = (told: unknown) => (exact ? String(told).normalize("NFC") : folded(String(told)));
  const [have, want] = [form(text), form(value)];
  switch (op) {
    case "is":
      return have === want;
    case "isOneOf":
      return (value as string[]).some((item) => form(item) === have);
    case "contains":
      return have.includes(want);
    case "startsWith":
      return have.startsWith(want);
    case "endsWith":
      return have.endsWith(want);
    case "matches":
      return star(want).test(have);
    case "hasAllWords":
      return wordsOf(want).every((word) => wordsOf(have).includes(word));
    case "hasAnyWord":
      return wordsOf(want).some((word) => wordsOf(have).includes(word));
    case "hasPhrase":
      return ` ${wordsOf(have).join(" ")} `.includes(` ${wordsOf(want).join(" ")} `);
    default:
      throw new Error(`no op of texts: ${op}`);
  }
}

function numberHolds(op: string, value: unknown, number: number, read: (told: unknown) => number): boolean {
  if (op === "between") {
    const [low, high] = (value as unknown[]).map(read) as [number, number];
    return low <= number && number <= high;
  }
  const limit = read(value);
  return { eq: number === limit, lt: number < limit, lte: number <= limit, gt: number > limit, gte: number >= limit }[
    op
  ] as boolean;
}
/** An amount in cents: of the made-up visits, all in euro. */
const cents = (told: unknown): number => {
  const [units = "0", rest = ""] = String(told).split(".");
  return Number(units) * 100 + Number(rest.padEnd(2, "0"));
};

const continents: Record<string, string> = { PT: "EU", ES: "EU", DE: "EU", BR: "SA", US: "NA", JP: "AS" };
const all = (truths: Three[]): Three => (truths.includes(false) ? false : truths.includes(null) ? null : true);
const any = (truths: Three[]): Three => (truths.includes(true) ? true : truths.includes(null) ? null : false);
const opposite = (truth: Three): Three => (truth === null ? null : !truth);

/** The angle between two points by the law of cosines, and its length on a sphere of 6,371 km. */
function kilometres(a: { lat: number; lon: number }, b: { lat: number; lon: number }): number {
  const [p, q, l] = [a.lat, b.lat, a.lon - b.lon].map((degrees) => (degrees * Math.PI) / 180) as [
    number,
    number,
    number,
  ];
  const cosine = Math.sin(p) * Math.sin(q) + Math.cos(p) * Math.cos(q) * Math.cos(l);
  return 6371 * Math.acos(Math.min(1, Math.max(-1, cosine)));
}
function placeHolds(entries: readonly PlaceEntry[], place: Place, ruleset: Ruleset): Three {
  return any(
    entries.map((entry): Three => {
      if ("list" in entry)
        return placeHolds(ruleset.placeLists.find((list) => list.id === entry.list)?.places ?? [], place, ruleset);
      if ("continent" in entry) return continents[place.country ?? ""] === entry.continent;
      if ("km" in entry)
        return place.lat === undefined || place.lon === undefined
          ? null
          : kilometres({ lat: place.lat, lon: place.lon }, entry) <= entry.km;
      const part = (want: string | undefined, have: string | undefined): Three[] =>
        want === undefined ? [] : [have === undefined ? null : folded(have) === folded(want)];
      return all([
        ...part(entry.country, place.country),
        ...part(entry.region, place.region),
        ...part(entry.city, place.city),
      ]);
    }),
  );
}

/** Operators that deny another (section 3, “absent”): true of what is not there. */
const denied: Record<string, string> = {
  isNot: "is",
  containsNot: "contains",
  startsNotWith: "startsWith",
  matchesNot: "matches",
  isNoneOf: "isOneOf",
  hasNoneOfWords: "hasAnyWord",
  ne: "eq",
};
const amounts = (signal: string) => /^cart\.(subtotal|total|toGo\..+)$/.test(signal);

function holdsOf(value: NonNullable<Told>, condition: Condition, op: string, visit: Visit, ruleset: Ruleset): Three {
  const { signal, value: asked, exact = false } = condition;
  if (signal === "place") {
    const inside = placeHolds(asked as PlaceEntry[], value as Place, ruleset);
    return op === "isNotIn" ? opposite(inside) : inside;
  }
  if (signal === "ip") {
    const list = new BlockList();
    for (const block of asked as string[]) {
      const [address = "", bits] = block.split("/");
      const family = isIPv6(address) ? "ipv6" : "ipv4";
      if (bits === undefined) list.addAddress(address, family);
      else list.addSubnet(address, Number(bits), family);
    }
    return list.check(value as string, isIPv6(value as string) ? "ipv6" : "ipv4") !== (op === "isNotIn");
  }
  if (op === "prefers" || op === "accepts") {
    const fits = (tag: string) =>
      (asked as string[]).some((range) => `${tag.toLowerCase()}-`.startsWith(`${range.toLowerCase()}-`));
    return op === "prefers" ? fits((value as string[])[0] ?? "") : (value as string[]).some(fits);
  }
  if (op === "isTrue" || op === "isFalse") return value === (op === "isTrue");
  if (["on", "before", "after"].includes(op)) {
    const side = Temporal.PlainDate.compare(value as string, asked as string);
    return op === "on" ? side === 0 : op === "before" ? side < 0 : side > 0;
  }
  if (op === "anniversary") {
    const today = Temporal.Instant.from(visit.at).toZonedDateTimeISO(ruleset.site.zone).toPlainDate();
    // Temporal moves 29 February to the 28th in other years (“constrain”).
    return Temporal.PlainDate.from(value as string)
      .with({ year: today.year })
      .equals(today);
  }
  if (typeof value === "number") return numberHolds(op, asked, value, amounts(signal) ? cents : Number);
  return [value as string | string[]].flat().some((text) => textHolds(op, asked, text, exact));
}

function conditionHolds(condition: Condition, visit: Visit, ruleset: Ruleset, outside: Outside): Three {
  const { signal, op } = condition;
  if (signal === "time") {
    const { zone, ...schedule } = condition.value as Schedule;
    const where = zone === "site" ? ruleset.site.zone : zone === "visitor" ? (visit.zone ?? visit.place?.zone) : zone;
    if (where === undefined) return null;
    return holdsPlainly({ ...schedule, zone: where }, Date.parse(visit.at)) === (op === "within");
  }
  const value = valueOf(signal, visit, ruleset, outside);
  if (op === "isKnown") return value !== null;
  if (value === null) return null;
  if (op === "isPresent" || op === "isAbsent") return (value === undefined) === (op === "isAbsent");
  const positive = denied[op];
  if (value === undefined) return positive !== undefined;
  const truth = holdsOf(value, condition, positive ?? op, visit, ruleset);
  return positive === undefined ? truth : opposite(truth);
}

/** Whether a rule is true of a visit. */
export function plainly(rule: Rule, visit: Visit, ruleset: Ruleset, outside: Outside): Three {
  if (rule === null) return true;
  const each = (rules: Rule[]) => rules.map((inner) => plainly(inner, visit, ruleset, outside));
  if ("all" in rule) return all(each(rule.all));
  if ("any" in rule) return any(each(rule.any));
  if ("none" in rule) return opposite(any(each(rule.none)));
  if ("audience" in rule)
    return plainly(ruleset.audiences.find(({ id }) => id === rule.audience)?.rule ?? null, visit, ruleset, outside);
  const truth = conditionHolds(rule, visit, ruleset, outside);
  return truth === null && rule.unknown === true ? true : truth;
}
