import { describe, expect, it } from "vitest";
import { timeline } from "../analysis/timeline";
import { engineOf, ruleset, truth, variant, visit } from "../testing";
import { readVisit } from "../formats/visit";
import type { MemoryJson } from "../memory/memory";
import { createEngine } from "./engine";
import { countOpened } from "./popups";

const block = {
  blockTypes: [
    {
      id: "b",
      name: "B",
      fields: [
        { id: "t", name: "T", kind: "line" },
        { id: "l", name: "L", kind: "link" },
      ],
    },
  ],
};
const text = (t: string, tokens = {}) => ({ type: "b", fields: { t }, tokens });

describe("slots", () => {
  it("show the first eligible variant, else the fallback; every slot on the page answers", () => {
    const engine = createEngine(
      ruleset({
        ...block,
        slots: [
          {
            id: "s",
            name: "S",
            variants: [
              variant("off", null, { on: false }),
              variant("no", { signal: "campaign.source", op: "is", value: "x" }),
            ],
            fallback: text("F"),
          },
          { id: "empty", name: "E" },
          { id: "elsewhere", name: "X", pages: { signal: "page.path", op: "is", value: "/x" } },
        ],
      }),
    );
    const { slots } = engine.decide(visit());
    expect(slots).toEqual({
      s: [{ variant: null, arm: null, content: { type: "b", fields: { t: "F" } } }],
      empty: [{ variant: null, arm: null, content: null }],
    });
    expect(engine.decide(visit({ url: "https://shop.example/?utm_source=X" })).slots.s?.[0]?.variant).toBe("no");
  });
  it("shows an unknown to nobody, and says which signal was missing", () => {
    const engine = engineOf({ v: { signal: "device.kind", op: "isNot", value: "phone" } });
    const decision = engine.decide(visit(), { trace: true });
    expect(decision.slots.s?.[0]?.variant).toBeNull();
    expect(JSON.stringify(decision.trace)).toContain("no user agent was sent");
  });
  it("takes as many as asked, without the fallback filling up", () => {
    const engine = createEngine(
      ruleset({
        ...block,
        slots: [{ id: "s", name: "S", take: 3, variants: [variant("a"), variant("b")], fallback: text("F") }],
      }),
    );
    expect(engine.decide(visit()).slots.s?.map((item) => [item.variant, item.content])).toEqual([
      ["a", null],
      ["b", null],
    ]);
  });
  it("pins a variant whatever its rule, and the verdict still tells the truth", () => {
    const engine = engineOf({ v: { signal: "campaign.source", op: "is", value: "x" }, w: null });
    expect(engine.decide(visit(), { pins: { s: "v" } }).slots.s?.[0]?.variant).toBe("v");
    expect(engine.decide(visit(), { pins: { s: null } }).slots.s?.[0]?.variant).toBeNull();
    expect(engine.decide(visit()).slots.s?.[0]?.variant).toBe("w");
  });
  it("remembers a variant for its days, in its place of the order", () => {
    const engine = createEngine(
      ruleset({
        slots: [
          {
            id: "s",
            name: "S",
            variants: [variant("v", { signal: "campaign.source", op: "is", value: "x" }, { rememberDays: 2 })],
          },
        ],
      }),
    );
    const first = engine.decide(visit({ consent: true, url: "https://shop.example/?utm_source=x" }));
    const again = (at: string) =>
      engine.decide(visit({ consent: true, at, memory: first.memory })).slots.s?.[0]?.variant;
    expect(again("2026-11-26T10:14:59Z")).toBe("v");
    expect(again("2026-11-26T10:15:00Z")).toBeNull();
    expect(engine.decide(visit({ at: "2026-11-25T10:15:00Z", memory: first.memory })).slots.s?.[0]?.variant).toBeNull();
  });
  it("draws arms by their weights, the same one for the same visitor", () => {
    const arms = [
      { id: "a", weight: 25.5, content: null },
      { id: "b", weight: 74.5, content: null },
    ];
    const engine = createEngine(ruleset({ slots: [{ id: "s", name: "S", variants: [variant("v", null, { arms })] }] }));
    let a = 0;
    const n = 20_000;
    for (let i = 0; i < n; i++) if (engine.decide(visit({ visitorId: `v-${i}` })).slots.s?.[0]?.arm === "a") a++;
    // Four standard deviations of the binomial distribution.
    expect(Math.abs(a / n - 0.255)).toBeLessThan(4 * Math.sqrt((0.255 * 0.745) / n));
    expect(engine.decide(visit()).slots.s?.[0]?.arm).toBe("a");
  });
});

