import type { Goal } from "../formats/goal";
import type { Ruleset } from "../formats/ruleset";
import type { Judge, RuleCompiler } from "../rules/compile";
import { YES } from "../rules/truth";
import type { Reading } from "../visit/reading";

/** The goals of a ruleset made ready: those that a page view reaches, or that can be reached on its page by a click or a form. */
export function readyGoals({ goals }: Ruleset, compiler: RuleCompiler): (reading: Reading) => Goal[] {
  const ready: { goal: Goal; judge: Judge }[] = goals.map((goal) => ({ goal, judge: compiler.compile(goal.pages) }));
  return (reading) => ready.flatMap(({ goal, judge }) => (judge(reading) === YES ? [goal] : []));
}
