import { t } from "../messages/t";
import * as z from "zod";
import { ops } from "./operators";

export const conditionSchema = z.strictObject({
  signal: z.string(),
  op: z.enum(ops, { error: () => t("is not an op") }),
  value: z.unknown().optional(),
  exact: z.boolean().optional(),
  /** Holds also where the signal, or what decides of it, is not known. */
  unknown: z.boolean().optional(),
});
/** One test of one signal. What `value` must be follows from the kind of the signal: see `checkRule`. */
export type Condition = z.output<typeof conditionSchema>;

/** A rule (docs/engine.md, section 4). Null is always true. */
export type Rule = Condition | { all: Rule[] } | { any: Rule[] } | { none: Rule[] } | { audience: string } | null;
export type Group = "all" | "any" | "none";
export const groups: readonly Group[] = ["all", "any", "none"];

export const ruleSchema: z.ZodType<Rule> = z.lazy(() =>
  z.union([
    conditionSchema,
    z.strictObject({ all: z.array(ruleSchema) }),
    z.strictObject({ any: z.array(ruleSchema) }),
    z.strictObject({ none: z.array(ruleSchema) }),
    z.strictObject({ audience: z.string() }),
    z.null(),
  ]),
);

export const isCondition = (rule: Rule): rule is Condition => rule !== null && "signal" in rule;

/** The group that a rule is, with its members; undefined for anything else. */
export function groupOf(rule: Rule): { group: Group; rules: Rule[] } | undefined {
  if (rule === null) return undefined;
  if ("all" in rule) return { group: "all", rules: rule.all };
  if ("any" in rule) return { group: "any", rules: rule.any };
  if ("none" in rule) return { group: "none", rules: rule.none };
  return undefined;
}

/** A group of the given kind. */
export const makeGroup = (group: Group, rules: Rule[]): Rule =>
  group === "all" ? { all: rules } : group === "any" ? { any: rules } : { none: rules };

/** Calls `visit` for the rule and everything in it, with the path to each. */
export function walkRule(rule: Rule, visit: (rule: Rule, path: PropertyKey[]) => void, path: PropertyKey[] = []): void {
  visit(rule, path);
  const members = groupOf(rule);
  members?.rules.forEach((inner, index) => walkRule(inner, visit, [...path, members.group, index]));
}
