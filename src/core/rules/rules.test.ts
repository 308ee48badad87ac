import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Rule } from "../formats/rule";
import { engineOf, problemsOf, ruleset, site, truth, variant, visit } from "../testing";
import { readRuleset } from "../ruleset/check";
import { reasonsFor } from "../decision/why";
import { ruleText } from "./sentence";

const is = (signal: string, value: unknown) => ({ signal, op: "is" as const, value });

describe("text", () => {
  const source = (op: string, value: unknown, url: string, exact?: boolean) =>
    truth({ signal: "query.q", op, value, ...(exact ? { exact } : {}) }, { url: `https://shop.example/?${url}` });
  it.each([
    ["is", "STRASSE", "q=straße", "true"],
    ["is", "a", "", "false"],
    ["isNot", "a", "", "true"],
    ["contains", "fern", "q=Shade+FERNS", "true"],
    ["startsNotWith", "x", "", "true"],
    ["matches", "a*c", "q=a%0Abc", "true"],
    ["matches", "a.c", "q=abc", "false"],
    ["matches", "*b*b*", "q=b", "false"],
    ["hasAnyWord", "price", "q=priceless", "false"],
    ["hasAllWords", "fern shade", "q=Shade,+fern!", "true"],
    ["hasPhrase", "shade fern", "q=a+shade-fern", "true"],
    ["hasPhrase", "shade fern", "q=fern+shade", "false"],
    ["isNoneOf", ["a", "b"], "q=c&q=b", "false"],
    ["isOneOf", ["a", "b"], "q=c&q=b", "true"],
    ["isNot", "b", "q=c&q=b", "false"],
  ])("%s %j on ?%s is %s", (op, value, url, expected) => expect(source(op, value, url)).toBe(expected));
  it("counts capital letters only where asked", () => {
    expect(source("is", "Fern", "q=fern")).toBe("true");
    expect(source("is", "Fern", "q=fern", true)).toBe("false");
  });
});

describe("known, absent, unknown", () => {
  it("keeps them apart", () => {
    const place = { signal: "place", op: "isIn", value: [{ country: "PT" }] };
    expect(truth(place)).toBe("unknown");
    expect(truth({ ...place, op: "isNotIn" })).toBe("unknown");
    expect(truth({ signal: "place", op: "isKnown" })).toBe("false");
    expect(truth(place, { place: { country: "pt" } })).toBe("true");
    expect(truth({ signal: "campaign.source", op: "isAbsent" })).toBe("true");
    expect(truth({ signal: "device.kind", op: "isPresent" })).toBe("unknown");
    expect(truth({ signal: "history.views", op: "gte", value: 1 })).toBe("unknown");
    expect(truth({ signal: "history.views", op: "gte", value: 1 }, { consent: true })).toBe("true");
    expect(truth({ signal: "cart.subtotal", op: "eq", value: "0" })).toBe("unknown");
    expect(truth({ signal: "cart.subtotal", op: "eq", value: "0" }, { cart: { lines: [] } })).toBe("true");
    expect(truth({ signal: "cart.subtotal", op: "eq", value: "0" }, { cart: { currency: "USD", lines: [] } })).toBe(
      "unknown",
    );
  });
  it("judges the parts of a place as all, its list as any", () => {
    const lisbon = { signal: "place", op: "isIn", value: [{ country: "PT", city: "lisbon" }] };
    expect(truth(lisbon, { place: { country: "PT" } })).toBe("unknown");
    expect(truth(lisbon, { place: { country: "ES" } })).toBe("false");
    expect(truth(lisbon, { place: { country: "PT", city: "Lisbon" } })).toBe("true");
    const near = { signal: "place", op: "isIn", value: [{ lat: 38.72, lon: -9.14, km: 1 }, { continent: "eu" }] };
    expect(truth(near, { place: { country: "PT" } })).toBe("true");
    expect(truth(near, { place: { country: "US" } })).toBe("unknown");
    expect(truth(near, { place: { country: "US", lat: 40, lon: -74 } })).toBe("false");
  });
  it("is absent for a data value of another kind, and says so", () => {
    const parts = { dataFields: [{ signal: "data", name: "age", kind: "number" }] };
    const engine = engineOf({ v: { signal: "data.age", op: "isAbsent" } }, parts);
    const decision = engine.decide(visit({ data: { age: "old", other: 1 } }), { trace: true });
    expect(decision.slots.s?.[0]?.variant).toBe("v");
    expect(decision.trace?.misfits).toEqual(["data.age"]);
  });
});

