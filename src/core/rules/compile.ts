import { operators, positiveOf } from "../formats/operators";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { Reading } from "../visit/reading";
import { traitsOf } from "../visit/signals";
import { conditionMeaning, readyCondition, type ReadyCondition, type RuleContext } from "./condition";
import { NO, not, UNKNOWN, YES, type Truth } from "./truth";

/** A rule as one function: its truth for a visit. */
export type Judge = (r: Reading) => Truth;

/** How much work a condition is, roughly, and so how late it is asked. What is cheap and selective comes first. */
function cost(condition: Condition): number {
  return (traitsOf(condition.signal)?.cost ?? 1) + operators[condition.op].cost;
}

const costOf = (rule: Rule, context: RuleContext): number => {
  if (rule === null) return 0;
  if (isCondition(rule)) return cost(rule);
  const members = groupOf(rule);
  if (members) return 1 + members.rules.reduce((sum, inner) => sum + costOf(inner, context), 0);
  return 10;
};

/** Compiles rules of one ruleset. Equal conditions share what they made ready; audiences are compiled once. */
export class RuleCompiler {
  readonly #audiences = new Map<string, Judge>();
  readonly #conditions = new Map<string, ReadyCondition>();
  /** The very same condition is asked for again and again: then its text need not be made. */
  readonly #known = new WeakMap<Condition, ReadyCondition>();
  constructor(readonly context: RuleContext) {}

  condition(condition: Condition): ReadyCondition {
    const known = this.#known.get(condition);
    if (known) return known;
    const key = JSON.stringify(condition);
    let ready = this.#conditions.get(key);
    if (!ready) this.#conditions.set(key, (ready = readyCondition(condition, this.context)));
    this.#known.set(condition, ready);
    return ready;
  }

  audience(id: string): Judge {
    let judge = this.#audiences.get(id);
    if (!judge) {
      const audience = this.context.audiences.get(id);
      if (!audience) throw new Error(`there is no audience ${id}`);
      this.#audiences.set(id, (judge = this.compile(audience.rule)));
    }
    return judge;
  }

  /** One function for a rule: it stops as soon as the answer is certain, and asks the cheapest members first. */
  compile(rule: Rule): Judge {
    if (rule === null) return () => YES;
    if (isCondition(rule)) return this.condition(rule).judge;
    const members = groupOf(rule);
    if (!members) return this.audience((rule as { audience: string }).audience);
    const judges = members.rules
      .map((inner) => ({ inner, cost: costOf(inner, this.context) }))
      .sort((a, b) => a.cost - b.cost)
      .map(({ inner }) => this.compile(inner));
    if (members.group === "all") return all(judges);
    if (members.group === "any") return any(judges);
    const some = any(judges);
    return (r) => not(some(r));
  }
}

function all(judges: Judge[]): Judge {
  const [first, second] = judges;
  if (!first) return () => YES;
  if (!second) return first;
  if (judges.length === 2)
    return (r) => {
      const one = first(r);
      if (one === NO) return NO;
      const two = second(r);
      return two === NO ? NO : one === UNKNOWN ? UNKNOWN : two;
    };
  return (r) => {
    let truth: Truth = YES;
    for (const judge of judges) {
      const one = judge(r);
      if (one === NO) return NO;
      if (one === UNKNOWN) truth = UNKNOWN;
    }
    return truth;
  };
}

function any(judges: Judge[]): Judge {
  if (judges.length === 1) return judges[0] as Judge;
  return (r) => {
    let truth: Truth = NO;
    for (const judge of judges) {
      const one = judge(r);
      if (one === YES) return YES;
      if (one === UNKNOWN) truth = UNKNOWN;
    }
    return truth;
  };
}

/** A necessary condition of a rule that a table can answer: the signal must have one of these (comparable) texts. */
export interface Key {
  signal: string;
  values: string[];
  /** What is left to ask where the signal has one of them. */
  rest: Rule;
}

/** The key of a rule, if it has one: an `is` or `isOneOf` that must hold for the rule to hold. */
export function keyOf(rule: Rule, context: RuleContext): Key | undefined {
  if (rule === null) return undefined;
  if (isCondition(rule)) {
    if (rule.exact || rule.unknown || (traitsOf(rule.signal)?.key ?? null) === null) return undefined;
    const meaning = conditionMeaning(rule, context.ruleset);
    return meaning?.is === "equal" && !positiveOf(rule.op).denied
      ? { signal: rule.signal, values: [...new Set(meaning.texts)], rest: null }
      : undefined;
  }
  if ("all" in rule) {
    const keys = rule.all.flatMap((inner, index): Key[] => {
      const key = keyOf(inner, context);
      if (!key) return [];
      const others = rule.all.filter((_, place) => place !== index);
      const rest = [...others, ...(key.rest === null ? [] : [key.rest])];
      return [{ ...key, rest: rest.length === 0 ? null : { all: rest } }];
    });
    const rank = (key: Key): number => key.values.length + (traitsOf(key.signal)?.key ?? 0);
    return keys.sort((a, b) => rank(a) - rank(b))[0];
  }
  if ("audience" in rule) return keyOf(context.audiences.get(rule.audience)?.rule ?? null, context);
  if ("any" in rule && rule.any.length === 1) return keyOf(rule.any[0] as Rule, context);
  return undefined;
}
