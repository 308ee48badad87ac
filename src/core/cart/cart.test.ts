import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { applyEdits } from "../draft/edit";
import type { Offer, Ruleset } from "../formats/ruleset";
import { allFindings } from "../analysis/findings";
import { problemsOf, ruleset, site, visit } from "../testing";
import { cartAbout, cartFromCode, changeLines } from "./about";
import { accountOf, reckoner } from "./account";
import { followLabel, followThreshold, makeMessages } from "../draft/cart-messages";

const line = (sku: string, category: string | undefined, quantity: number, unitPrice: number) => ({
  sku,
  ...(category === undefined ? {} : { category }),
  quantity,
  unitPrice,
});
const offer = (id: string, reward: unknown, more: Record<string, unknown> = {}) => ({
  id,
  name: id,
  label: id,
  reward,
  ...more,
});
const decide = (offers: unknown[], lines: unknown[], more: Record<string, unknown> = {}, parts = {}) =>
  createEngine(ruleset({ offers, ...parts })).decide(visit({ cart: { lines }, ...more }), { trace: true });

describe("rules that ask for the cart's own value", () => {
  const from30 = { signal: "cart.subtotal", op: "gte", value: "30.00" };
  it("an offer may ask for it, at the threshold and below it", () => {
    const offers = [offer("ten", { percent: 10 }, { rule: from30 })];
    expect(decide(offers, [line("a", "x", 1, 3000)]).cart).toMatchObject({ subtotal: 3000, total: 2700 });
    const below = decide(offers, [line("a", "x", 1, 2999)]);
    expect(below.cart).toMatchObject({ subtotal: 2999, total: 2999, adjustments: [] });
    expect(below.trace?.offers[0]).toMatchObject({ verdict: "rule false" });
  });
  it("by way of an audience, too, and beside offers that took something before it", () => {
    const audiences = [{ id: "big", name: "Big carts", rule: from30 }];
    const offers = [offer("five", { amount: "5.00" }), offer("ten", { percent: 10 }, { rule: { audience: "big" } })];
    // The subtotal is what the cart is before offers: 30.00 still holds, though 25.00 are left.
    expect(decide(offers, [line("a", "x", 3, 1000)], {}, { audiences }).cart).toMatchObject({ total: 2250 });
  });
  it("a marker may ask for it, and the cart stays as it is", () => {
    const markers = [{ id: "big", name: "Big", gain: from30, days: 1 }];
    const known = { consent: true, visitorId: "v" };
    const made = decide([offer("ten", { percent: 10 })], [line("a", "x", 1, 3000)], known, { markers });
    expect(made).toMatchObject({ markers: ["big"], cart: { subtotal: 3000, total: 2700 } });
    expect(decide([], [line("a", "x", 1, 2999)], known, { markers })).toMatchObject({
      markers: [],
      cart: { total: 2999 },
    });
  });
  it("is unknown for a cart that is not known, or in another currency", () => {
    const offers = [offer("ten", { percent: 10 }, { rule: from30 })];
    const engine = createEngine(ruleset({ offers, markers: [{ id: "big", name: "Big", gain: from30, days: 1 }] }));
    for (const cart of [undefined, { currency: "USD", lines: [line("a", "x", 1, 9000)] }])
      expect(engine.decide(visit({ cart, consent: true, visitorId: "v" }))).toMatchObject({ cart: null, markers: [] });
  });
  it("the account of a cart and the findings can be had of such an offer", () => {
    const made = ruleset({ offers: [offer("ten", { percent: 10 }, { rule: from30 })] });
    const reckoning = reckoner(made)(createEngine(made).read(visit({ cart: { lines: [line("a", "x", 1, 3000)] } })));
    expect(accountOf(reckoning as NonNullable<typeof reckoning>, made)[0]).toMatchObject({
      verdict: "applied",
      left: 2700,
    });
    expect(() => allFindings({ ruleset: made, from: 0 })).not.toThrow();
  });
});