describe("content", () => {
  const fill = (t: string, tokens: object, parts = {}) =>
    createEngine(
      ruleset({
        ...block,
        slots: [
          {
            id: "s",
            name: "S",
            variants: [variant("v", null, { arms: [{ id: "a", weight: 100, content: text(t, tokens) }] })],
            fallback: text("Plain"),
          },
        ],
      }),
    ).decide(visit(parts)).slots.s?.[0]?.content?.fields.t;
  const name = { name: { signal: "query.name", fallback: "there" } };
  it("puts tokens in as text, with their fallback", () => {
    expect(fill("Hello {name}", name)).toBe("Hello there");
    expect(fill("Hello {name}", name, { url: "https://shop.example/?name=<b>Ann</b>" })).toBe("Hello <b>Ann</b>");
    expect(fill("Hello {name}", { name: { signal: "query.name" } })).toBe("Plain");
    expect(
      fill(
        "It''s {n, plural, one {# fern} other {# ferns}}",
        { n: { signal: "cart.count" } },
        { cart: { lines: [{ sku: "f", quantity: 2, unitPrice: 1 }] } },
      ),
    ).toBe("It's 2 ferns");
    expect(
      fill(
        "{togo, number, ::currency/EUR} to go",
        { togo: { signal: "cart.subtotal" } },
        { cart: { lines: [{ sku: "f", quantity: 2, unitPrice: 1295 }] } },
      ),
    ).toBe("€25.90 to go");
  });
});

describe("history and markers", () => {
  const engine = createEngine(
    ruleset({
      markers: [
        {
          id: "fan",
          name: "Fan",
          gain: { signal: "page.category", op: "is", value: "ferns" },
          gainViews: 2,
          lose: { signal: "query.bye", op: "isPresent" },
          days: 1,
        },
      ],
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("fan", { signal: "marker.fan", op: "isTrue" }),
            variant("back", { signal: "history.returning", op: "isTrue" }),
          ],
        },
      ],
    }),
  );
  const see = (at: string, memory: unknown, more = {}) =>
    engine.decide(visit({ at, memory, consent: true, page: { category: "ferns" }, ...more }));
  it("are brought up to date before rules are judged, and expire", () => {
    const one = see("2026-11-24T10:00:00Z", null);
    expect(one.markers).toEqual([]);
    const two = see("2026-11-24T10:05:00Z", one.memory);
    expect(two.markers).toEqual(["fan"]);
    expect(two.slots.s?.[0]?.variant).toBe("fan");
    expect(see("2026-11-25T10:04:59Z", two.memory, { page: {} }).markers).toEqual(["fan"]);
    const gone = see("2026-11-25T10:05:00Z", two.memory, { page: {} });
    expect(gone.markers).toEqual([]);
    expect(gone.slots.s?.[0]?.variant).toBe("back");
    expect(see("2026-11-24T10:06:00Z", two.memory, { url: "https://shop.example/?bye" }).markers).toEqual([]);
  });
  it("forget without consent, and read damaged memory as empty", () => {
    expect(engine.decide(visit({ memory: { v: 1 } })).memory).toBeNull();
    for (const memory of [
      "x",
      3,
      [],
      { v: 1, h: "no" },
      { v: 1, h: [1, 1e300, -1] },
      { v: 1, h: [1, 2], c: [[1], ["a"]] },
    ])
      expect(see("2026-11-24T10:00:00Z", memory).slots.s?.[0]?.variant).toBe(null);
  });
  it("keep within the cookie's size: what is longest unused leaves first", () => {
    let memory: unknown = null;
    const start = Date.parse("2026-01-01T00:00:00Z");
    for (let i = 0; i < 400; i++)
      memory = engine.decide(
        visit({
          at: new Date(start + i * 60_000).toISOString(),
          consent: true,
          memory,
          page: { category: `category-${i}` },
        }),
      ).memory;
    const stored = JSON.stringify(memory);
    expect(Buffer.from(stored).toString("base64url").length).toBeLessThanOrEqual(3584);
    expect(stored).toContain("category-399");
    expect(stored).not.toContain('"category-1"');
  });
});

