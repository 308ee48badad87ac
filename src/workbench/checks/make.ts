import { someoneWho } from "@/core/analysis/reach";
import type { Domain } from "@/core/analysis/facet";
import { expectationText } from "@/core/checks/run";
import type { Check, Expectation } from "@/core/formats/check";
import type { Visit } from "@/core/formats/visit";

let count = 0;
/** A check of a visit, named by what it expects. */
export function makeCheck(visit: Visit, expect: Expectation, domain: Pick<Domain, "ruleset">, who: string): Check {
  count += 1;
  const id = `check-${Date.now().toString(36)}-${count}`;
  return { id, name: `${who}: ${expectationText(expect, domain.ruleset)}`, visit, expect };
}

/** A check for every variant that is on and every fallback, each from a visitor whom the analysis found. */
export function checksForAll(domain: Domain): Check[] {
  return domain.ruleset.slots.flatMap((slot) =>
    [...slot.variants.filter((variant) => variant.on), null].flatMap((variant) => {
      const solved = someoneWho(domain, slot, variant);
      return solved.found
        ? [makeCheck(solved.visit, { slot: slot.id, variant: variant?.id ?? null }, domain, "A witness")]
        : [];
    }),
  );
}
