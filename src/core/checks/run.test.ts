import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { checkSchema, type Expectation } from "../formats/check";
import { ruleset, variant, visit } from "../testing";
import { checksForAll } from "./make";
import { expectationText, runCheck, siteDiffers } from "./run";

const rules = ruleset({
  blockTypes: [{ id: "t", name: "T", fields: [{ id: "line", name: "L", kind: "line" }] }],
  slots: [
    {
      id: "s",
      name: "Hero",
      variants: [variant("a", { signal: "campaign.source", op: "is", value: "x" })],
      fallback: { type: "t", fields: { line: "Hello there" } },
    },
  ],
  redirects: [{ id: "r", name: "R", rule: { signal: "page.path", op: "is", value: "/old" }, to: "/new" }],
});
const engine = createEngine(rules);
const run = (expectation: Expectation, parts = {}) =>
  runCheck({ id: "c", name: "C", visit: visit(parts), steps: [], expect: expectation }, engine);
const tagged = { url: "https://shop.example/?utm_source=x" };

describe("checks", () => {
  it("pass on what comes, and say what came instead", () => {
    expect(run({ slot: "s", variant: "a" }, tagged).passed).toBe(true);
    expect(run({ slot: "s", variant: "a" })).toEqual({ passed: false, found: "shows the fallback" });
    expect(run({ slot: "s", variant: null }).passed).toBe(true);
    expect(run({ slot: "s", text: "Hello" }).passed).toBe(true);
    expect(run({ slot: "s", text: "Bye" })).toEqual({ passed: false, found: "says “Hello there”" });
    expect(run({ redirect: "https://shop.example/new" }, { url: "https://shop.example/old" }).passed).toBe(true);
    expect(run({ slot: "s", variant: null }, { url: "https://shop.example/old" }).found).toBe(
      "is sent to https://shop.example/new",
    );
    expect(run({ redirect: "https://shop.example/new" }).found).toBe("is sent nowhere");
    const cart = { cart: { lines: [{ sku: "a", quantity: 2, unitPrice: 500 }] } };
    expect(run({ total: 1000 }, cart).passed).toBe(true);
    expect(run({ total: 999 }, cart).found).toBe("pays €10.00");
    expect(run({ total: 1 }).found).toBe("no cart is told");
    expect(run({ slot: "gone", variant: null }).found).toBe("gone is not on this page");
  });
  it("read as sentences, and are read strictly", () => {
    expect(expectationText({ slot: "s", variant: "a" }, rules)).toBe("Hero shows “a”");
    expect(
      checkSchema.safeParse({ id: "c", name: "C", visit: visit(), expect: { slot: "s", variant: "a", text: "x" } })
        .success,
    ).toBe(false);
  });
  it("are made for every variant and fallback that someone can see, and pass at once", () => {
    const made = checksForAll({ ruleset: rules, from: Date.UTC(2026, 10, 24) }, "c");
    expect(made.map((item) => item.expect)).toEqual([
      { slot: "s", variant: "a" },
      { slot: "s", variant: null },
    ]);
    expect(new Set(made.map((item) => item.id)).size).toBe(2);
    for (const item of made) expect(runCheck(item, engine).passed).toBe(true);
  });
  it("are compared with what a page holds", () => {
    const decision = engine.decide(visit(tagged));
    expect(siteDiffers(decision, { s: ["a"], unknown: ["x"] })).toBeUndefined();
    expect(siteDiffers(decision, { s: [""] })).toBe("s shows the fallback, the engine says a");
    expect(siteDiffers(decision, {})).toBe("no slot was found in the page");
  });
});
