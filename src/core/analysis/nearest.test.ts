/** The nearest change is the nearest: compared with everything, on domains small enough to try all of them. */
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import type { Visit } from "../formats/visit";
import { ruleset, variant, visit } from "../testing";
import { nearestChange, someoneWho } from "./reach";

const from = Date.UTC(2026, 10, 24);
const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const withRule = (rule: unknown, parts = {}) =>
  ruleset({ slots: [{ id: "s", name: "S", variants: [variant("v", rule)] }], ...parts });
const shownBy = (rules: ReturnType<typeof withRule>) => {
  const engine = createEngine(rules);
  return (seen: Visit) => engine.decide(seen).slots.s?.[0]?.variant === "v";
};
const nearest = (rules: ReturnType<typeof withRule>, start: Visit) =>
  nearestChange({ ruleset: rules, from }, start, rules.slots[0]!, rules.slots[0]!.variants[0]!);

describe("the nearest change", () => {
  it.each([
    { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] },
    { zone: "site", windows: [{ start: "22:00", end: "02:00" }] },
    { zone: "Asia/Tokyo", days: ["SA", "SU"] },
    { zone: "site", from: "2026-11-26T08:15", until: "2026-11-26T08:20" },
  ])("in time is the nearest minute: %o", (schedule) => {
    const rules = withRule(when("time", "within", schedule));
    const shows = shownBy(rules);
    for (const at of ["2026-11-23T15:37:00Z", "2026-11-24T12:01:00Z", "2026-11-25T21:05:00Z"]) {
      const start = visit({ at });
      const change = nearest(rules, start);
      const began = Date.parse(at);
      let least = shows(start) ? 0 : Infinity;
      for (let away = 1; away < 9 * 1440 && least === Infinity; away++)
        if ([-away, away].some((minutes) => shows({ ...start, at: new Date(began + minutes * 60_000).toISOString() })))
          least = away;
      expect(change && shows(change.visit)).toBe(true);
      expect([at, Math.abs(Date.parse(change!.visit.at) - began) / 60_000]).toEqual([at, least]);
    }
  });
  const offers = [
    { id: "ten", name: "Ten", label: "Ten", reward: { percent: 10 } },
    { id: "five", name: "Five", label: "Five", reward: { amount: "5.00" }, threshold: "50.00" },
  ];
  it.each([
    ["from an amount on", when("cart.subtotal", "gte", "30.00"), {}],
    ["more than an amount", when("cart.subtotal", "gt", "30.00"), {}],
    ["between two", when("cart.subtotal", "between", ["12.34", "45.67"]), {}],
    ["a total after offers", when("cart.total", "gte", "20.00"), { offers }],
    [
      "what is missing to an offer",
      { all: [when("cart.subtotal", "gt", "0"), when("cart.toGo.five", "between", ["0.01", "9.99"])] },
      { offers },
    ],
  ] as const)("in money is the nearest amount: %s", (_, rule, parts) => {
    const rules = withRule(rule, parts);
    const shows = shownBy(rules);
    const cart = (cents: number) => ({ lines: cents === 0 ? [] : [{ sku: "a", quantity: 1, unitPrice: cents }] });
    for (const cents of [0, 999, 5200, 9000]) {
      const start = visit({ cart: cart(cents) });
      const change = nearest(rules, start)!;
      let least = Infinity;
      for (let other = 0; other <= 20_000; other++)
        if (Math.abs(other - cents) < least && shows({ ...start, cart: cart(other) })) least = Math.abs(other - cents);
      expect(shows(change.visit)).toBe(true);
      const subtotal = change.visit.cart!.lines.reduce((sum, line) => sum + line.quantity * line.unitPrice, 0);
      expect([cents, Math.abs(subtotal - cents)]).toEqual([cents, least]);
    }
  });
  it("in numbers is the nearest one", () => {
    const wide = withRule(when("device.width", "gte", 1280));
    expect(nearest(wide, visit({ hints: { width: 390 } }))!.visit.hints?.width).toBe(1280);
    const narrow = withRule(when("device.width", "lt", 600));
    expect(nearest(narrow, visit({ hints: { width: 1280 } }))!.visit.hints!.width!).toBeLessThan(600);
    const old = withRule(when("device.browserVersion", "lt", 100));
    const chrome =
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
    expect(nearest(old, visit({ userAgent: chrome }))!.visit.userAgent).toContain("Chrome/99.");
  });
  it("in the site's own numbers and dates, and in history, is the nearest one", () => {
    const fields = {
      dataFields: [
        { signal: "data", name: "level", kind: "number" },
        { signal: "data", name: "since", kind: "date" },
      ],
    };
    const level = withRule(when("data.level", "between", [5, 9]), fields);
    for (const [at, wanted] of [
      [2, 5],
      [40, 9],
    ])
      expect(nearest(level, visit({ data: { level: at } }))!.visit.data).toEqual({ level: wanted });
    const since = withRule(when("data.since", "after", "2026-03-01"), fields);
    expect(nearest(since, visit({ data: { since: "2026-01-10" } }))!.visit.data).toEqual({ since: "2026-03-02" });
    const often = withRule(when("history.visits", "gte", 4));
    const engine = createEngine(often);
    const found = nearest(often, visit({ consent: true, visitorId: "v" }))!.visit;
    expect(engine.read(found).history?.visits).toBe(4);
    const flag = withRule(when("history.returning", "isTrue"));
    expect(
      createEngine(flag).read(nearest(flag, visit({ consent: true, visitorId: "v" }))!.visit).history?.visits,
    ).toBe(2);
  });
  it("changes as little of a place as will do", () => {
    const rules = withRule(
      when("place", "isIn", [{ country: "PT", region: "PT-13", city: "Porto" }, { country: "ES" }]),
    );
    const start = visit({ place: { country: "PT", region: "PT-13", city: "Braga" } });
    expect(nearest(rules, start)!.visit.place).toMatchObject({ country: "PT", region: "PT-13", city: "Porto" });
  });
  it("a parameter that has to be there says something: nobody sends an empty one", () => {
    const url = nearest(withRule(when("query.choice", "isPresent")), visit({}))!.visit.url;
    expect(new URL(url).searchParams.get("choice")).toMatch(/./);
  });
  it("an empty cart gets a few euros, not hundreds, and keeps what is in it", () => {
    const rules = withRule(when("cart.subtotal", "gte", "5.00"));
    expect(nearest(rules, visit({ cart: { lines: [] } }))!.visit.cart!.lines).toMatchObject([
      { quantity: 1, unitPrice: 500 },
    ]);
    const some = nearest(
      rules,
      visit({ cart: { lines: [{ sku: "fern", category: "ferns", quantity: 2, unitPrice: 200 }] } }),
    )!;
    expect(some.visit.cart!.lines[0]).toMatchObject({ sku: "fern", quantity: 2, unitPrice: 200 });
  });
});

describe("a visitor who sees something", () => {
  it("is one that the engine shows it to, not one who is redirected", () => {
    const rules = withRule(when("campaign.source", "isPresent"), {
      redirects: [{ id: "r", name: "R", rule: when("campaign.source", "isNot", "mail"), to: "/elsewhere" }],
    });
    const solved = someoneWho({ ruleset: rules, from }, rules.slots[0]!, rules.slots[0]!.variants[0]!);
    expect(solved.found && shownBy(rules)(solved.visit)).toBe(true);
  });
  it("is not found in a number of real tries, where that is not proven", () => {
    const rules = withRule({
      all: [when("place", "isIn", [{ lat: 0, lon: 0, km: 1 }]), when("place", "isIn", [{ lat: 50, lon: 50, km: 1 }])],
    });
    const solved = someoneWho({ ruleset: rules, from }, rules.slots[0]!, rules.slots[0]!.variants[0]!);
    expect(solved).toMatchObject({ found: false, proof: "searched" });
    expect(!solved.found && solved.tries).toBeGreaterThan(1000);
  });
});
