/** What is written of visits, signals, conditions, rules and schedules, and of what is refused: a case for each sentence. */
import { expect, it } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { base, condition, problemsWith, rulesetWith, url, visitProblems, visitWith } from "./small";

const cases: [sentence: string, got: unknown, expected: unknown][] = [];
const is = (sentence: string, got: unknown, expected: unknown) => cases.push([sentence, got, expected]);

const arms = [{ id: "a", weight: 100, content: null }];
const [shown, isFalse, isUnknown] = ["shown", "rule false", "rule unknown"];
/** The verdict of a variant with a rule. */
function truth(rule: object, visit: object = {}, more: object = {}): string | undefined {
  const slots = [{ id: "s", name: "S", variants: [{ id: "v", name: "V", rule, arms }] }];
  const decision = createEngine(rulesetWith({ slots, ...more })).decide(visitWith(visit), { trace: true });
  return decision.trace?.slots[0]?.variants[0]?.verdict;
}
const dataFields = [
  { signal: "data", name: "n", kind: "number" },
  { signal: "data", name: "list", kind: "texts" },
  { signal: "data", name: "d", kind: "date" },
  { signal: "data", name: "f", kind: "flag" },
  { signal: "page.data", name: "t", kind: "text" },
];

is("unknown key", visitProblems({ foo: 1 }).includes("foo"), true);
is("relative url", visitProblems({ url: "/x" }) !== "ok", true);
is("bad at", visitProblems({ at: "2026-11-24" }) !== "ok", true);
is("half quantity", visitProblems({ cart: { lines: [{ sku: "a", quantity: 1.5, unitPrice: 1 }] } }) !== "ok", true);
is("negative price", visitProblems({ cart: { lines: [{ sku: "a", quantity: 1, unitPrice: -1 }] } }) !== "ok", true);
is("zero ok", visitProblems({ cart: { lines: [{ sku: "a", quantity: 0, unitPrice: 0 }] } }), "ok");
is("no sku", visitProblems({ cart: { lines: [{ quantity: 1, unitPrice: 1 }] } }) !== "ok", true);
is("memory junk", visitProblems({ memory: "junk", consent: true }), "ok");
is("consent yes", truth(condition("history.views", "gte", 1), { consent: "yes" }), isUnknown);
is("consent yes+true", truth(condition("history.views", "gte", 1), { consent: true }), shown);
is("bad ip", truth(condition("ip", "isPresent"), { ip: "banana" }), isUnknown);
is("empty ip", truth(condition("ip", "isPresent"), { ip: "" }), isUnknown);
is("mapped ip", truth(condition("ip", "isIn", ["203.0.113.0/24"]), { ip: "::ffff:203.0.113.9" }), shown);
is("bad zone", truth(condition("time", "within", { zone: "visitor", days: ["TU"] }), { zone: "Mars/X" }), isUnknown);
is(
  "bad zone, place.zone",
  truth(condition("time", "within", { zone: "visitor", days: ["TU"] }), {
    zone: "",
    place: { country: "PT", zone: "Europe/Lisbon" },
  }),
  shown,
);
is("empty ua", truth(condition("device.kind", "is", "desktop"), { userAgent: "" }), isUnknown);
is("referrer bad", truth(condition("referrer.kind", "is", "direct"), { referrer: "not a url" }), shown);
is("referrer about", truth(condition("referrer.kind", "is", "other"), { referrer: "about:blank" }), shown);
is("referrer about absent host", truth(condition("referrer.host", "isAbsent"), { referrer: "about:blank" }), shown);
is("referrer about absent url", truth(condition("referrer.url", "isAbsent"), { referrer: "about:blank" }), shown);
is(
  "referrer internal",
  truth(condition("referrer.kind", "is", "internal"), { referrer: "http://www.shop.example:81/x" }),
  shown,
);
is(
  "referrer host",
  truth(condition("referrer.host", "is", "a.example", { exact: true }), { referrer: "https://WWW.A.example/x" }),
  shown,
);
is(
  "referrer url as told",
  truth(condition("referrer.url", "endsWith", "/%7Ex", { exact: true }), { referrer: "https://A.example/%7Ex" }),
  shown,
);
is("cookie empty present", truth(condition("cookie.a", "isPresent"), { cookies: { a: "" } }), shown);
is("query empty present", truth(condition("query.a", "isPresent"), { url: url + "?a=" }), shown);
is("query exact names", truth(condition("query.A", "isPresent"), { url: url + "?a=1" }), isFalse);
is("query decode", truth(condition("query.q", "is", "a b+c"), { url: url + "?q=a+b%2Bc" }), shown);
is("query several neg", truth(condition("query.q", "isNot", "a"), { url: url + "?q=a&q=b" }), isFalse);
is("query several pos", truth(condition("query.q", "is", "b"), { url: url + "?q=a&q=b" }), shown);
is("tags empty absent", truth(condition("page.tags", "isAbsent"), { page: { tags: [] } }), shown);
is("page.id empty present", truth(condition("page.id", "isPresent"), { page: { id: "" } }), shown);
is("page.id null absent", truth(condition("page.id", "isAbsent"), { page: { id: null } }), shown);
is(
  "utm first nonempty",
  truth(condition("campaign.source", "is", "x"), { url: url + "?utm_source=&utm_source=x" }),
  shown,
);
is("utm empty absent", truth(condition("campaign.source", "isAbsent"), { url: url + "?utm_source=" }), shown);
is("utm name", truth(condition("campaign.name", "is", "x"), { url: url + "?utm_campaign=x" }), shown);
is("utm id", truth(condition("campaign.id", "is", "x"), { url: url + "?utm_id=x" }), shown);
is(
  "words from URL order",
  truth(condition("search.words", "is", "b"), { url: url + "?kw=&t=b&kw2=a" }, { wordParameters: ["kw", "t", "kw2"] }),
  shown,
);
is(
  "search engine longest",
  truth(
    condition("search.engine", "is", "E2"),
    { referrer: "https://a.b.example/?q=x" },
    {
      searchSources: [
        { host: "b.example", engine: "E1", parameter: "q" },
        { host: "a.b.example", engine: "E2", parameter: "q" },
      ],
    },
  ),
  shown,
);
is(
  "internal before search",
  truth(
    condition("referrer.kind", "is", "internal"),
    { referrer: "https://shop.example/?q=x" },
    { searchSources: [{ host: "shop.example", engine: "E", parameter: "q" }] },
  ),
  shown,
);
is(
  "search www",
  truth(
    condition("referrer.kind", "is", "search"),
    { referrer: "https://www.b.example/?q=x" },
    { searchSources: [{ host: "www.b.example", engine: "E", parameter: "q" }] },
  ),
  shown,
);
is("width unknown", truth(condition("device.width", "gt", 1)), isUnknown);
is("width known no ua", truth(condition("device.width", "gt", 1), { hints: { width: 5 } }), shown);
is("hints without ua", truth(condition("device.kind", "is", "phone"), { hints: { mobile: true } }), isUnknown);
is(
  "hints platform wins",
  truth(condition("device.os", "is", "linux"), {
    userAgent:
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36",
    hints: { platform: "Linux" },
  }),
  shown,
);
is(
  "hints mobile",
  truth(condition("device.kind", "is", "phone"), {
    userAgent:
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Safari/537.36",
    hints: { mobile: true },
  }),
  shown,
);
is(
  "bot browser absent",
  truth(condition("device.browser", "isAbsent"), {
    userAgent: "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)",
  }),
  shown,
);
is(
  "bot version absent",
  truth(condition("device.browserVersion", "isAbsent"), {
    userAgent: "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)",
  }),
  shown,
);
is("no ua browser unknown", truth(condition("device.browser", "isAbsent")), isUnknown);
is("lang q0", truth(condition("language", "isAbsent"), { acceptLanguage: "de;q=0, *" }), shown);
is("lang tie order", truth(condition("language", "prefers", ["fr"]), { acceptLanguage: "fr;q=0.5,de;q=0.5" }), shown);
is("lang q order", truth(condition("language", "prefers", ["de"]), { acceptLanguage: "fr;q=0.5,de" }), shown);
is("lang range", truth(condition("language", "accepts", ["pt-PT"]), { acceptLanguage: "pt" }), isFalse);
is("lang malformed", truth(condition("language", "prefers", ["de"]), { acceptLanguage: "fr;q=2,de;q=0.1" }), shown);
is("path decode", truth(condition("page.path", "is", "/é"), { url: url + "%C3%A9" }), shown);
is(
  "path invalid",
  truth(condition("page.path", "is", "/%E9%C3%A9", { exact: true }), { url: url + "%E9%C3%A9" }),
  shown,
);
is("case fold", truth(condition("cookie.a", "is", "STRASSE"), { cookies: { a: "straße" } }), shown);
is("exact", truth(condition("cookie.a", "is", "STRASSE", { exact: true }), { cookies: { a: "straße" } }), isFalse);
is("nfc", truth(condition("cookie.a", "is", "é"), { cookies: { a: "e\u0301" } }), shown);
is("matches newline", truth(condition("cookie.a", "matches", "a*b"), { cookies: { a: "a\nb" } }), shown);
is("matches special", truth(condition("cookie.a", "matches", "a.b?"), { cookies: { a: "axb" } }), isFalse);
is("matches whole", truth(condition("cookie.a", "matches", "b"), { cookies: { a: "abc" } }), isFalse);
is("word price", truth(condition("cookie.a", "hasAnyWord", "price"), { cookies: { a: "priceless" } }), isFalse);
is(
  "phrase punctuation",
  truth(condition("cookie.a", "hasPhrase", "shade fern"), { cookies: { a: "the Shade, fern!" } }),
  shown,
);
is("phrase order", truth(condition("cookie.a", "hasPhrase", "fern shade"), { cookies: { a: "shade fern" } }), isFalse);
is("none words absent", truth(condition("cookie.a", "hasNoneOfWords", "x"), {}), shown);
is("number ne absent", truth(condition("data.n", "ne", 3), {}, { dataFields }), shown);
is("number wrong kind absent", truth(condition("data.n", "isAbsent"), { data: { n: "3" } }, { dataFields }), shown);
is("flag false absent", truth(condition("data.f", "isFalse"), {}, { dataFields }), isFalse);
is("list empty absent", truth(condition("data.list", "isAbsent"), { data: { list: [] } }, { dataFields }), shown);
is(
  "date anniversary 29",
  truth(condition("data.d", "anniversary"), { at: "2027-02-28T12:00:00Z", data: { d: "2024-02-29" } }, { dataFields }),
  shown,
);
is(
  "date anniversary 29 in leap",
  truth(condition("data.d", "anniversary"), { at: "2028-02-28T12:00:00Z", data: { d: "2024-02-29" } }, { dataFields }),
  isFalse,
);
is(
  "date before",
  truth(condition("data.d", "before", "2024-03-01"), { data: { d: "2024-02-29" } }, { dataFields }),
  shown,
);
is("date bad is absent", truth(condition("data.d", "isAbsent"), { data: { d: "2023-02-29" } }, { dataFields }), shown);
is(
  "money exact",
  truth(condition("cart.subtotal", "eq", "0.30"), {
    cart: { currency: "EUR", lines: [{ sku: "a", quantity: 3, unitPrice: 10 }] },
  }),
  shown,
);
is(
  "money other currency",
  truth(condition("cart.subtotal", "gte", "0"), { cart: { currency: "USD", lines: [] } }),
  isUnknown,
);
is("count other currency", truth(condition("cart.count", "eq", 0), { cart: { currency: "USD", lines: [] } }), shown);
is("cart not told", truth(condition("cart.count", "eq", 0)), isUnknown);
is("skus none absent", truth(condition("cart.skus", "isAbsent"), { cart: { lines: [] } }), shown);
is("cart no currency is site's", truth(condition("cart.subtotal", "eq", "0"), { cart: { lines: [] } }), shown);
is(
  "place unknown city",
  truth(condition("place", "isIn", [{ country: "PT", city: "Lisbon" }]), { place: { country: "PT" } }),
  isUnknown,
);
is(
  "place other country",
  truth(condition("place", "isIn", [{ country: "PT", city: "Lisbon" }]), { place: { country: "ES" } }),
  isFalse,
);
is(
  "place circle unknown",
  truth(condition("place", "isIn", [{ lat: 1, lon: 1, km: 10 }]), { place: { country: "ES" } }),
  isUnknown,
);
is(
  "place circle edge/any",
  truth(condition("place", "isIn", [{ lat: 38.72, lon: -9.14, km: 10 }, { country: "ES" }]), {
    place: { country: "ES" },
  }),
  shown,
);
is(
  "place code case",
  truth(condition("place", "isIn", [{ country: "pt", region: "pt-11" }]), {
    place: { country: "PT", region: "PT-11" },
  }),
  shown,
);
is("place continent", truth(condition("place", "isIn", [{ continent: "EU" }]), { place: { country: "PT" } }), shown);
is("place isKnown", truth(condition("place", "isKnown")), isFalse);
is("unknown true", truth(condition("place", "isIn", [{ country: "PT" }], { unknown: true })), shown);
is("none unknown", truth({ none: [condition("place", "isIn", [{ country: "PT" }])] }), isUnknown);
is(
  "any true unknown",
  truth({ any: [condition("place", "isIn", [{ country: "PT" }]), condition("cookie.a", "isAbsent")] }),
  shown,
);
is(
  "window past midnight",
  truth(condition("time", "within", { zone: "UTC", days: ["FR"], windows: [{ start: "22:00", end: "02:00" }] }), {
    at: "2026-11-28T01:00:00Z",
  }),
  shown,
);
is(
  "window fri 01",
  truth(condition("time", "within", { zone: "UTC", days: ["FR"], windows: [{ start: "22:00", end: "02:00" }] }), {
    at: "2026-11-27T01:00:00Z",
  }),
  isFalse,
);
is(
  "equal window full day",
  truth(condition("time", "within", { zone: "UTC", days: ["FR"], windows: [{ start: "10:00", end: "10:00" }] }), {
    at: "2026-11-28T09:59:00Z",
  }),
  shown,
);
is(
  "window before from covers",
  truth(
    condition("time", "within", {
      zone: "UTC",
      from: "2026-11-28T00:30",
      days: ["FR"],
      windows: [{ start: "22:00", end: "02:00" }],
    }),
    { at: "2026-11-28T01:00:00Z" },
  ),
  shown,
);
is(
  "window before from not before",
  truth(
    condition("time", "within", {
      zone: "UTC",
      from: "2026-11-28T00:30",
      days: ["FR"],
      windows: [{ start: "22:00", end: "02:00" }],
    }),
    { at: "2026-11-28T00:10:00Z" },
  ),
  isFalse,
);
is(
  "24:00 end",
  truth(condition("time", "within", { zone: "UTC", windows: [{ start: "22:00", end: "24:00" }] }), {
    at: "2026-11-28T23:59:00Z",
  }),
  shown,
);
is(
  "skipped window empty",
  truth(condition("time", "within", { zone: "Europe/Lisbon", windows: [{ start: "01:00", end: "02:00" }] }), {
    at: "2026-03-29T01:30:00Z",
  }),
  isFalse,
);
is(
  "dates yearly",
  truth(condition("time", "within", { zone: "UTC", dates: ["12-25"] }), { at: "2031-12-25T12:00:00Z" }),
  shown,
);
is("ip range", truth(condition("ip", "isNotIn", ["2001:db8::/32"]), { ip: "2001:db8::1" }), isFalse);
const refuses = (rule: object) =>
  problemsWith({ slots: [{ id: "s", name: "S", variants: [{ id: "v", name: "V", rule, arms }] }] }).length > 0;
