import { t } from "../messages/t";
import type { Redirect, Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import type { PlaceLookup } from "../visit/places";
import { createEngine } from "./engine";

/** What a redirect, taken by itself and switched on, does with a visit. */
export interface RedirectExample {
  /** Where it leads; undefined: the visitor stays. */
  location?: string;
  /** Why the visitor stays. */
  reason?: string;
}

/** Tries one redirect on visits, as if it were alone and switched on. It must have no problems. */
export function redirectExamples(
  redirect: Redirect,
  ruleset: Ruleset,
  visits: readonly Visit[],
  options: { lookup?: PlaceLookup; mayLeadTo?: (host: string) => boolean },
): RedirectExample[] {
  const alone: Ruleset = { ...ruleset, slots: [], popups: [], redirects: [{ ...redirect, on: true }] };
  const engine = createEngine(alone, options);
  return visits.map((visit) => {
    const decision = engine.decide(visit, { trace: true });
    if (decision.redirect) return { location: decision.redirect.location };
    const trace = decision.trace?.redirects[0];
    return {
      reason:
        trace?.reason ??
        (trace?.verdict === "rule unknown"
          ? t("something that its rule asks for is not known")
          : t("its rule is not met")),
    };
  });
}