describe("Kleene's logic", () => {
  const known = is("referrer.kind", "direct");
  const wrong = is("referrer.kind", "mail");
  const unknown = is("device.kind", "phone");
  it.each([
    [{ all: [known, unknown] }, "unknown"],
    [{ all: [wrong, unknown] }, "false"],
    [{ any: [known, unknown] }, "true"],
    [{ any: [wrong, unknown] }, "unknown"],
    [{ none: [wrong, unknown] }, "unknown"],
    [{ none: [known, unknown] }, "false"],
    [{ none: [wrong] }, "true"],
  ])("%j is %s", (rule, expected) => expect(truth(rule)).toBe(expected));
});

/** Rules over a few signals, nested up to three deep. */
const leaf: fc.Arbitrary<Rule> = fc.constantFrom<Rule>(
  is("campaign.source", "a"),
  { signal: "campaign.source", op: "isNot", value: "a" },
  is("device.kind", "phone"),
  { signal: "place", op: "isIn", value: [{ country: "PT" }] },
  { signal: "query.q", op: "hasAnyWord", value: "fern shade" },
  { signal: "time", op: "within", value: { zone: "site", days: ["TU"] } },
  { signal: "time", op: "outside", value: { zone: "visitor", windows: [{ start: "09:00", end: "18:00" }] } },
  { signal: "language", op: "prefers", value: ["pt"] },
  null,
);
const { rule: anyRule } = fc.letrec<{ rule: Rule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 3, depthSize: "small" },
    leaf,
    fc.array(tie("rule"), { minLength: 1, maxLength: 4 }).map((all) => ({ all })),
    fc.array(tie("rule"), { minLength: 1, maxLength: 4 }).map((any) => ({ any })),
    fc.array(tie("rule"), { minLength: 1, maxLength: 4 }).map((none) => ({ none })),
  ),
}));
const anyVisit = fc.record({
  at: fc.constantFrom("2026-11-24T10:15:00Z", "2026-11-25T22:00:00Z"),
  url: fc.constantFrom(
    "https://shop.example/",
    "https://shop.example/?utm_source=A",
    "https://shop.example/?utm_source=b&q=shade+fern",
  ),
  userAgent: fc.constantFrom(
    undefined,
    "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1 Version/18.0 Mobile/15E148 Safari/604.1",
  ),
  place: fc.constantFrom(undefined, { country: "PT", zone: "Europe/Lisbon" }, { country: "DE" }),
  acceptLanguage: fc.constantFrom(undefined, "pt-PT,en;q=0.5", "en"),
});

describe("compiled rules", () => {
  it("agree with the plain three-valued evaluator", () => {
    // `truth` throws where they disagree on whether the rule is true.
    fc.assert(
      fc.property(anyRule, anyVisit, (rule, parts) => ["true", "false", "unknown"].includes(truth(rule, parts))),
      { numRuns: 600, seed: 7 },
    );
  });
  it("choose the same winner with and without the table", () => {
    const sources = ["a", "b", "c"];
    fc.assert(
      fc.property(
        fc.array(fc.tuple(anyRule, fc.constantFrom(...sources)), { minLength: 14, maxLength: 30 }),
        anyVisit,
        (rules, parts) => {
          const rows = Object.fromEntries(
            rules.map(([rule, source], i) => [
              `v${i}`,
              i % 3 === 0 ? rule : { all: [rule, is("campaign.source", source)] },
            ]),
          );
          const winner = engineOf(rows).decide(visit(parts)).slots.s?.[0]?.variant;
          const first = Object.entries(rows).find(([, rule]) => truth(rule, parts) === "true")?.[0] ?? null;
          return winner === first;
        },
      ),
      { numRuns: 60, seed: 11 },
    );
  });
});

