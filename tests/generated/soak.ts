/** Holds everything that the analysis says of made-up rulesets against the engine, on visits that it knows nothing of. */
import { createEngine } from "@/core/decision/engine";
import { allFindings, standingOf, type Finding } from "@/core/analysis/findings";
import { ruleNotes } from "@/core/analysis/notes";
import { groupOf, type Rule } from "@/core/formats/rule";
import type { Decision } from "@/core/decision/decision";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { RuleCompiler } from "@/core/rules/compile";
import { RuleContext } from "@/core/rules/condition";
import { YES } from "@/core/rules/truth";
import { allRules } from "@/core/ruleset/uses";
import { cachedDevices } from "@/core/visit/device";
import { generator, makeRuleset, makeVisit } from "./rulesets";

export interface SoakReport {
  rulesets: number;
  /** What was said, by kind and by how sure it is called. */
  judgements: Record<string, number>;
  /** What was said and is not so: there must be none. */
  wrong: { seed: number; finding: string; says: string; because: string }[];
  /** Things said not to be found, in so many tries, that random visits show all the same. */
  notFoundButThere: number;
}

const from = Date.UTC(2026, 10, 1);
const partAt = (rule: Rule, way: readonly number[]): Rule =>
  way.reduce<Rule>((part, index) => (part === null ? null : (groupOf(part)?.rules[index] ?? null)), rule);

export function soakOne(seed: number, visits: number, report: SoakReport): void {
  const ruleset = makeRuleset(seed);
  const engine = createEngine(ruleset, { device: cachedDevices() });
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  const g = generator(seed * 7919 + 1);
  const tried: { visit: Visit; decision: Decision }[] = [];
  let memory: unknown;
  for (let count = 0; count < visits; count++) {
    const visit = makeVisit(g, g.chance(0.5) ? memory : undefined);
    const decision = engine.decide(visit);
    memory = decision.memory ?? undefined;
    tried.push({ visit, decision });
  }
  const readings = tried.map(({ visit }) => engine.read(visit));
  const holds = (rule: Rule, index: number) => compiler.compile(rule)(readings[index] as never) === YES;
  const count = (name: string) => (report.judgements[name] = (report.judgements[name] ?? 0) + 1);
  const wrong = (finding: string, says: string, because: string) =>
    void report.wrong.push({ seed, finding, says, because });

  for (const item of allFindings({ ruleset, from })) {
    count(`${item.finding}, ${standingOf(item)}`);
    const told = witnessProblem(item, ruleset, engine);
    if (told) wrong(item.finding, item.says, told);
    const there = counterexample(item, tried, ruleset, holds);
    if (!there) continue;
    if (standingOf(item) === "not found") report.notFoundButThere += 1;
    else wrong(item.finding, item.says, `not so for ${JSON.stringify(there)}`);
  }
  for (const { owner, rule } of allRules(ruleset))
    for (const note of ruleNotes(rule, ruleset)) {
      count(`note ${note.kind}`);
      const part = partAt(rule, note.way);
      if (note.kind === "never") {
        const at = tried.findIndex((_, index) => holds(part, index));
        if (at >= 0)
          wrong("note never", `${owner.name}: ${note.says} ${JSON.stringify(part)}`, JSON.stringify(tried[at]?.visit));
      } else if (note.says.startsWith("This always holds")) {
        const at = tried.findIndex((_, index) => !holds(part, index));
        if (at >= 0)
          wrong("note idle", `${owner.name}: ${note.says} ${JSON.stringify(part)}`, JSON.stringify(tried[at]?.visit));
      }
    }
  report.rulesets += 1;
}

/** What a finding's witness does not show; undefined: it shows what is said. */
function witnessProblem(item: Finding, ruleset: Ruleset, engine: ReturnType<typeof createEngine>): string | undefined {
  if (!item.witness) {
    const needs = ["overlap", "gap", "loop", "offer-boundary"].includes(item.finding);
    return needs ? "it has no witness" : undefined;
  }
  const decision = engine.decide(item.witness, { trace: true });
  const variant = decision.trace?.slots
    .find((slot) => slot.id === item.slot)
    ?.variants.find((one) => one.id === item.variant);
  switch (item.finding) {
    case "overlap":
      return !decision.redirect &&
        variant?.verdict === "beaten" &&
        variant.rule.verdict === "true" &&
        variant.by?.includes(item.other ?? "")
        ? undefined
        : "the two do not meet there";
    case "gap":
      return decision.slots[item.slot ?? ""]?.every((one) => one.variant === null)
        ? undefined
        : "it is not empty there";
    case "always-beaten":
      return variant?.verdict === "beaten" ? undefined : "it is not beaten there";
    case "beaten-but":
      return variant?.verdict === "shown" ? undefined : "it is not shown there";
    case "loop":
      return decision.redirect?.id === item.about?.id ||
        decision.trace?.redirects.some((one) => one.id === item.about?.id && one.verdict === "would loop")
        ? undefined
        : "it redirects nobody there";
    case "offer-boundary":
      return decision.trace?.offers.find((one) => one.id === item.other)?.verdict === "applied"
        ? undefined
        : "the offer does not apply there";
    default:
      return undefined;
  }
}

/** A visit of which something is so that a finding says is never so. */
function counterexample(
  item: Finding,
  tried: readonly { visit: Visit; decision: Decision }[],
  ruleset: Ruleset,
  holds: (rule: Rule, index: number) => boolean,
): Visit | undefined {
  const of = (test: (decision: Decision, index: number) => boolean) =>
    tried.find(({ decision }, index) => test(decision, index))?.visit;
  const rememberDays = ruleset.slots.some((slot) => slot.variants.some((one) => one.rememberDays !== undefined));
  switch (item.finding) {
    case "never-shown":
    case "always-beaten":
      // What is remembered is shown past its rule: the analysis speaks of rules.
      return rememberDays
        ? undefined
        : of((decision) => decision.slots[item.slot ?? ""]?.some((one) => one.variant === item.variant) ?? false);
    case "popup-never":
      return of((decision) => decision.popup?.id === item.about?.id);
    case "offers-apart":
      return of((decision) =>
        [item.other, item.about?.id].every((id) => decision.cart?.adjustments.some((one) => one.offer === id)),
      );
    case "audience-within": {
      const ruleOf = (id: string | undefined) => ruleset.audiences.find((one) => one.id === id)?.rule ?? null;
      return of((_, index) => holds(ruleOf(item.about?.id), index) && !holds(ruleOf(item.other), index));
    }
    default:
      return undefined;
  }
}

export const emptyReport = (): SoakReport => ({ rulesets: 0, judgements: {}, wrong: [], notFoundButThere: 0 });

export function soak(first: number, rulesets: number, visits: number): SoakReport {
  const report = emptyReport();
  for (let seed = first; seed < first + rulesets; seed++) soakOne(seed, visits, report);
  return report;
}