/** The examples of docs/offers.md, worked by hand there step by step. */
describe("hand-worked examples", () => {
  const fern = offer("ferns", { percent: 10 }, { threshold: "60.00", scope: { categories: ["ferns"] } });
  const box = offer("box", { amount: "16.00" }, { threshold: "75.00" });

  it("1: a share of what is in scope, then an amount of what is left", () => {
    const { cart } = decide([fern, box], [line("a", "ferns", 5, 1295), line("b", "boxes", 1, 1850)]);
    // 64.75 in scope: 6.475, half up 6.48. Left 58.27 + 18.50 = 76.77, at least 75: 16.00.
    expect(cart).toMatchObject({
      subtotal: 8325,
      adjustments: [
        { offer: "ferns", amount: -648 },
        { offer: "box", amount: -1600 },
      ],
      total: 6077,
      toGo: { ferns: 0, box: 0 },
    });
  });
  it("2: what an earlier offer took counts no longer", () => {
    const { cart } = decide([fern, box], [line("a", "ferns", 6, 1295)]);
    // 77.70 in scope: 7.77 off. Left 69.93: 5.07 are missing to 75.
    expect(cart).toMatchObject({ total: 6993, toGo: { ferns: 0, box: 507 } });
  });
  it("3: exactly at the threshold it applies, a cent below it does not", () => {
    expect(decide([fern], [line("a", "ferns", 1, 6000)]).cart).toMatchObject({ total: 5400, toGo: { ferns: 0 } });
    expect(decide([fern], [line("a", "ferns", 1, 5999)]).cart).toMatchObject({ total: 5999, toGo: { ferns: 1 } });
  });
  it("4: shares are spread over lines, left-over cents to the largest remainders, earlier lines first", () => {
    // 10 % of 3 × 0.35 = 1.05: 0.105, half up 0.11; each line 0.0366…: 3 each, the 2 left over go to the first two.
    const second = offer("rest", { percent: 100 }, { scope: { skus: ["c"] } });
    const { cart } = decide(
      [offer("ten", { percent: 10 }), second],
      [line("a", "x", 1, 35), line("b", "x", 1, 35), line("c", "x", 1, 35)],
    );
    expect(cart?.adjustments).toEqual([
      { offer: "ten", label: "ten", amount: -11 },
      { offer: "rest", label: "rest", amount: -32 },
    ]);
  });
  it("5: one that stands alone applies only if no other has, and ends the list", () => {
    const alone = offer("alone", { percent: 50 }, { combines: false });
    expect(decide([alone, fern], [line("a", "ferns", 1, 8000)]).cart).toMatchObject({
      total: 4000,
      adjustments: [{ offer: "alone" }],
    });
    expect(decide([fern, alone], [line("a", "ferns", 1, 8000)]).cart).toMatchObject({
      total: 7200,
      adjustments: [{ offer: "ferns" }],
    });
  });
  it("6: dates are the site's, from included, until not", () => {
    const dated = offer("d", { percent: 10 }, { from: "2026-11-24T10:15", until: "2026-11-24T10:16" });
    const at = (instant: string) => decide([dated], [line("a", "x", 1, 1000)], { at: instant }).cart?.total;
    expect([at("2026-11-24T10:14:59Z"), at("2026-11-24T10:15:00Z"), at("2026-11-24T10:16:00Z")]).toEqual([
      1000, 900, 1000,
    ]);
  });
  it("7: never below zero, free delivery is listed with nothing, a foreign cart is not told", () => {
    expect(decide([offer("a", { amount: "99.00" })], [line("a", "x", 1, 500)]).cart?.total).toBe(0);
    expect(decide([offer("f", { freeDelivery: true })], [line("a", "x", 1, 500)]).cart).toMatchObject({
      freeDelivery: true,
      adjustments: [{ offer: "f", amount: 0 }],
      total: 500,
    });
    expect(
      createEngine(ruleset({ offers: [fern] })).decide(visit({ cart: { currency: "USD", lines: [] } })).cart,
    ).toBeNull();
  });
  it("8: yen have no decimals, dinars three", () => {
    const yen = { site: { ...site, currency: "JPY" } };
    expect(decide([offer("p", { percent: 15 })], [line("a", "x", 1, 1990)], {}, yen).cart?.total).toBe(1691);
    expect(problemsOf({ ...yen, offers: [offer("t", { percent: 1 }, { threshold: "1.5" })] })).toHaveLength(1);
    const dinar = { site: { ...site, currency: "KWD" } };
    expect(decide([offer("p", { amount: "0.125" })], [line("a", "x", 1, 1000)], {}, dinar).cart?.total).toBe(875);
  });
});

const rewards = fc.oneof(
  fc.integer({ min: 1, max: 10_000 }).map((n) => ({ percent: n / 100 })),
  fc
    .integer({ min: 1, max: 9999 })
    .map((n) => ({ amount: `${Math.floor(n / 100)}.${String(n % 100).padStart(2, "0")}` })),
  fc.constant({ freeDelivery: true as const }),
);
const offers = fc.array(
  fc.record({
    reward: rewards,
    threshold: fc.option(
      fc.integer({ min: 1, max: 20_000 }).map((n) => (n / 100).toFixed(2)),
      { nil: undefined },
    ),
    scope: fc.option(fc.constantFrom({ categories: ["x"] }, { skus: ["s1", "s2"] }), { nil: undefined }),
    combines: fc.boolean(),
    on: fc.boolean(),
  }),
  { maxLength: 5 },
);
const lines = fc.array(
  fc.record({
    sku: fc.constantFrom("s1", "s2", "s3"),
    category: fc.constantFrom("x", "y"),
    quantity: fc.integer({ min: 0, max: 5 }),
    unitPrice: fc.integer({ min: 0, max: 5000 }),
  }),
  { maxLength: 6 },
);

