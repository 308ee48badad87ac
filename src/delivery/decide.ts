import type { DecideOptions, Engine } from "@/core/decision/engine";
import type { Decision } from "@/core/decision/decision";
import type { Visit } from "@/core/formats/visit";
import { logFailure } from "@/data/failures";

/** How often the same failure of a site is logged, in milliseconds: visitors come by the thousand. */
const quiet = 10_000;
const lastLogged = new Map<string, number>();

/** Decides a visit. Should deciding it fail, the visitor gets the page with its fallbacks, and a line is logged. */
export function decideOrFallBack(engine: Engine, visit: Visit, options?: DecideOptions): Decision {
  try {
    return engine.decide(visit, options);
  } catch (error) {
    const { site } = engine.ruleset;
    const key = `${site.id} ${String(error)}`;
    const now = performance.now();
    if (now - (lastLogged.get(key) ?? -Infinity) >= quiet) {
      if (lastLogged.size > 1000) lastLogged.clear();
      lastLogged.set(key, now);
      logFailure("a visit could not be decided", { site: site.id, path: new URL(visit.url).pathname }, error);
    }
    return engine.withoutRules(visit);
  }
}
