/** A rule that is being written is unfinished most of the time: whatever looks at the draft meanwhile must bear that. */
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { differences } from "../draft/difference";
import { runnable } from "../draft/runnable";
import { ops } from "../formats/operators";
import type { Rule } from "../formats/rule";
import { rulesetSchema, type Ruleset } from "../formats/ruleset";
import { checkRule } from "../rules/check";
import { signalChoices } from "../ruleset/choices";
import { ruleText } from "../rules/sentence";
import { allRules } from "../ruleset/uses";
import { ruleset, site, variant, visit } from "../testing";
import { allFindings } from "./findings";
import { ruleNotes } from "./notes";

const base = {
  dataFields: [{ signal: "data", name: "level", kind: "number" }],
  markers: [{ id: "old", name: "Old", gain: { signal: "page.id", op: "is", value: "a" }, days: 1 }],
  offers: [{ id: "ten", name: "Ten", label: "Ten", reward: { percent: 10 } }],
};
const names = ruleset(base);
const signals = ["", "cart.toGo.", "marker.gone", ...signalChoices(names).map((choice) => choice.signal)];
const values = [undefined, "", [], [""], {}, 0];
const unfinished: Rule[] = signals.flatMap((signal, index) =>
  ops.map((op, at): Rule => ({ signal, op, value: values[(index + at) % values.length] })),
);
unfinished.push({ all: [] }, { any: [{ none: [] }] }, { audience: "gone" });

/** A draft with a rule in every place where one may stand. */
const draftWith = (rule: Rule): Ruleset =>
  rulesetSchema.parse({
    format: "mirada-ruleset/1",
    site,
    ...base,
    audiences: [{ id: "a", name: "A", rule }],
    markers: [...base.markers, { id: "m", name: "M", gain: rule, lose: rule, days: 1 }],
    slots: [{ id: "s", name: "S", pages: rule, variants: [variant("v", rule), variant("w")] }],
    popups: [
      {
        id: "p",
        name: "P",
        pages: rule,
        rule,
        arms: [{ id: "a", weight: 100, content: null }],
        opensAfter: { seconds: 1 },
        size: { width: 300, height: 200 },
      },
    ],
    offers: [...base.offers, { id: "o", name: "O", label: "O", reward: { percent: 5 }, rule }],
    redirects: [{ id: "r", name: "R", rule, to: "/x" }],
  });

describe("an unfinished rule, wherever it stands", () => {
  it(`breaks nothing that looks at the draft (${unfinished.length} of them)`, () => {
    const seen = visit({ cart: { lines: [{ sku: "a", quantity: 1, unitPrice: 100 }] }, consent: true, visitorId: "v" });
    for (const rule of unfinished) {
      const draft = draftWith(rule);
      const ready = runnable(draft);
      const look = () => {
        const decision = createEngine(ready.ruleset).decide(seen, { trace: true });
        for (const { rule: one } of allRules(draft)) {
          ruleText(one, draft);
          checkRule(one, draft);
        }
        differences(names, draft);
        return decision.slots;
      };
      expect([rule, look]).toEqual([rule, expect.toSatisfy((work: () => object) => Object.keys(work()).length <= 1)]);
    }
  }, 60_000);
  it("what is odd about it, and about the ruleset, can be asked for", () => {
    for (const rule of unfinished.filter((_, index) => index % 17 === 0)) {
      const ready = runnable(draftWith(rule));
      expect(Array.isArray(ruleNotes(rule, ready.ruleset))).toBe(true);
      expect(Array.isArray(allFindings({ ruleset: ready.ruleset, from: 0 }))).toBe(true);
    }
  }, 60_000);
});