for (const [n, r] of Object.entries({
  emptyContains: condition("cookie.a", "contains", ""),
  words: condition("cookie.a", "hasAnyWord", "!!"),
  emptyList: condition("cookie.a", "isOneOf", []),
  emptyGroup: { all: [] },
  between: condition("device.width", "between", [3, 2]),
  decimals: condition("cart.subtotal", "eq", "1.234"),
  cidr: condition("ip", "isIn", ["10.0.0.0/33"]),
  exactNumber: condition("device.width", "eq", 3, { exact: true }),
  lang: condition("language", "accepts", ["_"]),
  kind: condition("device.width", "eq", "3"),
  op: condition("device.width", "contains", "3"),
  signal: condition("foo.bar", "is", "3"),
  value: condition("cookie.a", "isPresent", "x"),
  noValue: condition("cookie.a", "is"),
  emptyDays: condition("time", "within", { zone: "UTC", days: [] }),
  badDate: condition("time", "within", { zone: "UTC", dates: ["02-30"] }),
  fromUntil: condition("time", "within", { zone: "UTC", from: "2026-01-02T00:00", until: "2026-01-01T00:00" }),
  repeatNoFrom: condition("time", "within", { zone: "UTC", repeat: "FREQ=DAILY" }),
  byhour: condition("time", "within", { zone: "UTC", from: "2026-01-02T00:00", repeat: "FREQ=DAILY;BYHOUR=3" }),
  weeklyMonthday: condition("time", "within", {
    zone: "UTC",
    from: "2026-01-02T00:00",
    repeat: "FREQ=WEEKLY;BYMONTHDAY=3",
  }),
  ord: condition("time", "within", { zone: "UTC", from: "2026-01-02T00:00", repeat: "FREQ=DAILY;BYDAY=1MO" }),
  audience: { audience: "nope" },
  schedPresent: condition("time", "isPresent"),
}))
  is("refused " + n, refuses(r), true);
