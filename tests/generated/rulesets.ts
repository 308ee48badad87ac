/** Rulesets and visits made up at random over all signals and operators, from one small vocabulary, so that they meet. */
import { opChoices, signalChoices } from "@/core/ruleset/choices";
import { opsOf, type Op } from "@/core/formats/operators";
import type { Rule } from "@/core/formats/rule";
import type { Ruleset } from "@/core/formats/ruleset";
import { readVisit, type Visit } from "@/core/formats/visit";
import { readRuleset } from "@/core/ruleset/check";
import { signalInfo } from "@/core/visit/signals";
import { randomBy } from "@/core/statistics/random";

const texts = [
  "fern",
  "shade fern",
  "Shade Ferns",
  "mossmail",
  "news",
  "/ferns",
  "/",
  "/ferns/x",
  "a",
  "phone",
  "en",
  "café",
  "shade-fern.example",
  "quarry.example",
];
const paths = ["/", "/ferns", "/ferns/x", "/a", "/caf%C3%A9", "/cart"];
const numbers = [0, 1, 2, 3, 5, 10, 142, 390, 1280];
const amounts = ["0", "10.00", "20.00", "29.99", "30.00", "60.00", "100.00"];
const prices = [0, 1, 500, 999, 1000, 2000, 2999, 3000, 6000, 10_000];
const countries = ["PT", "ES", "DE", "BR", "US", "JP"];
const places = [
  { country: "PT" },
  { country: "PT", region: "PT-11" },
  { country: "PT", region: "PT-11", city: "Lisbon" },
  { country: "PT", city: "Porto" },
  { country: "BR", region: "BR-SP" },
  { country: "ES" },
  { continent: "EU" },
  { continent: "SA" },
  { list: "list" },
  { lat: 41.15, lon: -8.61, km: 200 },
  { lat: 52.5, lon: 13.4, km: 50 },
  { lat: 0, lon: 0, km: 3000 },
];
const languages = ["pt", "pt-PT", "en", "de", "es"];
const days = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
const blocks = ["192.0.2.0/24", "198.51.100.7", "2001:db8::/32"];
const agents = [
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
  "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/10.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (iPad; CPU OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
  "Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0",
  "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)",
];
const referrers = [
  "https://quarry.example/search?q=shade+fern",
  "https://quarry.example/",
  "https://shade-fern.example/",
  "https://shop.example/a",
  "https://mail.google.com/",
  "https://www.facebook.com/",
  "https://elsewhere.example/fern",
  "about:blank",
];

export interface Generator {
  next(): number;
  below(n: number): number;
  pick<T>(list: readonly T[]): T;
  chance(share: number): boolean;
}
export function generator(seed: number): Generator {
  const next = randomBy(seed);
  const below = (n: number) => Math.floor(next() * n);
  return { next, below, pick: (list) => list[below(list.length)] as never, chance: (share) => next() < share };
}

const names = {
  dataFields: [
    { signal: "data", name: "level", kind: "number" },
    { signal: "data", name: "member", kind: "flag" },
    { signal: "data", name: "born", kind: "date" },
    { signal: "data", name: "wish", kind: "texts" },
    { signal: "page.data", name: "season", kind: "text" },
  ],
  placeLists: [{ id: "list", name: "List", places: [{ country: "DE" }, { lat: 41.15, lon: -8.61, km: 100 }] }],
};

/** A condition on any signal by any op that fits, with a value of the vocabulary. */
function condition(g: Generator, ruleset: Ruleset, forbidden: (signal: string) => boolean): Rule {
  const choices = signalChoices(ruleset, forbidden);
  let { signal } = g.pick(choices);
  if (signal.endsWith(".")) signal += g.pick(["q", "fern"]);
  const ops = opChoices(signal, ruleset);
  const op = g.pick(ops.length > 0 ? ops : opsOf("text"));
  const kind = signalInfo(signal, ruleset)?.kind ?? "text";
  const value = valueOf(g, kind, op);
  const known = g.chance(0.06) ? { unknown: true } : {};
  return { signal, op, ...(value === undefined ? {} : { value }), ...known } as Rule;
}

function valueOf(g: Generator, kind: string, op: Op): unknown {
  if (["isTrue", "isFalse", "anniversary", "isPresent", "isAbsent", "isKnown"].includes(op)) return undefined;
  const some = <T>(list: readonly T[]): T[] => Array.from({ length: 1 + g.below(2) }, () => g.pick(list));
  switch (kind) {
    case "schedule":
      return g.pick([
        { zone: "site", days: some(days) },
        { zone: "visitor", windows: [{ start: "09:00", end: "18:00" }] },
        { zone: "site", windows: [{ start: "22:00", end: "02:00" }], days: some(days) },
        { zone: "UTC", from: "2027-01-01T00:00", until: "2027-06-01T00:00" },
        { zone: "site", dates: ["12-25", "02-29"] },
      ]);
    case "place":
      return some(places);
    case "language":
      return some(languages);
    case "address":
      return some(blocks);
    case "date":
      return g.pick(["2000-01-01", "2000-02-29", "2027-05-05"]);
    case "number":
      return op === "between" ? [1, g.pick([1, 3, 10])] : g.pick(numbers);
    case "money":
      return op === "between" ? ["10.00", g.pick(["10.00", "30.00", "60.00"])] : g.pick(amounts);
    default:
      return op === "isOneOf" || op === "isNoneOf"
        ? some(texts)
        : op === "matches" || op === "matchesNot"
          ? g.pick(["*fern*", "/ferns*", "news", "*"])
          : g.pick(/Word|Phrase/.test(op) ? texts.filter((text) => /\w/.test(text)) : texts);
  }
}