const popupWith = (cap: unknown) => ({
  id: "p",
  name: "P",
  opensAfter: { leaving: true },
  size: { width: 300, height: 200 },
  arms: [{ id: "a", weight: 100, content: null }],
  cap,
});

describe("redirects, pop-ups and offers", () => {
  const redirect = (more: object) => createEngine(ruleset({ redirects: [{ id: "r", name: "R", ...more }] }));
  it("expand the template, keep the query, and never loop", () => {
    const engine = redirect({ to: "https://{country}.shop.example{+path}?lang={language}", keepQuery: true });
    const at = {
      url: "https://shop.example/a%20b?x=1&lang=zz&x=2#f",
      place: { country: "PT" },
      acceptLanguage: "pt-PT",
    };
    expect(engine.decide(visit(at)).redirect?.location).toBe("https://pt.shop.example/a%20b?lang=pt&x=1&x=2");
    expect(engine.decide(visit()).redirect).toBeNull();
    expect(redirect({ to: "{+path}#top" }).decide(visit(), { trace: true }).trace?.redirects[0]?.verdict).toBe(
      "would loop",
    );
  });
  it("keep a redirect's frequency in memory", () => {
    const engine = redirect({ to: "/x", frequency: "once" });
    expect(engine.decide(visit()).redirect).toBeNull();
    const taken = engine.decide(visit({ consent: true }));
    expect(taken.redirect?.location).toBe("https://shop.example/x");
    expect(engine.decide(visit({ consent: true, memory: taken.memory })).redirect).toBeNull();
  });
  it("hold a capped pop-up back", () => {
    const popup = popupWith({ times: 1, per: "day" });
    const engine = createEngine(ruleset({ popups: [popup] }));
    expect(engine.decide(visit()).popup).toBeNull();
    const first = engine.decide(visit({ consent: true }));
    expect(first.popup?.id).toBe("p");
    expect(
      engine.decide(visit({ consent: true, memory: first.memory, at: "2026-11-24T23:59:00Z" }), { trace: true }).trace
        ?.popups[0]?.verdict,
    ).toBe("held back");
    expect(engine.decide(visit({ consent: true, memory: first.memory, at: "2026-11-25T00:00:00Z" })).popup?.id).toBe(
      "p",
    );
  });
  it("hold a pop-up back for some hours after it opened, across visits and days", () => {
    const popup = popupWith({ hours: 36 });
    const engine = createEngine(ruleset({ popups: [popup] }));
    const at = (instant: string, memory?: unknown) =>
      engine.decide(visit({ consent: true, memory, at: instant }), { trace: true });
    const first = at("2026-12-31T10:00:00Z");
    expect([engine.decide(visit()).popup, first.popup?.id]).toEqual([null, "p"]);
    const held = at("2027-01-01T21:59:00Z", first.memory);
    expect([held.popup, held.trace?.popups[0]]).toMatchObject([
      null,
      { verdict: "held back", reason: "it opened 2159 minutes ago, and opens at most once in 36 hours" },
    ]);
    expect(at("2027-01-01T22:00:00Z", held.memory).popup?.id).toBe("p");
    // Nothing opens, and nothing counts, while something else is at hand.
    const muted = engine.decide(visit({ consent: true }), { popup: null, trace: true });
    expect([muted.popup, muted.trace?.popups[0]?.verdict]).toEqual([null, "shown"]);
    expect((muted.memory as MemoryJson).p).toBeUndefined();
  });
  it("count a pop-up when it is decided, or once it has opened", () => {
    const popup = popupWith({ times: 1, per: "ever" });
    const rules = ruleset({ popups: [popup] });
    const engine = createEngine(rules);
    const at = "2026-11-24T10:00:00Z";
    const decided = Date.parse(at);
    const unopened = engine.decide(visit({ consent: true, at }), { countPopups: "opened" });
    // It never opened: the next page has it once more.
    const next = engine.decide(visit({ consent: true, at: "2026-11-24T10:05:00Z", memory: unopened.memory }), {
      countPopups: "opened",
    });
    expect(next.popup?.id).toBe("p");
    const opened = countOpened(rules, next.memory, "p", decided + 300_000, decided + 320_000);
    expect(engine.decide(visit({ consent: true, at: "2026-11-24T10:10:00Z", memory: opened })).popup).toBeNull();
    // Told twice, or of what there is no longer: nothing more is counted.
    expect(countOpened(rules, opened, "p", decided + 300_000, decided + 330_000)).toBeUndefined();
    expect(countOpened(rules, next.memory, "gone", decided, decided)).toBeUndefined();
    // Beside it everything is remembered alike.
    expect({ ...opened, p: undefined, h: opened?.h.slice(0, 5) }).toEqual({
      ...(next.memory as MemoryJson),
      p: undefined,
      h: (next.memory as MemoryJson).h.slice(0, 5),
    });
  });
  it("reckon offers in order, on what earlier ones left", () => {
    // Ferns 2 × 31.00 = 62.00 and a tool 19.50. 10 % off ferns from 60.00: 6.20. Then 5.00 off all from 75.00: left 75.30.
    const engine = createEngine(
      ruleset({
        offers: [
          {
            id: "ferns",
            name: "Ferns",
            threshold: "60.00",
            scope: { categories: ["ferns"] },
            reward: { percent: 10 },
            label: "10 %",
          },
          { id: "five", name: "Five", threshold: "75.00", reward: { amount: "5.00" }, label: "5" },
          {
            id: "alone",
            name: "Alone",
            threshold: "80.00",
            reward: { freeDelivery: true },
            label: "Free",
            combines: false,
          },
        ],
      }),
    );
    const cart = {
      lines: [
        { sku: "f", category: "ferns", quantity: 2, unitPrice: 3100 },
        { sku: "t", quantity: 1, unitPrice: 1950 },
      ],
    };
    expect(engine.decide(visit({ cart })).cart).toEqual({
      subtotal: 8150,
      adjustments: [
        { offer: "ferns", label: "10 %", amount: -620 },
        { offer: "five", label: "5", amount: -500 },
      ],
      freeDelivery: false,
      total: 7030,
      toGo: { ferns: 0, five: 0, alone: 970 },
    });
  });
});

