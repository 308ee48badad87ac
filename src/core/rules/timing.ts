/** The schedule that stands beside the other conditions of a rule: when, apart from who. */
import { isCondition, type Condition, type Rule } from "../formats/rule";
import type { Way } from "./arrange";

const isTiming = (rule: Rule): rule is Condition =>
  rule !== null && isCondition(rule) && rule.signal === "time" && rule.op === "within";

/** Where the schedule of a rule stands: the whole rule, or one of its parts that must all hold. Undefined: it has none. */
export function timingOf(rule: Rule): { way: Way; condition: Condition } | undefined {
  if (isTiming(rule)) return { way: [], condition: rule };
  if (rule === null || !("all" in rule)) return undefined;
  const index = rule.all.findIndex(isTiming);
  return index < 0 ? undefined : { way: [index], condition: rule.all[index] as Condition };
}

/** The rule with a schedule beside it, that must hold too. */
export function withTiming(rule: Rule, condition: Condition): Rule {
  const found = timingOf(rule);
  if (found) return found.way.length === 0 ? condition : replacePart(rule, found.way[0] as number, condition);
  if (rule === null) return { all: [condition] };
  return "all" in rule ? { all: [...rule.all, condition] } : { all: [rule, condition] };
}

/** The rule without its schedule. */
export function withoutTiming(rule: Rule): Rule {
  const found = timingOf(rule);
  if (!found) return rule;
  if (found.way.length === 0) return null;
  const rest = (rule as { all: Rule[] }).all.filter((_, index) => index !== found.way[0]);
  return rest.length === 0 ? null : { all: rest };
}

const replacePart = (rule: Rule, at: number, part: Rule): Rule => ({
  all: (rule as { all: Rule[] }).all.map((item, index) => (index === at ? part : item)),
});
