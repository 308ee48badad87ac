import { t } from "../messages/t";
import type { Domain } from "../analysis/facet";
import { someoneWho } from "../analysis/reach";
import type { Check, Expectation } from "../formats/check";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { expectationText } from "./run";

/** A check of a visit, named by who it is and what is expected. */
export const makeCheck = (
  id: string,
  visit: Visit,
  expect: Expectation,
  ruleset: Ruleset,
  who: string,
  steps: Check["steps"] = [],
): Check => ({ id, name: `${who}: ${expectationText(expect, ruleset)}`, visit, steps, expect });

/**
 * A check for every variant that is on and every fallback, each from a visitor whom the analysis found.
 * @param stem what their ids begin with
 */
export function checksForAll(domain: Domain, stem: string): Check[] {
  const { ruleset } = domain;
  const out: Check[] = [];
  for (const slot of ruleset.slots)
    for (const variant of [...slot.variants.filter((item) => item.on), null]) {
      const solved = someoneWho(domain, slot, variant);
      const expect = { slot: slot.id, variant: variant?.id ?? null };
      if (solved.found) out.push(makeCheck(`${stem}-${out.length + 1}`, solved.visit, expect, ruleset, t("A witness")));
    }
  return out;
}
