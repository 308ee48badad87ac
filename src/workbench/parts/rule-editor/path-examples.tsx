"use client";
import { t } from "@/core/messages/t";
import { useMemo } from "react";
import type { Condition } from "@/core/formats/rule";
import { checkRule } from "@/core/rules/check";
import { RuleContext, readyCondition } from "@/core/rules/condition";
import { useDesk } from "../desk/desk";

/** The pages of the site that a condition on the path takes in, as it is typed. */
export function PathExamples({ condition }: { condition: Condition }) {
  const { ruleset, pages, look } = useDesk();
  const fitting = useMemo(() => {
    if (checkRule(condition, ruleset).length > 0) return undefined;
    const ready = readyCondition(condition, new RuleContext(look.engine.ruleset));
    return pages.filter(
      (page) =>
        ready.judge(
          look.engine.read({ at: "2026-01-01T00:00:00Z", url: new URL(page.path, ruleset.site.origin).href }),
        ) === 2,
    );
  }, [condition, ruleset, pages, look.engine]);
  if (!fitting) return null;
  return (
    <span className="quiet">
      {fitting.length === 0
        ? t("No page that is known fits.")
        : t("{fitting} of {pages} pages: {fitting2}{fitting3}", {
            fitting: fitting.length,
            pages: pages.length,
            fitting2: fitting
              .slice(0, 4)
              .map((page) => page.path)
              .join(", "),
            fitting3: fitting.length > 4 ? " …" : "",
          })}
    </span>
  );
}
