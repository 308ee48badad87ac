/** Rules by which several versions of one slot share visitors out by their languages. */
import { isCondition, walkRule, type Condition, type Rule } from "../formats/rule";

/** The languages that rules ask for, each once, in the order in which they are found. */
export function languagesIn(rules: readonly Rule[]): string[] {
  const found = new Set<string>();
  for (const rule of rules)
    walkRule(rule, (inner) => {
      if (inner === null || !isCondition(inner) || inner.signal !== "language" || !Array.isArray(inner.value)) return;
      for (const tag of inner.value) if (typeof tag === "string") found.add(tag);
    });
  return [...found];
}

/**
 * A rule for a version in some languages beside versions in others: whoever prefers one of them, and whoever reads one of them and
 * prefers none of the others. Of whoever prefers one of all these languages only that one's rule holds; of others the order decides.
 */
export function bestLanguages(tags: readonly string[], others: readonly string[]): Rule {
  const ask = (op: "prefers" | "accepts", value: readonly string[]): Condition => ({
    signal: "language",
    op,
    value: [...value],
  });
  const rest = others.filter((tag) => !tags.includes(tag));
  if (rest.length === 0) return ask("accepts", tags);
  return { any: [ask("prefers", tags), { all: [ask("accepts", tags), { none: [ask("prefers", rest)] }] }] };
}