describe("laws", () => {
  it("what is missing and what qualifies make the threshold; nothing is lost or made; never below zero", () => {
    fc.assert(
      fc.property(offers, lines, (some, cart) => {
        const made = some.map((item, index) => offer(`o${index}`, item.reward, { ...item }));
        const decision = decide(made, cart);
        const bill = decision.cart!;
        expect(bill.total).toBeGreaterThanOrEqual(0);
        expect(bill.subtotal + bill.adjustments.reduce((sum, item) => sum + item.amount, 0)).toBe(bill.total);
        for (const step of decision.trace!.offers as unknown as { id: string; qualifying: number; toGo: number }[]) {
          const threshold = Math.round(Number(some[Number(step.id.slice(1))]!.threshold ?? 0) * 100);
          expect(step.toGo).toBe(Math.max(0, threshold - step.qualifying));
          if (step.toGo > 0) expect(step.toGo + step.qualifying).toBe(threshold);
          expect(bill.toGo[step.id]).toBe(step.toGo);
        }
      }),
      { numRuns: 500 },
    );
  });
  it("an account ends at the total", () => {
    fc.assert(
      fc.property(offers, lines, (some, cart) => {
        const rules = ruleset({ offers: some.map((item, index) => offer(`o${index}`, item.reward, { ...item })) });
        const reckoning = reckoner(rules)(createEngine(rules).read(visit({ cart: { lines: cart } })))!;
        const account = accountOf(reckoning, rules);
        expect(account.at(-1)?.left ?? reckoning.subtotal).toBe(reckoning.total);
      }),
      { numRuns: 200 },
    );
  });
});

describe("messages that keep their promise", () => {
  const start = (): Ruleset =>
    ruleset({
      blockTypes: [
        {
          id: "note",
          name: "Note",
          fields: [
            { id: "headline", name: "H", kind: "line" },
            { id: "text", name: "T", kind: "text" },
          ],
        },
      ],
      slots: [{ id: "note", name: "Note", fallback: { type: "note", fields: { headline: "-" } } }],
      offers: [offer("spring", { percent: 10 }, { threshold: "60.00", label: "It's 10 % {off}" })],
    });
  const shown = (rules: Ruleset, cents: number) => {
    const decision = createEngine(rules).decide(
      visit({ cart: { lines: cents === 0 ? [] : [line("a", "x", 1, cents)] } }),
    );
    const { variant, content } = decision.slots.note![0]!;
    return [variant, content?.fields.headline];
  };
  const with_ = (rules: Ruleset): Ruleset => {
    const applied = applyEdits(rules, makeMessages(rules.offers[0] as Offer, rules.slots[0]!, rules, 0.5).edits);
    if (!applied.ok) throw new Error(applied.problem);
    return ruleset(applied.value as never);
  };
  it("are made in one step: not yet, nearly, reached", () => {
    const rules = with_(start());
    expect(shown(rules, 0)).toEqual([null, "-"]);
    expect(shown(rules, 2999)).toEqual(["offer-spring-not-yet", "It's 10 % {off}: still €30.01 to go"]);
    expect(shown(rules, 3000)).toEqual(["offer-spring-nearly", "Only €30.00 to go: It's 10 % {off}"]);
    expect(shown(rules, 5999)).toEqual(["offer-spring-nearly", "Only €0.01 to go: It's 10 % {off}"]);
    expect(shown(rules, 6000)).toEqual(["offer-spring-reached", "It's 10 % {off}: it is yours"]);
  });
  it("follow another threshold and another label", () => {
    const rules = with_(start());
    const spring = rules.offers[0] as Offer;
    const applied = applyEdits(rules, [
      { do: "set", at: ["offers", "spring", "threshold"], before: "60.00", after: "80.00" },
      ...followThreshold(spring, "80.00", rules),
      { do: "set", at: ["offers", "spring", "label"], before: spring.label, after: "Ten off" },
      ...followLabel(spring, "Ten off", rules),
    ]);
    if (!applied.ok) throw new Error(applied.problem);
    const next = ruleset(applied.value as never);
    expect(shown(next, 3999)[0]).toBe("offer-spring-not-yet");
    expect(shown(next, 4000)).toEqual(["offer-spring-nearly", "Only €40.00 to go: Ten off"]);
    expect(shown(next, 8000)[0]).toBe("offer-spring-reached");
  });
});

