import { t } from "../messages/t";
import { groupOf, isCondition, type Condition, type Group, type Rule } from "../formats/rule";
import { Text } from "../text/text";
import type { Reading, Value } from "../visit/reading";
import { unknownBecause } from "../visit/signals";
import type { ReadyCondition } from "./condition";
import { not, truthNames, UNKNOWN, YES, type Truth, type TruthName } from "./truth";

/** The actual value of a signal as JSON: absent is left out (`state` says so). */
export type Actual =
  { state: "known"; value: unknown } | { state: "absent"; reason?: string } | { state: "unknown"; reason: string };

/** A rule with the verdict of every part of it, for one visit. */
export type RuleTrace =
  | { verdict: TruthName; condition: Condition; actual: Actual }
  | { verdict: TruthName; group: Group; rules: RuleTrace[] }
  | { verdict: TruthName; audience: string; rule: RuleTrace }
  | { verdict: TruthName; always: true };

/** Gives conditions made ready, and the rules of audiences. */
export interface RuleSource {
  condition(condition: Condition): ReadyCondition;
  readonly context: { readonly audiences: ReadonlyMap<string, { rule: Rule }> };
}

const truthOf = (trace: RuleTrace): Truth => truthNames.indexOf(trace.verdict) as Truth;

/** The plain evaluator: judges every part of a rule, in its own order, and keeps every verdict. */
export function evaluate(rule: Rule, r: Reading, source: RuleSource): RuleTrace {
  if (rule === null) return { verdict: "true", always: true };
  if (isCondition(rule)) {
    const ready = source.condition(rule);
    return { verdict: truthNames[ready.judge(r)], condition: rule, actual: actualOf(ready, r) };
  }
  const members = groupOf(rule);
  if (!members) {
    const { audience } = rule as { audience: string };
    const inner = evaluate(source.context.audiences.get(audience)?.rule ?? null, r, source);
    return { verdict: inner.verdict, audience, rule: inner };
  }
  const rules = members.rules.map((inner) => evaluate(inner, r, source));
  const truths = rules.map(truthOf);
  const some = Math.max(0, ...truths) as Truth;
  const truth =
    members.group === "all" ? (Math.min(YES, ...truths) as Truth) : members.group === "any" ? some : not(some);
  return { verdict: truthNames[truth], group: members.group, rules };
}

function actualOf(ready: ReadyCondition, r: Reading): Actual {
  const { signal } = ready.condition;
  if (ready.kind === "schedule") {
    if (ready.schedule?.visitorZone && r.zone === undefined)
      return { state: "unknown", reason: unknownBecause(signal, r) };
    return { state: "known", value: { at: r.visit.at, ...(ready.schedule?.visitorZone ? { zone: r.zone } : {}) } };
  }
  const value = ready.value(r);
  if (value === null) return { state: "unknown", reason: unknownBecause(signal, r) };
  if (value === undefined)
    return r.misfits.includes(signal)
      ? { state: "absent", reason: t("its value is of another kind than the field") }
      : { state: "absent" };
  if (ready.kind === "place" && ready.bare(r) === UNKNOWN)
    return { state: "unknown", reason: t("only the country is known, not the city, region or position asked for") };
  return { state: "known", value: plain(value, ready.kind === "address" ? r.visit.ip : undefined) };
}

function plain(value: NonNullable<Value>, address: string | undefined): unknown {
  if (value instanceof Text) return value.raw;
  if (Array.isArray(value)) return value.map((item) => (item instanceof Text ? item.raw : item));
  return address ?? value;
}
