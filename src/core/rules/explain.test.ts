/** Why something is shown or not, in words: the conditions that decided it, each with what was found. */
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import type { VariantTrace } from "../decision/decision";
import { ruleset, variant, visit } from "../testing";
import { decidingLeaves } from "./explain";
import { variantVerdictText } from "../decision/verdicts";
import { reasonsFor } from "../decision/why";

const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const dataFields = [
  { signal: "data", name: "member", kind: "flag" },
  { signal: "data", name: "born", kind: "date" },
  { signal: "data", name: "points", kind: "number" },
  { signal: "page.data", name: "colours", kind: "texts" },
];
function traced(rule: unknown, parts: Record<string, unknown> = {}, more: Record<string, unknown> = {}) {
  const rules = ruleset({
    dataFields,
    slots: [{ id: "s", name: "S", variants: [variant("v", rule, more), variant("w")] }],
    audiences: [{ id: "near", name: "Near", rule: when("place", "isIn", [{ country: "PT" }]) }],
  });
  const trace = createEngine(rules).decide(visit(parts), { trace: true }).trace?.slots[0]?.variants[0] as VariantTrace;
  return { trace, reasons: reasonsFor(trace, rules).map(({ verdict, text }) => `${verdict}: ${text}`) };
}
const because = (rule: unknown, parts?: Record<string, unknown>) => traced(rule, parts).reasons;

describe("what a condition found", () => {
  const porto = { place: { country: "PT", city: "Porto" } };
  it.each([
    [when("campaign.source", "is", "postbox"), {}, "false: no campaign source"],
    [
      when("campaign.source", "is", "postbox"),
      { url: "https://shop.example/?utm_source=Finder" },
      "false: the campaign source is “Finder”",
    ],
    [when("place", "isIn", [{ country: "PT" }]), porto, "true: in Porto, Portugal"],
    [when("place", "isIn", [{ country: "PT" }]), {}, "unknown: cannot tell the place: no address or place is known"],
    [
      when("language", "accepts", ["pt"]),
      { acceptLanguage: "de-AT, pt;q=0.5" },
      "true: reads Austrian German, then Portuguese",
    ],
    [
      when("cart.subtotal", "gte", "20.00"),
      { cart: { lines: [{ sku: "a", quantity: 2, unitPrice: 1250 }] } },
      "true: the cart value is €25.00",
    ],
    [when("history.returning", "isTrue"), { consent: true }, "false: is here for the first time"],
    [
      when("history.views", "gt", 3),
      {},
      "unknown: cannot tell the pages seen in this visit: the visitor has not given consent",
    ],
    [when("data.member", "isTrue"), { data: { member: true } }, "true: “member” is on"],
    [when("data.born", "before", "2000-01-01"), { data: { born: "1999-12-31" } }, "true: “born” is 31 December 1999"],
    [when("data.points", "gt", 5), { data: { points: 3 } }, "false: “points” is 3"],
    [
      when("page.data.colours", "is", "green"),
      { page: { data: { colours: ["red", "blue"] } } },
      "false: “colours” of the page: “red”, “blue”",
    ],
    [when("time", "within", { zone: "site", days: ["TU"] }), {}, "true: Tuesday 24 November, 10:15 in Europe/Lisbon"],
    [
      when("time", "within", { zone: "visitor", days: ["TU"] }),
      { zone: "Asia/Tokyo" },
      "true: Tuesday 24 November, 19:15 in Asia/Tokyo",
    ],
    [
      when("time", "within", { zone: "visitor", days: ["TU"] }),
      {},
      "unknown: cannot tell the time: the visitor’s own time zone is not known",
    ],
  ] as const)("%j of %j: %s", (rule, parts, text) => expect(because(rule, parts)).toEqual([text]));
});

describe("what decided", () => {
  const yes = when("page.path", "is", "/");
  const no = when("campaign.source", "is", "x");
  const unknown = when("history.views", "gt", 1);
  it("are those whose being otherwise could change the verdict, and no others", () => {
    expect(because({ all: [yes, no, unknown] })).toEqual(["false: no campaign source"]);
    expect(because({ all: [yes, unknown] })).toEqual([
      "unknown: cannot tell the pages seen in this visit: the visitor has not given consent",
    ]);
    expect(because({ any: [no, yes] })).toEqual(["true: the path is “/”"]);
    expect(because({ none: [yes, no] })).toEqual(["false: the path is “/”"]);
    expect(because({ none: [no] })).toEqual(["true: no campaign source"]);
    expect(because({ audience: "near" }, { place: { country: "ES" } })).toEqual(["false: in Spain"]);
    expect(because(null)).toEqual([]);
  });
  it("are told once each, and not more than a few", () => {
    expect(because({ any: [no, when("campaign.source", "is", "y")] })).toEqual(["false: no campaign source"]);
    const many = {
      any: ["source", "medium", "name", "term", "content", "id"].map((part) => when(`campaign.${part}`, "is", "x")),
    };
    expect(because(many)).toHaveLength(4);
  });
  it("could, flipped, have changed the verdict: of an “all” that is false every false one must go", () => {
    const { trace } = traced({ all: [yes, no, { any: [no, when("campaign.medium", "is", "x")] }] });
    expect(decidingLeaves(trace.rule).map((leaf) => leaf.condition.signal)).toEqual([
      "campaign.source",
      "campaign.source",
      "campaign.medium",
    ]);
  });
});

describe("a verdict in a word or two", () => {
  const letter = (id: string) => id.toUpperCase();
  it.each([
    [null, {}, "Shown"],
    [null, { on: false }, "Switched off"],
    [when("campaign.source", "is", "x"), {}, "Not shown"],
    [when("history.views", "gt", 1), {}, "Cannot tell"],
  ])("%j, %j: %s", (rule, more, text) => expect(variantVerdictText(traced(rule, {}, more).trace, letter)).toBe(text));
  it("names who stands above, and what is remembered", () => {
    const rules = ruleset({ slots: [{ id: "s", name: "S", variants: [variant("a"), variant("b")] }] });
    const second = createEngine(rules).decide(visit(), { trace: true }).trace?.slots[0]?.variants[1] as VariantTrace;
    expect(variantVerdictText(second, letter)).toBe("Beaten by A");
    const kept = createEngine(
      ruleset({
        slots: [
          { id: "s", name: "S", variants: [variant("a", when("campaign.source", "is", "x"), { rememberDays: 7 })] },
        ],
      }),
    );
    const { memory } = kept.decide(visit({ consent: true, url: "https://shop.example/?utm_source=x" }));
    const again = kept.decide(visit({ consent: true, memory }), { trace: true }).trace?.slots[0]
      ?.variants[0] as VariantTrace;
    expect(variantVerdictText(again, letter)).toBe("Shown, remembered");
  });
});