function rule(g: Generator, ruleset: Ruleset, forbidden: (signal: string) => boolean, depth = 2): Rule {
  if (depth === 0 || g.chance(0.5)) return condition(g, ruleset, forbidden);
  if (ruleset.audiences.length > 0 && g.chance(0.1) && forbidden("cart.total") === false)
    return { audience: g.pick(ruleset.audiences).id };
  const members = Array.from({ length: 1 + g.below(3) }, () => rule(g, ruleset, forbidden, depth - 1));
  return { [g.pick(["all", "any", "none"])]: members } as unknown as Rule;
}

const free = () => false;
const inMarkers = (signal: string) => /^(marker\.|cart\.total$|cart\.toGo)/.test(signal);
const inOffers = (signal: string) => /^(cart\.total$|cart\.toGo)/.test(signal);

/** A ruleset with rules wherever rules may stand. */
export function makeRuleset(seed: number): Ruleset {
  const g = generator(seed);
  const site = {
    id: "shop",
    name: "Shop",
    zone: g.pick(["Europe/Lisbon", "UTC", "Pacific/Kiritimati"]),
    currency: "EUR",
    language: "en",
    origin: "https://shop.example",
  };
  const base = {
    format: "mirada-ruleset/1",
    site,
    wordParameters: ["kw"],
    searchSources: [{ host: "quarry.example", engine: "quarry", parameter: "q" }],
    ...names,
  };
  const arms = [{ id: "a", weight: 100, content: null }];
  const readAs = (parts: object): Ruleset => {
    const read = readRuleset({ ...base, ...parts });
    if (!read.ok) throw new Error(`seed ${seed}: ${JSON.stringify(read.problems)}`);
    return read.value;
  };
  const bare = readAs({
    markers: [{ id: "m", name: "M", gain: { signal: "page.path", op: "is", value: "/" }, days: 1 }],
    offers: [{ id: "o", name: "O", label: "O", reward: { percent: 10 } }],
  });
  const audiences = g.chance(0.6) ? [{ id: "aud", name: "Aud", rule: rule(g, bare, free) }] : [];
  const known = { ...bare, audiences } as Ruleset;
  const markers = [
    {
      id: "m",
      name: "M",
      gain: rule(g, bare, inMarkers),
      gainViews: 1 + g.below(2),
      days: g.pick([1, 30]),
      lose: g.chance(0.3) ? rule(g, bare, inMarkers) : null,
    },
  ];
  const reward = () => g.pick([{ percent: 10 }, { amount: "5.00" }, { freeDelivery: true }, { percent: 25 }]);
  const offers = Array.from({ length: 1 + g.below(2) }, (_, index) => ({
    id: index === 0 ? "o" : "o2",
    name: "O",
    label: "O",
    reward: reward(),
    combines: g.chance(0.8),
    on: g.chance(0.9),
    ...(g.chance(0.6) ? { threshold: g.pick(["10.00", "30.00", "60.00"]) } : {}),
    ...(g.chance(0.3) ? { scope: g.pick([{ categories: ["fern"] }, { skus: ["fern"] }]) } : {}),
    ...(g.chance(0.15) ? { until: "2027-01-01T00:00" } : {}),
    rule: g.chance(0.6) ? rule(g, bare, inOffers) : null,
  }));
  const slots = Array.from({ length: 1 + g.below(2) }, (_, s) => ({
    id: `s${s}`,
    name: `S${s}`,
    take: g.chance(0.15) ? 2 : 1,
    pages: g.chance(0.3) ? rule(g, known, free, 1) : null,
    variants: Array.from({ length: 1 + g.below(4) }, (_, v) => ({
      id: `s${s}v${v}`,
      name: `V${v}`,
      on: g.chance(0.95),
      rule: g.chance(0.95) ? rule(g, known, free) : null,
      arms,
      ...(g.chance(0.05) ? { rememberDays: 3 } : {}),
    })),
    fallback: null,
  }));
  const popups = g.chance(0.4)
    ? Array.from({ length: 1 + g.below(2) }, (_, p) => ({
        id: `p${p}`,
        name: `P${p}`,
        pages: g.chance(0.5) ? rule(g, known, free, 1) : null,
        rule: g.chance(0.7) ? rule(g, known, free) : null,
        arms,
        opensAfter: { seconds: 1 },
        size: { width: 300, height: 200 },
        ...(g.chance(0.4) ? { cap: { times: 1, per: g.pick(["visit", "day", "ever"]) } } : {}),
      }))
    : [];
  const redirects = g.chance(0.3)
    ? [
        {
          id: "r",
          name: "R",
          rule: rule(g, known, free),
          to: g.pick(["/a", "/ferns", "https://other.example/{country}", "{+path}"]),
          frequency: g.pick(["always", "once"]),
        },
      ]
    : [];
  return readAs({ audiences, markers, offers, slots, popups, redirects });
}