describe("sentences", () => {
  const names = ruleset();
  it("say a rule in English, with its grouping in brackets", () => {
    const tuesday = {
      signal: "time",
      op: "within",
      value: { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] },
    } as Rule;
    expect(ruleText(tuesday, names)).toBe("it is Tuesday between 10:00 and 12:00, Lisbon time");
    const phone = is("device.kind", "phone") as Rule;
    const mail = is("campaign.source", "postbox") as Rule;
    expect(ruleText({ all: [phone, { any: [mail, tuesday] }] }, names)).toBe(
      "the visitor is on a phone and (the campaign source is “postbox” or it is Tuesday between 10:00 and 12:00, Lisbon time)",
    );
    expect(ruleText({ none: [phone, mail] }, names)).toBe(
      "none of (the visitor is on a phone or the campaign source is “postbox”)",
    );
  });
  it("never read the same for rules that differ in grouping", () => {
    const shape = (rule: Rule, top = true): unknown => {
      if (rule === null || "signal" in rule || "audience" in rule) return rule;
      const [group, rules] = Object.entries(rule)[0] as [string, Rule[]];
      const inner = rules.map((item) => shape(item, false));
      // A group of one at the very top says the same as its only member, and a lone member has no and/or.
      if (top && group !== "none" && inner.length === 1) return inner[0];
      return inner.length === 1 && group !== "none" ? { one: inner } : { [group]: inner };
    };
    fc.assert(
      fc.property(
        anyRule,
        anyRule,
        (a, b) => ruleText(a, names) !== ruleText(b, names) || JSON.stringify(shape(a)) === JSON.stringify(shape(b)),
      ),
      { numRuns: 3000, seed: 3 },
    );
  });
  it("give the reasons of a verdict with the actual values", () => {
    const engine = engineOf({
      v: { all: [{ signal: "place", op: "isIn", value: [{ country: "ES" }] }, is("campaign.source", "x")] },
    });
    const trace = engine.decide(visit({ place: { country: "PT" } }), { trace: true }).trace?.slots[0]?.variants[0];
    expect(trace && reasonsFor(trace, engine.ruleset).map((reason) => reason.text)).toEqual([
      "in Portugal",
      "no campaign source",
    ]);
  });
});

