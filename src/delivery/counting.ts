/** What a page is told so that it counts: its goals, and on which side of the holdout its visitor is. */
import { isHeldOut } from "@/core/decision/holdout";
import type { Engine } from "@/core/decision/engine";
import type { PageGoal } from "@/core/formats/goal";
import type { Visit } from "@/core/formats/visit";
import { exponentOf, toMinor } from "@/core/money/currency";
import { logFailure } from "@/data/failures";

export interface Counting {
  goals: PageGoal[];
  /** Missing: the site has no holdout, or the visitor is not remembered. */
  holdout?: "in" | "out";
}

/** On which side of the holdout a visitor is; undefined: there is none, or the visitor is not remembered. */
export const sideOf = (holdout: number | undefined, { consent, visitorId }: Visit): Counting["holdout"] =>
  holdout === undefined || consent !== true || !visitorId ? undefined : isHeldOut(holdout, visitorId) ? "out" : "in";

/** What counts on the page of a visit. Should it fail, nothing but what is seen is counted there, and a line is logged. */
export function countingOf({ ruleset, goals }: Engine, visit: Visit): Counting {
  const { holdout, currency, id: site } = ruleset.site;
  const side = sideOf(holdout, visit);
  let found: PageGoal[] = [];
  try {
    found = goals(visit).map(({ id, way, at, value, worth, days }) => ({
      id,
      way,
      ...(at ? { at } : {}),
      value: (value === undefined ? 0 : toMinor(value, currency)) ?? 0,
      ...(worth ? { worth: { ...worth, digits: exponentOf(currency) ?? 2 } } : {}),
      days,
    }));
  } catch (error) {
    logFailure("the goals of a page could not be told", { site, path: new URL(visit.url).pathname }, error);
  }
  return { goals: found, ...(side ? { holdout: side } : {}) };
}