describe("findings on offers", () => {
  const note = (headline: string, more: object = {}) => ({
    blockTypes: [{ id: "note", name: "Note", fields: [{ id: "headline", name: "H", kind: "line" }] }],
    slots: [
      {
        id: "s",
        name: "S",
        variants: [
          {
            id: "v",
            name: "V",
            rule: null,
            arms: [{ id: "a", weight: 100, content: { type: "note", fields: { headline } } }],
            ...more,
          },
        ],
      },
    ],
  });
  const kinds = (parts: Record<string, unknown>) =>
    allFindings({ ruleset: ruleset(parts), from: Date.UTC(2026, 10, 24) }).map((item) => item.finding);
  const sixty = offer("sixty", { percent: 10 }, { threshold: "60.00" });

  it("tells a promise that no offer keeps, and is silent where one does", () => {
    expect(kinds({ ...note("Free box from €75") })).toContain("promise");
    expect(kinds({ ...note("10 % off from €60"), offers: [sixty] })).not.toContain("promise");
    expect(kinds({ ...note("15 % off from 60,00 €"), offers: [sixty] })).toContain("promise");
    expect(kinds({ ...note("10 % off from €60"), offers: [{ ...sixty, on: false }] })).toContain("promise");
  });
  it("tells an offer of which nobody hears, other currencies, and amounts that fall between two rules", () => {
    expect(kinds({ ...note("Hello"), offers: [sixty] })).toContain("untold-offer");
    expect(kinds({ ...note("10 % off from €60"), offers: [sixty] })).not.toContain("untold-offer");
    expect(kinds({ ...note("10 % off from $60"), offers: [sixty] })).toContain("currency");
    const more = (op: string) => ({ rule: { signal: "cart.subtotal", op, value: "60.00" } });
    expect(kinds({ ...note("10 % off from €60", more("gt")), offers: [sixty] })).toContain("offer-boundary");
    expect(kinds({ ...note("10 % off from €60", more("gte")), offers: [sixty] })).not.toContain("offer-boundary");
  });
  it("proves that two offers never apply together", () => {
    const at = (country: string) => ({ signal: "place", op: "isIn", value: [{ country }] });
    expect(
      kinds({
        offers: [offer("a", { percent: 1 }, { rule: at("PT") }), offer("b", { percent: 2 }, { rule: at("ES") })],
      }),
    ).toContain("offers-apart");
  });
});

describe("made-up carts", () => {
  const products = [
    { sku: "a", category: "x", unitPrice: 950 },
    { sku: "b", category: "x", unitPrice: 1295 },
    { sku: "c", category: "y", unitPrice: 690 },
  ];
  const total = (cart: { quantity: number; unitPrice: number }[]) =>
    cart.reduce((sum, item) => sum + item.quantity * item.unitPrice, 0);
  it("come as near to an amount as two kinds of products can", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20_000 }), (amount) => {
        const off = Math.abs(total(cartAbout(amount, products)) - amount);
        let best = amount;
        for (let a = 0; a <= 22; a++)
          for (let b = 0; b <= 16; b++)
            for (let c = 0; c <= 30; c++)
              if ([a, b, c].filter((n) => n > 0).length <= 2)
                best = Math.min(best, Math.abs(a * 950 + b * 1295 + c * 690 - amount));
        expect(off).toBe(best);
      }),
      { numRuns: 30 },
    );
  });
  it("are read from the shop's code and changed by its forms, and nonsense changes nothing", () => {
    expect(cartFromCode("a~2.zz~1.c~1", products)).toEqual([line("a", "x", 2, 950), line("c", "y", 1, 690)]);
    expect(cartFromCode("nonsense", products)).toBeUndefined();
    expect(cartFromCode("a~-2.b~x.c~99999", products)).toBeUndefined();
    const cart = [line("a", "x", 2, 950)];
    expect(changeLines(cart, { sku: "a", do: "add" }, products)).toEqual([line("a", "x", 3, 950)]);
    expect(changeLines(cart, { sku: "a", do: "set", quantity: "-1" }, products)).toBeUndefined();
    expect(changeLines(cart, { sku: "a", do: "set", quantity: "1.5" }, products)).toBeUndefined();
    expect(changeLines(cart, { sku: "a", do: "set", quantity: "0" }, products)).toEqual([]);
    expect(changeLines(cart, { sku: "zz", do: "add" }, products)).toBeUndefined();
  });
});
