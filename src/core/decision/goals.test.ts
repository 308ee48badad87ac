import { describe, expect, it } from "vitest";
import { problemsOf, ruleset, visit } from "../testing";
import { createEngine } from "./engine";

const thanks = {
  id: "thanks",
  name: "Thanked",
  way: "page",
  pages: { signal: "page.path", op: "is", value: "/thanks" },
};
const call = { id: "call", name: "Called", way: "click", at: { selector: "a.call" } };
const letter = {
  id: "letter",
  name: "Asked for the letter",
  way: "form",
  at: { selector: "#letter" },
  pages: { signal: "page.path", op: "startsWith", value: "/blog" },
  value: "2.50",
};
const ids = (path: string) =>
  createEngine(ruleset({ goals: [thanks, call, letter] }))
    .goals(visit({ url: `https://shop.example${path}` }))
    .map(({ id }) => id);

describe("goals", () => {
  it("are told for the page views that reach them, and for the pages on which they can be reached", () => {
    expect(ids("/")).toEqual(["call"]);
    expect(ids("/thanks")).toEqual(["thanks", "call"]);
    expect(ids("/blog/moss")).toEqual(["call", "letter"]);
  });
  it("by whatever rules may ask: the cart, memory, the campaign", () => {
    const engine = createEngine(
      ruleset({
        goals: [
          { id: "full", name: "Full", way: "page", pages: { signal: "cart.subtotal", op: "gte", value: "30.00" } },
        ],
      }),
    );
    const cart = { lines: [{ sku: "a", category: "c", unitPrice: 4000, quantity: 1 }] };
    expect(engine.goals(visit())).toEqual([]);
    expect(engine.goals(visit({ cart }))).toHaveLength(1);
  });
  it("are unfinished without a page, a part, or with what does not go together", () => {
    expect(problemsOf({ goals: [{ ...thanks, pages: null }] })).toEqual(["/goals/0/pages missing"]);
    expect(problemsOf({ goals: [{ ...call, at: undefined }] })).toEqual(["/goals/0/at missing"]);
    expect(problemsOf({ goals: [{ ...thanks, at: call.at }] })).toEqual(["/goals/0/at not-here"]);
    expect(problemsOf({ goals: [{ ...letter, at: { selector: "form", within: ["letter-box"] } }] })[0]).toContain(
      "/goals/0/at not-here",
    );
    expect(problemsOf({ goals: [call, call] })).toEqual(["/goals/1/id twice"]);
    expect(problemsOf({ goals: [{ ...letter, value: "2.505" }] })).toEqual(["/goals/0/value range"]);
    const worth = { from: { selector: ".sum" }, decimal: "," };
    expect(problemsOf({ goals: [{ ...call, worth }] })).toEqual([]);
    expect(problemsOf({ goals: [{ ...call, worth: { from: { selector: "..sum" } } }] })[0]).toContain("/goals/0/worth");
    expect(problemsOf({ goals: [{ ...call, worth: { ...worth, decimal: "'" } }] })[0]).toContain("/goals/0/worth");
    expect(problemsOf({ goals: [{ ...call, days: 31 }] })[0]).toContain("/goals/0/days");
    expect(problemsOf({ goals: [{ ...call, at: { selector: "a..b" } }] })[0]).toContain("/goals/0/at/selector");
  });
});