describe("what is refused when a ruleset is read", () => {
  const slot = (rule: unknown, more = {}) => ({
    slots: [{ id: "s", name: "S", variants: [variant("v", rule, more)] }],
  });
  const at = "/slots/0/variants/0/rule";
  it.each([
    [{ signal: "nothing", op: "is", value: "x" }, `${at}/signal unknown-name`],
    [{ signal: "data.x", op: "is", value: "x" }, `${at}/signal unknown-name`],
    [{ signal: "time", op: "is", value: "x" }, `${at}/op not-here`],
    [{ signal: "campaign.source", op: "is" }, `${at}/value missing`],
    [{ signal: "campaign.source", op: "is", value: 3 }, `${at}/value kind`],
    [{ signal: "campaign.source", op: "contains", value: "" }, `${at}/value empty`],
    [{ signal: "campaign.source", op: "hasAnyWord", value: "!" }, `${at}/value empty`],
    [{ signal: "campaign.source", op: "isOneOf", value: [] }, `${at}/value empty`],
    [{ signal: "campaign.source", op: "isPresent", value: true }, `${at}/value not-here`],
    [{ signal: "cart.subtotal", op: "gte", value: "60.000" }, `${at}/value form`],
    [{ signal: "cart.subtotal", op: "gte", value: 60 }, `${at}/value form`],
    [{ signal: "history.views", op: "between", value: [3, 2] }, `${at}/value order`],
    [{ signal: "history.views", op: "gte", value: 1, exact: true }, `${at}/exact not-here`],
    [{ signal: "ip", op: "isIn", value: ["10.0.0.1/8"] }, `${at}/value/0 form`],
    [{ signal: "language", op: "prefers", value: ["pt_PT"] }, `${at}/value/0 form`],
    [{ signal: "place", op: "isIn", value: [{ list: "none" }] }, `${at}/value/0/list unknown-name`],
    [{ signal: "place", op: "isIn", value: [{ lat: 1, lon: 1, km: 0 }] }, `${at}/value/0/km range`],
    [{ signal: "time", op: "within", value: { zone: "site", days: [] } }, `${at}/value/days empty`],
    [{ all: [] }, `${at}/all empty`],
    [{ all: [{ any: [] }] }, `${at}/all/0/any empty`],
    [{ audience: "none" }, `${at}/audience unknown-name`],
    [{ signal: "campaign.source", op: "is", value: "x", extra: 1 }, `${at}/extra unknown-key`],
    [{ all: [{ signal: "campaign.source" }] }, `${at}/all/0/op choice`],
  ])("%j: %s", (rule, problem) => expect(problemsOf(slot(rule))).toEqual([problem]));
  it("takes null as left out, but for an arm's content, which must be there", () => {
    expect(problemsOf({ offers: null, ...slot(null, { rememberDays: null }) })).toEqual([]);
    expect(problemsOf(slot(null, { arms: [{ id: "a", weight: 100 }] }))).toEqual([
      "/slots/0/variants/0/arms/0/content missing",
    ]);
  });
  it("finds weights that do not add up, double ids, circles of audiences and unknown keys", () => {
    expect(
      problemsOf(
        slot(null, {
          arms: [
            { id: "a", weight: 33.33, content: null },
            { id: "b", weight: 66.66, content: null },
          ],
        }),
      ),
    ).toEqual(["/slots/0/variants/0/arms sum"]);
    expect(problemsOf({ slots: [{ id: "s", name: "S", variants: [variant("v"), variant("v")] }] })).toEqual([
      "/slots/0/variants/1/id twice",
    ]);
    expect(
      problemsOf({
        audiences: [
          { id: "a", name: "A", rule: { audience: "b" } },
          { id: "b", name: "B", rule: { audience: "a" } },
        ],
      }),
    ).toEqual(["/audiences/0/rule circle", "/audiences/1/rule circle"]);
    expect(problemsOf({ surprise: 1 })).toEqual(["/surprise unknown-key"]);
    expect(problemsOf({ site: { ...site, zone: "Nowhere" } })).toEqual(["/site/zone form"]);
  });
  it("refuses what is nested too deeply instead of failing", () => {
    let rule: unknown = is("campaign.source", "x");
    for (let depth = 0; depth < 5000; depth++) rule = { all: [rule] };
    expect(problemsOf(slot(rule))).toEqual([" size"]);
  });
});

describe("how large a rule may be", () => {
  const of = (rule: unknown) => problemsOf({ audiences: [{ id: "a", name: "A", rule }] });
  const nested = (depth: number): object => (depth === 0 ? is("query.q", "x") : { all: [nested(depth - 1)] });
  it("is said, once, at its place", () => {
    const some = (count: number) => ({ any: Array.from({ length: count }, () => is("query.q", "x")) });
    expect(of(some(1000))).toEqual([]);
    expect(of(some(1200))).toEqual(["/audiences/0/rule size"]);
    expect(of(nested(40))).toEqual([]);
    expect(of(nested(41))).toEqual([`/audiences/0/rule${"/all/0".repeat(41)} size`]);
    const values = Array.from({ length: 5001 }, (_, index) => String(index));
    expect(of({ ...is("query.q", values), op: "isOneOf" })).toEqual(["/audiences/0/rule/value size"]);
    // What is live already is served, however large.
    const large = { format: "mirada-ruleset/1", site, audiences: [{ id: "a", name: "A", rule: some(1200) }] };
    expect([readRuleset(large).ok, readRuleset(large, false).ok]).toEqual([false, true]);
    expect(of(is("query.q", "x".repeat(5001)))).toEqual(["/audiences/0/rule/value size"]);
  });
});