describe("visits", () => {
  it.each([
    [{ at: "2026-11-24" }, "/at"],
    [{ at: "2026-02-30T00:00:00Z" }, "/at"],
    [{ url: "/ferns" }, "/url"],
    [{ url: "ftp://shop.example/" }, "/url"],
    [{ surprise: 1 }, "/surprise"],
    [{ page: { surprise: 1 } }, "/page/surprise"],
    [{ cookies: { a: 1 } }, "/cookies/a"],
    [{ cart: { lines: [{ sku: "x", quantity: -1, unitPrice: 1 }] } }, "/cart/lines/0/quantity"],
    [{ cart: { lines: [{ sku: "x", quantity: 1.5, unitPrice: 1 }] } }, "/cart/lines/0/quantity"],
  ])("refuse %j at %s", (parts, path) => {
    const read = readVisit({ at: "2026-11-24T10:15:00Z", url: "https://shop.example/", ...parts });
    expect(read.ok ? [] : read.problems.map((item) => item.path)).toEqual([path]);
  });
  it("take what cannot be read as not told", () => {
    expect(truth({ signal: "referrer.kind", op: "is", value: "direct" }, { referrer: "not a url" })).toBe("true");
    expect(truth({ signal: "ip", op: "isKnown" }, { ip: "1.2.3.4.5" })).toBe("false");
    expect(truth({ signal: "ip", op: "isIn", value: ["192.0.2.0/24"] }, { ip: "::ffff:192.0.2.7" })).toBe("true");
    expect(truth({ signal: "device.kind", op: "isKnown" }, { userAgent: "" })).toBe("false");
  });
});

describe("timeline", () => {
  it("finds who wins when, to the minute, over a clock change", () => {
    const engine = engineOf({
      clinic: {
        signal: "time",
        op: "within",
        value: { zone: "site", days: ["SU"], windows: [{ start: "10:00", end: "12:00" }] },
      },
    });
    const from = Date.parse("2026-10-24T23:00:00Z"); // Sunday 25 October 00:00 in Lisbon, the day the clocks go back
    const stretches = timeline(engine, "s", visit(), from, from + 25 * 3_600_000);
    expect(stretches.map((item) => [new Date(item.from).toISOString(), item.variants[0]])).toEqual([
      ["2026-10-24T23:00:00.000Z", null],
      ["2026-10-25T10:00:00.000Z", "clinic"],
      ["2026-10-25T12:00:00.000Z", null],
    ]);
  });
});
