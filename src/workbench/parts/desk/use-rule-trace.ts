"use client";
import { useMemo } from "react";
import { RuleCompiler } from "@/core/rules/compile";
import { RuleContext } from "@/core/rules/condition";
import { checkRule } from "@/core/rules/check";
import { evaluate, type RuleTrace } from "@/core/rules/evaluate";
import type { Rule } from "@/core/formats/rule";
import { useDesk } from "./desk";

/** Judges any rule for the lens at hand, with its reasons; undefined while the rule is not finished. */
export function useRuleTrace(): (rule: Rule) => RuleTrace | undefined {
  const { look } = useDesk();
  const { engine, visit } = look;
  return useMemo(() => {
    const compiler = new RuleCompiler(new RuleContext(engine.ruleset));
    const reading = engine.read(visit);
    return (rule) => (checkRule(rule, engine.ruleset).length > 0 ? undefined : evaluate(rule, reading, compiler));
  }, [engine, visit]);
}
