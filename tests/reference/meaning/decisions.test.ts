/** What is written of slots, pop-ups, redirects, memory, markers, the cart and content: a case for each sentence. */
import { expect, it } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { at, base, condition, rulesetWith, url, visitWith } from "./small";

const cases: [sentence: string, got: unknown, expected: unknown][] = [];
const is = (sentence: string, got: unknown, expected: unknown) => cases.push([sentence, got, expected]);

/** As JSON, since any part of any decision is looked at. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Told = any;
const decide = (more: object, visit: object = {}): Told =>
  createEngine(rulesetWith(more)).decide(visitWith(visit), { trace: true });
const later = (minutes: number) => new Date(Date.parse(at) + minutes * 60_000).toISOString();
const blockTypes = [
  {
    id: "b",
    name: "B",
    fields: [
      { id: "t", name: "T", kind: "line" },
      { id: "l", name: "L", kind: "link" },
      { id: "h", name: "H", kind: "html" },
    ],
  },
  { id: "k", name: "K", fields: [{ id: "t", name: "T", kind: "line" }] },
];
const block = (t: string, tokens: object = {}, more: object = {}) => ({ type: "b", fields: { t, ...more }, tokens });
const arms = (content: object | null = null) => [{ id: "a", weight: 100, content }];

const slot = (variants: object[], more: object = {}) => ({
  blockTypes,
  slots: [{ id: "s", name: "S", variants, ...more }],
});
is("no pages no key", Object.keys(decide(slot([], { pages: condition("page.path", "is", "/other") })).slots), []);
is("no fallback: every slot answers", decide(slot([])).slots, { s: [{ variant: null, arm: null, content: null }] });
is(
  "fallback",
  decide(slot([], { fallback: block("F") })).slots.s.map((x: Told) => [x.variant, x.arm, x.content.fields.t]),
  [[null, null, "F"]],
);
is(
  "null arm shows fallback, counted",
  decide(slot([{ id: "v", name: "V", arms: arms() }], { fallback: block("F") })).slots.s.map((x: Told) => [
    x.variant,
    x.arm,
    x.content?.fields.t,
  ]),
  [["v", "a", "F"]],
);
is(
  "null arm in list",
  decide(slot([{ id: "v", name: "V", arms: arms() }], { take: 2, fallback: block("F") })).slots.s.map((x: Told) => [
    x.variant,
    x.content,
  ]),
  [["v", null]],
);
is(
  "list not filled up",
  decide(slot([{ id: "v", name: "V", arms: arms(block("x")) }], { take: 2, fallback: block("F") })).slots.s.length,
  1,
);
// remember
const rememberedBy = (on: boolean) =>
  slot([
    { id: "v", name: "V", on, rule: condition("query.x", "isPresent"), rememberDays: 2, arms: arms(block("v")) },
    { id: "w", name: "W", arms: arms(block("w")) },
  ]);
const remembered = rememberedBy(true);
const m1 = decide(remembered, { url: url + "?x=1", consent: true }).memory;
is("remembered", decide(remembered, { consent: true, memory: m1, at: later(60 * 47) }).slots.s[0].variant, "v");
is("not at 48h", decide(remembered, { consent: true, memory: m1, at: later(60 * 48) }).slots.s[0].variant, "w");
const m2 = decide(remembered, { consent: true, memory: m1, at: later(60 * 47) }).memory;
is("renewed", decide(remembered, { consent: true, memory: m2, at: later(60 * 94) }).slots.s[0].variant, "v");
is("no consent not remembered", decide(remembered, { memory: m1, at: later(60) }).slots.s[0].variant, "w");
is("no consent memory null", decide(remembered, { memory: m1 }).memory, null);
is(
  "off not eligible though remembered",
  decide(rememberedBy(false), { consent: true, memory: m1, at: later(60) }).slots.s[0].variant,
  "w",
);
is(
  "no visitorId first weight above 0",
  decide(
    slot([
      {
        id: "v",
        name: "V",
        arms: [
          { id: "z", weight: 0, content: null },
          { id: "a", weight: 100, content: null },
        ],
      },
    ]),
  ).slots.s[0].arm,
  "a",
);
const pop = (more: object = {}) => ({
  id: "p",
  name: "P",
  pages: null,
  rule: null,
  arms: arms(block("P")),
  opensAfter: { seconds: 2 },
  size: { width: 1, height: 1 },
  ...more,
});
is("capped without consent", decide({ blockTypes, popups: [pop({ cap: { times: 1, per: "ever" } })] }).popup, null);
is("uncapped without consent", decide({ blockTypes, popups: [pop()] }).popup?.id, "p");
const dayPop = { blockTypes, popups: [pop({ cap: { times: 1, per: "day" } })] };
const dm = decide(dayPop, { consent: true, at: "2026-11-24T23:30:00Z" }).memory;
is("cap day same", decide(dayPop, { consent: true, memory: dm, at: "2026-11-24T23:50:00Z" }).popup, null);
is("cap day next", decide(dayPop, { consent: true, memory: dm, at: "2026-11-25T00:10:00Z" }).popup?.id, "p");
is(
  "cap visit",
  decide(
    { blockTypes, popups: [pop({ cap: { times: 1, per: "visit" } })] },
    {
      consent: true,
      memory: decide({ blockTypes, popups: [pop({ cap: { times: 1, per: "visit" } })] }, { consent: true }).memory,
      at: later(29),
    },
  ).popup,
  null,
);
is(
  "cap visit next",
  decide(
    { blockTypes, popups: [pop({ cap: { times: 1, per: "visit" } })] },
    {
      consent: true,
      memory: decide({ blockTypes, popups: [pop({ cap: { times: 1, per: "visit" } })] }, { consent: true }).memory,
      at: later(30),
    },
  ).popup?.id,
  "p",
);
const gap = { site: { ...base, popupGapMinutes: 60 }, blockTypes, popups: [pop()] };
const gm = decide(gap, { consent: true }).memory;
is("gap holds across visits", decide(gap, { consent: true, memory: gm, at: later(59) }).popup, null);
is("gap at", decide(gap, { consent: true, memory: gm, at: later(60) }).popup?.id, "p");
is(
  "gap held back trace",
  decide(gap, { consent: true, memory: gm, at: later(59) }).trace.popups[0].verdict,
  "held back",
);
is(
  "null popup arm",
  [
    decide({ blockTypes, popups: [pop({ arms: arms() })] }).popup?.arm,
    decide({ blockTypes, popups: [pop({ arms: arms() })] }).popup?.content,
  ],
  ["a", null],
);
const red = (more: object = {}) => ({ redirects: [{ id: "r", name: "R", to: "/b", ...more }] });
is("redirect", decide(red()).redirect, { id: "r", status: 302, location: "https://shop.example/b" });
is(
  "redirect shape",
  (({ slots, popup, cart, markers }) => ({ slots, popup, cart, markers }))(
    decide({ ...red(), ...slot([]) }, { cart: { lines: [] } }),
  ),
  { slots: {}, popup: null, cart: null, markers: [] },
);
is("loop", decide(red({ to: "/" })).redirect, null);
is("loop but fragment", decide(red({ to: "/#x" })).redirect, null);
is("loop verdict", decide(red({ to: "/" })).trace.redirects[0].verdict, "would loop");
is(
  "path template",
  decide(red({ to: "https://pt.shop.example{+path}" }), { url: "https://shop.example/a/b?x=1" }).redirect?.location,
  "https://pt.shop.example/a/b",
);
is(
  "path encoded",
  decide(red({ to: "https://pt.shop.example/{path}" }), { url: "https://shop.example/a/b?x=1" }).redirect?.location,
  "https://pt.shop.example/%2Fa%2Fb",
);
is(
  "host with port",
  decide(red({ to: "http://{+host}/x" }), { url: "https://shop.example:81/" }).redirect?.location,
  "http://shop.example:81/x",
);
is("undefined var", decide(red({ to: "/{country}" })).redirect, null);
is(
  "country lower",
  decide(red({ to: "/{country}" }), { place: { country: "PT" } }).redirect?.location,
  "https://shop.example/pt",
);
is(
  "language primary",
  decide(red({ to: "/{language}" }), { acceptLanguage: "pt-BR" }).redirect?.location,
  "https://shop.example/pt",
);
is("query empty text", decide(red({ to: "/b?{+query}" })).redirect?.location, "https://shop.example/b?");
is(
  "keepQuery",
  decide(red({ to: "/b?x=9#f", keepQuery: true }), { url: url + "?a=1&x=2&b=%C3%A9&a=3" }).redirect?.location,
  "https://shop.example/b?x=9&a=1&b=%C3%A9&a=3#f",
);
is("javascript", decide(red({ to: "javascript:alert(1)" })).redirect, null);
is("once needs consent", decide(red({ frequency: "once" })).redirect, null);
const om = decide(red({ frequency: "once" }), { consent: true }).memory;
is("once", decide(red({ frequency: "once" }), { consent: true, memory: om, at: later(60 * 24 * 90) }).redirect, null);
is(
  "visit again",
  decide(red({ frequency: "visit" }), {
    consent: true,
    memory: decide(red({ frequency: "visit" }), { consent: true }).memory,
    at: later(1),
  }).redirect,
  null,
);
is("skipBots unknown", decide(red({ skipBots: true })).redirect?.id, "r");
is(
  "skipBots",
  decide(red({ skipBots: true }), {
    userAgent: "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)",
  }).redirect,
  null,
);
is("exempt unknown", decide(red({ exemptAddresses: ["10.0.0.0/8"] })).redirect?.id, "r");
is("exempt", decide(red({ exemptAddresses: ["10.0.0.0/8"] }), { ip: "10.1.1.1" }).redirect, null);
is(
  "view not kept",
  decide(
    { ...slot([{ id: "v", name: "V", rule: condition("history.views", "eq", 1), arms: arms(block("x")) }]) },
    { consent: true, memory: decide(red(), { consent: true }).memory },
  ).slots.s[0]?.variant,
  "v",
);
const mk = (more: object = {}) => ({
  markers: [
    {
      id: "m",
      name: "M",
      gain: condition("query.m", "isPresent"),
      lose: condition("query.l", "isPresent"),
      days: 1,
      ...more,
    },
  ],
});
const mm = decide(mk(), { url: url + "?m=1", consent: true });
is("marker now", mm.markers, ["m"]);
is("marker until", decide(mk(), { consent: true, memory: mm.memory, at: later(60 * 24 - 1) }).markers, ["m"]);
is("marker gone", decide(mk(), { consent: true, memory: mm.memory, at: later(60 * 24) }).markers, []);
is("marker lost", decide(mk(), { consent: true, memory: mm.memory, url: url + "?l=1&m=1" }).markers, []);
is("marker without consent", decide(mk(), { url: url + "?m=1" }).markers, []);
const g2 = decide(mk({ gainViews: 2 }), { url: url + "?m=1", consent: true });
is("gainViews 1 of 2", g2.markers, []);
is(
  "gainViews 2 of 2",
  decide(mk({ gainViews: 2 }), { url: url + "?m=1", consent: true, memory: g2.memory, at: later(5) }).markers,
  ["m"],
);
is(
  "setUntil exclusive",
  decide(mk({ setUntil: "2026-11-24T10:15" }), { url: url + "?m=1", consent: true }).markers,
  [],
);
is("setFrom inclusive", decide(mk({ setFrom: "2026-11-24T10:15" }), { url: url + "?m=1", consent: true }).markers, [
  "m",
]);
is(
  "marker on that very page",
  decide(
    { ...mk(), ...slot([{ id: "v", name: "V", rule: condition("marker.m", "isTrue"), arms: arms(block("x")) }]) },
    { url: url + "?m=1", consent: true },
  ).slots.s[0]?.variant,
  "v",
);
// history
const hist = (rule: object) => slot([{ id: "v", name: "V", rule, arms: arms(block("x")) }]);
const h1 = decide({}, { consent: true, page: { category: "ferns" } }).memory;
is(
  "daysSinceLast absent first",
  decide(hist(condition("history.daysSinceLast", "isAbsent")), { consent: true }).slots.s[0]?.variant,
  "v",
);
is(
  "minutes rounded",
  decide(hist(condition("history.minutes", "eq", 14)), { consent: true, memory: h1, at: "2026-11-24T10:29:59Z" }).slots
    .s[0]?.variant,
  "v",
);
is(
  "visits 29:59",
  decide(hist(condition("history.visits", "eq", 1)), { consent: true, memory: h1, at: "2026-11-24T10:44:59Z" }).slots
    .s[0]?.variant,
  "v",
);
is(
  "visits 30:00",
  decide(hist(condition("history.visits", "eq", 2)), { consent: true, memory: h1, at: "2026-11-24T10:45:00Z" }).slots
    .s[0]?.variant,
  "v",
);
is(
  "category views",
  decide(hist(condition("history.category.ferns", "eq", 2)), {
    consent: true,
    memory: h1,
    at: later(1),
    page: { category: "ferns" },
  }).slots.s[0]?.variant,
  "v",
);
is(
  "landing",
  decide(hist(condition("history.landing", "is", "/")), { consent: true, memory: h1, at: later(1), url: url + "x" })
    .slots.s[0]?.variant,
  "v",
);
is(
  "earlier at counts as last",
  decide(hist(condition("history.views", "eq", 2)), { consent: true, memory: h1, at: "2020-01-01T00:00:00Z" }).slots
    .s[0]?.variant,
  "v",
);
is(
  "days 24h",
  decide(hist(condition("history.daysSinceLast", "eq", 1)), { consent: true, memory: h1, at: later(60 * 48 - 1) }).slots
    .s[0]?.variant,
  "v",
);
const cartAfter = (list: object[], cart: object, v: object = {}) =>
  decide({ offers: list.map((o, i) => ({ id: `o${i}`, name: `O${i}`, label: "L", ...o })) }, { cart, ...v }).cart;
const cart = (...lines: [string, number, number, string?][]) => ({
  currency: "EUR",
  lines: lines.map(([sku, quantity, unitPrice, category]) => ({
    sku,
    quantity,
    unitPrice,
    ...(category ? { category } : {}),
  })),
});
is("percent half up", cartAfter([{ reward: { percent: 10 } }], cart(["a", 1, 1005])).total, 904);
is("amount capped", cartAfter([{ reward: { amount: "50" } }], cart(["a", 1, 1000])).total, 0);
is("at least threshold", cartAfter([{ threshold: "10", reward: { amount: "1" } }], cart(["a", 1, 1000])).total, 900);
is("below threshold toGo", cartAfter([{ threshold: "10", reward: { amount: "1" } }], cart(["a", 1, 999])).toGo, {
  o0: 1,
});
is("toGo off", cartAfter([{ on: false, threshold: "10", reward: { amount: "1" } }], cart(["a", 1, 400])).toGo, {
  o0: 600,
});
is("toGo none threshold", cartAfter([{ reward: { amount: "1" } }], cart(["a", 1, 400])).toGo, { o0: 0 });
is("empty cart no offer", cartAfter([{ reward: { freeDelivery: true } }], cart()).freeDelivery, false);
is("free delivery amount 0", cartAfter([{ reward: { freeDelivery: true } }], cart(["a", 1, 1])).adjustments, [
  { offer: "o0", label: "L", amount: 0 },
]);
is(
  "combines false after other",
  cartAfter([{ reward: { amount: "1" } }, { combines: false, reward: { amount: "1" } }], cart(["a", 1, 1000])).total,
  900,
);
is(
  "combines false ends",
  cartAfter([{ combines: false, reward: { amount: "1" } }, { reward: { amount: "1" } }], cart(["a", 1, 1000])).total,
  900,
);
is(
  "later threshold less earlier",
  cartAfter([{ reward: { amount: "1" } }, { threshold: "10", reward: { amount: "1" } }], cart(["a", 1, 1000])).toGo,
  { o0: 0, o1: 100 },
);
is(
  "scope sku",
  cartAfter([{ scope: { skus: ["a"] }, reward: { percent: 50 } }], cart(["a", 1, 1000], ["b", 1, 1000])).total,
  1500,
);
is("scope case", cartAfter([{ scope: { skus: ["A"] }, reward: { percent: 50 } }], cart(["a", 1, 1000])).total, 1000);
is(
  "no category none scope",
  cartAfter([{ scope: { categories: ["x"] }, reward: { percent: 50 } }], cart(["a", 1, 1000])).total,
  1000,
);
is(
  "remainders",
  cartAfter(
    [{ reward: { amount: "1" } }, { scope: { skus: ["c"] }, reward: { percent: 100 } }],
    cart(["a", 1, 100], ["b", 1, 100], ["c", 1, 100]),
  ).adjustments.map((x: Told) => x.amount),
  [-100, -67],
);
is("other currency cart null", cartAfter([], { currency: "USD", lines: [] }), null);
is(
  "offer by subtotal",
  cartAfter([{ rule: condition("cart.subtotal", "gte", "10.00"), reward: { amount: "1" } }], cart(["a", 1, 1000]))
    .total,
  900,
);
is(
  "offer dates",
  cartAfter([{ until: "2026-11-24T10:15", reward: { amount: "1" } }], cart(["a", 1, 1000])).total,
  1000,
);
is(
  "offer rule unknown",
  cartAfter([{ rule: condition("place", "isIn", [{ country: "PT" }]), reward: { amount: "1" } }], cart(["a", 1, 1000]))
    .total,
  1000,
);
const text = (t: string, tokens: object, v: object = {}, fallback: object | null = null, more: object = {}) =>
  decide({ ...slot([{ id: "v", name: "V", arms: arms(block(t, tokens, more)) }], { fallback }) }, v).slots.s[0].content
    .fields;
is("token", text("Hello {n}", { n: { signal: "query.n", fallback: "there" } }, { url: url + "?n=Ana" }).t, "Hello Ana");
is(
  "token empty",
  text("Hello {n}", { n: { signal: "query.n", fallback: "there" } }, { url: url + "?n=" }).t,
  "Hello there",
);
is(
  "token blank",
  text("Hello {n}", { n: { signal: "query.n", fallback: "there" } }, { url: url + "?n=%20" }).t,
  "Hello there",
);
is("missing -> fallback field", text("Hello {n}", { n: { signal: "query.n" } }, {}, block("F")).t, "F");
is(
  "missing -> other type empty",
  text("Hello {n}", { n: { signal: "query.n" } }, {}, { type: "k", fields: { t: "F" }, tokens: {} }).t,
  "",
);
is(
  "missing -> fallback missing too",
  text("Hello {n}", { n: { signal: "query.n" } }, {}, block("F {n}", { n: { signal: "query.n" } })).t,
  "",
);
is("apostrophe", text("It''s '{n}'", { n: { signal: "query.n", fallback: "x" } }).t, "It's {n}");
is("single apostrophe", text("It's", {}).t, "It's");
is(
  "money",
  text(
    "Only {togo, number, ::currency/EUR} to go",
    { togo: { signal: "cart.subtotal" } },
    { cart: cart(["a", 1, 1250]) },
  ).t,
  "Only €12.50 to go",
);
is(
  "money fallback text",
  text("Only {togo, number, ::currency/EUR} to go", { togo: { signal: "cart.subtotal", fallback: "a little" } }).t,
  "Only a little to go",
);
is("first of several", text("{n}", { n: { signal: "query.n" } }, { url: url + "?n=1&n=2" }).t, "1");
is(
  "link encoded",
  text("x", { n: { signal: "query.n" } }, { url: url + "?n=" + encodeURIComponent("a/b?c") }, null, { l: "/x/{n}" }).l,
  "/x/a%2Fb%3Fc",
);
is(
  "link scheme",
  text("x", { n: { signal: "query.n" } }, { url: url + "?n=" + encodeURIComponent("javascript:alert(1)") }, null, {
    l: "{n}",
  }).l.startsWith("javascript:"),
  false,
);
is(
  "html escaped",
  text("x", { n: { signal: "query.n" } }, { url: url + "?n=" + encodeURIComponent("<b>") }, null, { h: "<p>{n}</p>" })
    .h,
  "<p>&lt;b&gt;</p>",
);

it.each(cases)("%s", (_, got, expected) => expect(got).toEqual(expected));
