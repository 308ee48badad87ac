import { createHmac, randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import { createEngine } from "@/core/decision/engine";
import type { SiteEvent } from "@/core/formats/event";
import { ruleset, site, variant } from "@/core/testing";
import { completed } from "./events";
import { idByReceipt, mostByReceipt, readReceipt, shownBy, writeReceipts, type ReceiptKind } from "./receipts";

const uniqueShop = "a-shop-of-its-own";
const secret = new Uint8Array(32).fill(7);
const at = Date.parse("2026-11-24T23:30:00Z");
const day = 86_400_000;
const hero = { slot: "hero", variant: "mail", arm: "a" };
const make = (kind: ReceiptKind = "v", made = at) =>
  writeReceipts("shop", [hero], { kind, at: made, secret })["hero/mail/a"] as string;
const event = (more: Partial<SiteEvent> = {}): SiteEvent => ({
  id: randomUUID(),
  kind: "exposure",
  ...hero,
  first: true,
  name: "",
  value: 0,
  source: "",
  n: 0,
  ...more,
});
const known = { country: "PT", device: "phone", language: "pt", system: "android" };
const engine = createEngine(
  ruleset({
    site: { ...site, id: "shop" },
    slots: [{ id: "hero", name: "Hero", goal: "order", variants: [variant("mail")] }],
    goals: [{ id: "letter", name: "Letter", way: "click", at: { selector: "a" } }],
  }),
);
const take = (what: SiteEvent, now = at, days = 35, device = "phone") =>
  completed(what, { ...known, device }, { site: "shop", engine, now, receipts: { secret, days } });

describe("receipts", () => {
  it("are of one site, slot, variant and arm, and signed by HMAC-SHA-256", () => {
    const receipt = make();
    expect(receipt.length).toBeLessThan(45);
    const read = (text: string | undefined, site = "shop", thing = hero, key = secret) =>
      readReceipt(text, site, thing, { at, secret: key });
    expect(read(receipt)).toEqual({ kind: "v", made: at });
    const [time = "", rest = "", signed] = receipt.split(".");
    const text = `shown shop hero/mail/a ${time}.${rest}`;
    expect(
      createHmac("sha256", secret)
        .update(text)
        .digest("base64url")
        .startsWith(signed as string),
    ).toBe(true);
    expect(read(receipt, "other")).toBeUndefined();
    for (const key of ["slot", "variant", "arm"] as const)
      expect(read(receipt, "shop", { ...hero, [key]: "x" })).toBeUndefined();
    expect(read(receipt, "shop", hero, new Uint8Array(32))).toBeUndefined();
    for (let index = 0; index < receipt.length; index++) {
      const other = receipt[index] === "a" ? "b" : "a";
      expect(read(receipt.slice(0, index) + other + receipt.slice(index + 1))).toBeUndefined();
    }
    for (const none of [undefined, "", "..", "x".repeat(40), receipt + "A"]) expect(read(none)).toBeUndefined();
  });
  it("end: after thirty days for whoever is remembered, after one for the rest; none is of the future", () => {
    const good = (kind: ReceiptKind, later: number) =>
      readReceipt(make(kind), "shop", hero, { at: at + later, secret }) !== undefined;
    expect([good("v", 30 * day), good("v", 30 * day + 1000)]).toEqual([true, false]);
    expect([good("n", day), good("n", day + 1000)]).toEqual([true, false]);
    expect([good("s", day), good("s", day + 1000)]).toEqual([true, false]);
    expect([good("v", -60_000), good("v", -61_000)]).toEqual([true, false]);
  });
  it("are for all that a decision shows: slots, the pop-up, the side of the holdout", () => {
    const slots = { a: [{ variant: null, arm: null, content: null }], b: [{ variant: "v", arm: "x", content: null }] };
    const popup = { id: "p", arm: "y", opensAfter: { seconds: 1 }, size: { width: 1, height: 1 }, content: null };
    expect(Object.keys(writeReceipts("s", shownBy({ slots, popup }, "out"), { kind: "v", at, secret }))).toEqual([
      "a//",
      "b/v/x",
      "popup:p/p/y",
      "site:holdout//out",
    ]);
  });
});

describe("what is told", () => {
  it("counts once by a receipt, whoever sends it under whatever id, on whatever day", () => {
    const receipt = make();
    const first = take(event({ receipt }));
    // Told a day later, as of then: the same id within the same day.
    const again = take(event({ receipt, at: new Date(at + day).toISOString() }), at + day);
    expect(first).toMatchObject({ first: true, day: "2026-11-24", at: "2026-11-24T23:30:00.000Z" });
    expect([again?.id, again?.day]).toEqual([first?.id, first?.day]);
    expect(first?.apart).toBeUndefined();
    expect(first).not.toHaveProperty("receipt");
  });
  it("counts each goal, and several of one, up to a bound; the first alone is a first", () => {
    const receipt = make();
    const order = (n: number, name = "order") => take(event({ kind: "conversion", name, receipt, n }));
    const all = [order(0), order(1), order(0, "letter"), take(event({ kind: "click", receipt }))];
    expect(new Set(all.map((one) => one?.id)).size).toBe(4);
    expect(all.map((one) => one?.first)).toEqual([true, false, true, true]);
    expect(order(mostByReceipt - 1)?.apart).toBeUndefined();
    expect(order(mostByReceipt)).toBeUndefined();
  });
  it("counts apart without a good receipt: none, a forged one, another's, one that has ended, one from a cache for a goal", () => {
    const other = writeReceipts("shop", [{ ...hero, arm: "b" }], { kind: "v", at, secret })["hero/mail/b"];
    for (const receipt of [undefined, "forged", other, make("v", at - 31 * day)])
      expect(take(event(receipt === undefined ? {} : { receipt }))?.apart).toBe("receipt");
    const elsewhere = completed(event({ receipt: make() }), known, {
      site: "x",
      engine,
      now: at,
      receipts: { secret, days: 35 },
    });
    expect(elsewhere?.apart).toBe("receipt");
    expect(take(event({ kind: "conversion", name: "order", receipt: make("s") }))?.apart).toBe("receipt");
  });
  it("is nobody's first by whoever is not remembered, or has a page from a cache; from there many count", () => {
    expect(take(event({ receipt: make("n") }))?.first).toBe(false);
    const shared = make("s");
    const [one, two] = [take(event({ receipt: shared })), take(event({ receipt: shared }))];
    expect([one?.first, two?.first, one?.apart]).toEqual([false, false, undefined]);
    expect(one?.id).not.toBe(two?.id);
  });
  it("counts crawlers apart, and takes servers by their key", () => {
    expect(take(event({ receipt: make() }), at, 35, "bot")?.apart).toBe("bot");
    expect(completed(event(), known, { site: "shop", engine, now: at })?.apart).toBeUndefined();
  });
  it("names no day that is gone already, where events are kept for less long", () => {
    const seen = make("v", at - 10 * day);
    const order = event({ kind: "conversion", name: "order", receipt: seen });
    expect(take(order, at, 35)?.day).toBe("2026-11-14");
    expect(take(order, at, 7)?.day).toBeUndefined();
  });
  it("has ids that are UUIDs of version 8 (RFC 9562, section 5.8)", () => {
    expect(idByReceipt("r", "click", 0)).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-8[0-9a-f]{3}-a[0-9a-f]{3}-[0-9a-f]{12}$/);
  });
  it("with a value above the site's largest an event counts apart, whoever tells it", () => {
    const goal = (value: number, receipt?: string) => event({ kind: "conversion", name: "order", value, receipt });
    const bound = { site: "shop", engine, now: at, largest: 50_000 };
    const byPage = { ...bound, receipts: { secret, days: 35 } };
    expect(completed(goal(50_000, make()), known, byPage)?.apart).toBeUndefined();
    expect(completed(goal(50_001, make()), known, byPage)?.apart).toBe("value");
    expect(completed(goal(50_001), known, bound)?.apart).toBe("value");
    // What it came without is said first.
    expect(completed(goal(50_001), known, byPage)?.apart).toBe("receipt");
    expect(completed(goal(1e12, make()), known, { ...byPage, largest: undefined })?.apart).toBeUndefined();
  });
  it("apart, what a stranger makes up is not kept: of an unknown slot nothing, of the others no names", () => {
    const made = { kind: "conversion", name: "made up", source: "made|up|new" } as const;
    expect(take(event({ ...made, slot: "elsewhere" }))).toBeUndefined();
    expect(take(event({ ...made, slot: "elsewhere" }), at, 35, "bot")).toBeUndefined();
    const nothing = { name: "", source: "", campaign: "" };
    expect(take(event(made))).toMatchObject({ ...hero, ...nothing, apart: "receipt" });
    expect(take(event({ ...made, variant: "made up", arm: "x" }))).toMatchObject({ variant: "", arm: "", ...nothing });
    expect(take(event({ ...made, variant: "", arm: "" }))).toMatchObject({ variant: "", arm: "" });
  });
  it("a page's own goals count under their names, the first hundred of a site; those that are declared always do", () => {
    const elsewhere = createEngine({ ...engine.ruleset, site: { ...engine.ruleset.site, id: uniqueShop } });
    const receipt = writeReceipts(uniqueShop, [hero], { kind: "v", at, secret })["hero/mail/a"] as string;
    const reached = (name: string) =>
      completed(event({ kind: "conversion", name, receipt }), known, {
        ...{ site: uniqueShop, engine: elsewhere, now: at, receipts: { secret, days: 35 } },
      });
    for (let number = 0; number < 100; number++) expect(reached(`goal ${number}`)?.name).toBe(`goal ${number}`);
    expect(reached("one more")).toMatchObject({ apart: "goal", name: "" });
    expect(reached("goal 7")?.apart).toBeUndefined();
    for (const declared of ["order", "letter"]) expect(reached(declared)?.apart).toBeUndefined();
  });
});