for (const [n, m] of Object.entries({
  gainNull: { markers: [{ id: "m", name: "M", gain: null, days: 1 }] },
  days0: { markers: [{ id: "m", name: "M", gain: condition("cookie.a", "isPresent"), days: 0 }] },
  gainViews0: { markers: [{ id: "m", name: "M", gain: condition("cookie.a", "isPresent"), days: 1, gainViews: 0 }] },
  markerMarker: { markers: [{ id: "m", name: "M", gain: condition("marker.m", "isTrue"), days: 1 }] },
  markerTotal: { markers: [{ id: "m", name: "M", gain: condition("cart.total", "gte", "1"), days: 1 }] },
  scopeNone: { offers: [{ id: "o", name: "O", reward: { percent: 1 }, label: "x", scope: {} }] },
  scopeEmpty: { offers: [{ id: "o", name: "O", reward: { percent: 1 }, label: "x", scope: { skus: [] } }] },
  percent0: { offers: [{ id: "o", name: "O", reward: { percent: 0 }, label: "x" }] },
  percent101: { offers: [{ id: "o", name: "O", reward: { percent: 101 }, label: "x" }] },
  amount0: { offers: [{ id: "o", name: "O", reward: { amount: "0" }, label: "x" }] },
  thr0: { offers: [{ id: "o", name: "O", threshold: "0", reward: { percent: 1 }, label: "x" }] },
  offerTotal: {
    offers: [{ id: "o", name: "O", rule: condition("cart.total", "gte", "1"), reward: { percent: 1 }, label: "x" }],
  },
  percent3: { offers: [{ id: "o", name: "O", reward: { percent: 1.234 }, label: "x" }] },
  km0: { placeLists: [{ id: "p", name: "P", places: [{ lat: 1, lon: 1, km: 0 }] }] },
  listInList: { placeLists: [{ id: "p", name: "P", places: [{ list: "p" }] }] },
  gap: { site: { ...base, popupGapMinutes: -1 } },
  template: { redirects: [{ id: "r", name: "R", to: "/{nope}" }] },
  template2: { redirects: [{ id: "r", name: "R", to: "/{path" }] },
  circle: { audiences: [{ id: "a", name: "A", rule: { audience: "a" } }] },
  weights: {
    slots: [{ id: "s", name: "S", variants: [{ id: "v", name: "V", arms: [{ id: "a", weight: 99, content: null }] }] }],
  },
  undeclared: { slots: [{ id: "s", name: "S", variants: [], fallback: { type: "x", fields: {} } }] },
  ownTake: { slots: [{ id: "s", name: "S", take: 2, variants: [], fallback: { type: "@hidden", fields: {} } }] },
  noContent: { slots: [{ id: "s", name: "S", variants: [{ id: "v", name: "V", arms: [{ id: "a", weight: 100 }] }] }] },
  take0: { slots: [{ id: "s", name: "S", take: 0, variants: [] }] },
  selector: { slots: [{ id: "s", name: "S", variants: [], at: { selector: "..x" } }] },
}))
  is("refused " + n, problemsWith(m).length > 0, true);
is("list may be empty", problemsWith({ placeLists: [{ id: "p", name: "P", places: [] }] }), []);
is("exempt may be empty", problemsWith({ redirects: [{ id: "r", name: "R", to: "/x", exemptAddresses: [] }] }), []);

it.each(cases)("%s", (_, got, expected) => expect(got).toEqual(expected));