/** A visit of any kind, in words of the same vocabulary. `memory` goes on from an earlier decision where one is given. */
export function makeVisit(g: Generator, memory?: unknown): Visit {
  const query = new URLSearchParams();
  for (const name of [
    "q",
    "fern",
    "kw",
    "utm_source",
    "utm_medium",
    "utm_campaign",
    "utm_term",
    "utm_content",
    "utm_id",
  ])
    if (g.chance(0.25)) query.append(name, g.pick(texts));
  const some = g.chance;
  const place = some(0.75)
    ? {
        country: g.pick(countries),
        ...(some(0.5) ? { region: g.pick(["PT-11", "PT-13", "BR-SP", "ES-MD"]) } : {}),
        ...(some(0.5) ? { city: g.pick(["Lisbon", "Porto", "lisbon", "Berlin"]) } : {}),
        ...(some(0.5)
          ? g.pick([
              { lat: 41.15, lon: -8.61 },
              { lat: 38.72, lon: -9.14 },
              { lat: 52.5, lon: 13.4 },
              { lat: -23.5, lon: -46.6 },
              { lat: 1, lon: 1 },
            ])
          : {}),
      }
    : undefined;
  const raw = {
    at: new Date(Date.UTC(2026, 10, 1) + g.below(500 * 1440) * 60_000).toISOString(),
    url: `https://shop.example${g.pick(paths)}${query.size > 0 ? `?${query}` : ""}`,
    ...(some(0.6) ? { referrer: g.pick(referrers) } : {}),
    ...(some(0.5)
      ? { ip: g.pick(["192.0.2.9", "198.51.100.7", "203.0.113.1", "2001:db8::1", "::ffff:192.0.2.1"]) }
      : {}),
    ...(place ? { place } : {}),
    ...(some(0.85) ? { userAgent: g.pick(agents) } : {}),
    ...(some(0.5)
      ? {
          hints: {
            ...(some(0.3) ? { mobile: some(0.5) } : {}),
            ...(some(0.3) ? { platform: g.pick(["Windows", "Android", "iOS", "macOS"]) } : {}),
            ...(some(0.7) ? { width: g.pick(numbers) } : {}),
          },
        }
      : {}),
    ...(some(0.7)
      ? { acceptLanguage: g.pick(["pt-PT,pt;q=0.9,en;q=0.5", "en", "de,en;q=0.3", "es;q=0.2,pt-BR", "*", "fr"]) }
      : {}),
    ...(some(0.5)
      ? { cookies: Object.fromEntries(["q", "fern"].filter(() => some(0.6)).map((name) => [name, g.pick(texts)])) }
      : {}),
    ...(some(0.5) ? { zone: g.pick(["Europe/Lisbon", "Asia/Tokyo", "America/New_York"]) } : {}),
    ...(some(0.6) ? { consent: true } : {}),
    visitorId: `v-${g.below(1e6)}`,
    ...(some(0.7)
      ? {
          page: {
            ...(some(0.6) ? { id: g.pick(texts) } : {}),
            ...(some(0.6) ? { category: g.pick(["fern", "a", "news"]) } : {}),
            ...(some(0.5) ? { tags: [g.pick(texts), g.pick(texts)] } : {}),
            ...(some(0.4) ? { language: g.pick(["en", "pt"]) } : {}),
            ...(some(0.4) ? { text: g.pick(texts) } : {}),
            ...(some(0.4) ? { data: { season: g.pick(texts) } } : {}),
          },
        }
      : {}),
    ...(some(0.7)
      ? {
          cart: {
            ...(some(0.15) ? { currency: "USD" } : some(0.3) ? { currency: "EUR" } : {}),
            lines: Array.from({ length: g.below(3) }, () => ({
              sku: g.pick(["fern", "a", "x"]),
              ...(some(0.6) ? { category: g.pick(["fern", "a"]) } : {}),
              quantity: g.below(4),
              unitPrice: g.pick(prices),
            })),
          },
        }
      : {}),
    ...(some(0.6)
      ? {
          data: {
            ...(some(0.6) ? { level: g.pick(numbers) } : {}),
            ...(some(0.6) ? { member: some(0.5) } : {}),
            ...(some(0.6) ? { born: g.pick(["2000-01-01", "2000-02-29", "1990-07-07"]) } : {}),
            ...(some(0.6) ? { wish: [g.pick(texts), g.pick(texts)] } : {}),
          },
        }
      : {}),
    ...(memory === undefined ? {} : { memory }),
  };
  // Reading costs more than deciding: one in twenty is read as one from outside is.
  if (!g.chance(0.05)) return raw as Visit;
  const read = readVisit(raw);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value;
}
