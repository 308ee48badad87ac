/**
 * The compiled rules of the engine beside a second, plain reading of docs/engine.md (plain.ts): every condition of a pool over all
 * signals and operators with every visit of another, and rules made of them, grown small by fast-check where the two differ.
 */
import fc from "fast-check";
import { expect, it } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { isCondition, walkRule, type Condition, type Rule } from "@/core/formats/rule";
import type { Visit } from "@/core/formats/visit";
import { RuleCompiler } from "@/core/rules/compile";
import { RuleContext } from "@/core/rules/condition";
import { NO, YES } from "@/core/rules/truth";
import { allRules } from "@/core/ruleset/uses";
import type { Reading } from "@/core/visit/reading";
import { signalInfo } from "@/core/visit/signals";
import { generator, makeRuleset, makeVisit } from "../generated/rulesets";
import { plainly, type Outside, type Three } from "./plain";
import { report } from "./report";

/** Any made-up ruleset that has of everything one: what conditions of all others may name. */
const base = Array.from({ length: 50 }, (_, seed) => makeRuleset(seed + 1)).find(
  (one) => one.offers.length === 2 && one.audiences.length === 1,
)!;
const engine = createEngine(base);
const compiler = new RuleCompiler(new RuleContext(base));

/** Conditions of made-up rulesets, each once; what is rare is in it as what is common. */
function conditions(most: number): Condition[] {
  const found = new Map<string, Condition>();
  for (let seed = 1; found.size < most; seed++)
    for (const { rule } of allRules(makeRuleset(seed)))
      walkRule(rule, (inner) => {
        if (inner !== null && isCondition(inner) && signalInfo(inner.signal, base))
          found.set(JSON.stringify(inner), inner);
      });
  return [...found.values()].slice(0, most);
}

interface Asked {
  visit: Visit;
  reading: Reading;
  outside: Outside;
}
function visits(count: number): Asked[] {
  const g = generator(4711);
  let memory: unknown;
  return Array.from({ length: count }, () => {
    const visit = makeVisit(g, g.chance(0.6) ? memory : undefined);
    memory = engine.decide(visit).memory ?? undefined;
    const reading = engine.read(visit);
    const { history, markers, cartFigures } = reading;
    const outside: Outside = {
      history: history
        ? {
            views: history.views,
            visits: history.visits,
            minutes: history.minutes,
            landing: history.landing,
            ...(history.daysSinceLast === undefined ? {} : { daysSinceLast: history.daysSinceLast }),
            seen: (category) => history.categories.get(category) ?? 0,
          }
        : null,
      holds: (marker) => (markers ? markers.has(marker) : null),
      total: cartFigures && cartFigures.total,
      toGo: (offer) => cartFigures && (cartFigures.toGo.get(offer) ?? 0),
    };
    return { visit, reading, outside };
  });
}

const pool = conditions(1000);
const asked = visits(250);
const compiled = (rule: Rule, { reading }: Asked): Three => {
  const truth = compiler.compile(rule)(reading);
  return truth === YES ? true : truth === NO ? false : null;
};

it("says of 250,000 conditions and visits what a plain reading says", () => {
  const seen = new Set<string>();
  const came = { true: 0, false: 0, null: 0 };
  for (const condition of pool) {
    seen.add(`${signalInfo(condition.signal, base)?.kind} ${condition.op}`);
    for (const one of asked) {
      const expected = plainly(condition, one.visit, base, one.outside);
      const found = compiled(condition, one);
      came[`${found}`] += 1;
      if (found !== expected)
        expect.fail(`${JSON.stringify(condition)}: ${found}, plainly ${expected}, of ${JSON.stringify(one.visit)}`);
    }
  }
  const signals = new Set(pool.map(({ signal }) => signal));
  const pairs = pool.length * asked.length;
  report("conditions beside a plain reading", pairs, pairs);
  // All of it came up, and every outcome often.
  expect(signals.size).toBeGreaterThan(45);
  expect(seen.size).toBeGreaterThan(60);
  for (const count of Object.values(came)) expect(count).toBeGreaterThan(pairs * 0.02);
});

it("says of 200,000 rules and visits what a plain reading says", () => {
  const { rule } = fc.letrec<{ rule: Rule }>((tie) => {
    const members = fc.array(tie("rule"), { minLength: 1, maxLength: 3 });
    return {
      rule: fc.oneof(
        { maxDepth: 3, depthSize: "small" },
        fc.constantFrom<Rule>(...pool),
        fc.constant<Rule>({ audience: base.audiences[0]!.id }),
        members.map((all): Rule => ({ all })),
        members.map((any): Rule => ({ any })),
        members.map((none): Rule => ({ none })),
      ),
    };
  });
  fc.assert(
    fc.property(rule, fc.nat(asked.length - 1), (made, first) => {
      for (let step = 0; step < 20; step++) {
        const one = asked[(first + step * 7) % asked.length]!;
        expect([JSON.stringify(one.visit), compiled(made, one)]).toEqual([
          JSON.stringify(one.visit),
          plainly(made, one.visit, base, one.outside),
        ]);
      }
    }),
    { numRuns: 10_000, seed: 20 },
  );
  report("rules beside a plain reading", 200_000, 200_000);
});
