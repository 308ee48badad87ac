/** Who sees a variant, and what would have to differ for a visitor at hand to see it. */
import type { Popup, Redirect, Slot, Variant } from "../formats/ruleset";
import { createEngine } from "../decision/engine";
import { templateParts } from "../content/template";
import { parseInstant, type Visit } from "../formats/visit";
import { day } from "../calendar/calendar";
import type { Decision } from "../decision/decision";
import { Evidence } from "./evidence";
import type { Domain, Setting } from "./facet";
import { nearer } from "./nearest";
import { placeLeft, subsets } from "./subsets";
import { Space, type Clause, type Solution } from "./solve";
import { fails, holds } from "./conditions";

/** What must come true for a variant to be shown (or, for null, the fallback): its rule, and a place left by those above it. */
export function wanted(slot: Slot, variant: Variant | null): { clauses: Clause[]; exact: boolean } {
  const on = slot.variants.filter((item) => item.on);
  const above = variant === null ? on : on.slice(0, on.indexOf(variant));
  const rules = above.map((item) => item.rule);
  const left = placeLeft(rules, variant === null ? 1 : slot.take);
  return {
    clauses: [holds(slot.pages), ...(variant === null ? [] : [holds(variant.rule)]), ...left.clauses],
    exact: left.exact,
  };
}

/** The ruleset with a variant of a slot switched on, what must come true for it to be shown, and whether a decision shows it. */
function aim(domain: Domain, slot: Slot, variant: Variant | null) {
  const [here, mine] = asOn(slot, variant);
  const ruleset = { ...domain.ruleset, slots: domain.ruleset.slots.map((item) => (item.id === slot.id ? here : item)) };
  const isShown = ({ slots }: Decision): boolean =>
    slots[slot.id]?.some((item) => item.variant === (variant?.id ?? null)) ?? false;
  return { ...wanted(here, mine), domain: { ...domain, ruleset }, isShown };
}

/**
 * A visitor who sees a variant, as the engine decides the whole visit; or why there is none. A variant that is switched off is
 * looked at as if it were on.
 */
export function someoneWho(domain: Domain, slot: Slot, variant: Variant | null): Solution {
  const { clauses, exact, isShown, domain: aimed } = aim(domain, slot, variant);
  const space = new Space(aimed);
  const evidence = new Evidence(aimed);
  const solved = space.solve(clauses);
  if (solved.found && isShown(evidence.decide(solved.visit))) return solved;
  if (!solved.found && solved.proof === "exact" && exact) return solved;
  // Whoever is redirected sees nothing of it: somebody who is not, or one of many who were tried.
  const straight = space.solve([...clauses, ...evidence.unredirected]);
  if (straight.found && isShown(evidence.decide(straight.visit))) return straight;
  const visit = evidence.find(isShown);
  if (visit) return { found: true, visit };
  return { found: false, proof: "searched", tries: evidence.tries + (solved.found ? 1 : solved.tries) };
}

/** The slot with a variant switched on, and the variant in it. */
function asOn(slot: Slot, variant: Variant | null): [Slot, Variant | null] {
  if (variant === null || variant.on) return [slot, variant];
  const on = { ...variant, on: true };
  return [{ ...slot, variants: slot.variants.map((item) => (item.id === variant.id ? on : item)) }, on];
}

/** A visitor for whom a pop-up opens, and for whom `also` holds; or why there is none. One whose consent lets it be counted. */
export function someoneWhoOpens(domain: Domain, popup: Popup, also: readonly Clause[] = []): Solution {
  const { popups } = domain.ruleset;
  const above = popups.slice(0, popups.indexOf(popup)).filter((item) => item.on);
  const solved = new Space(domain).solve([
    holds(popup.pages),
    holds(popup.rule),
    ...above.map((item): Clause => [
      { rule: item.pages, holds: false },
      { rule: item.rule, holds: false },
    ]),
    ...also,
  ]);
  if (!solved.found) return solved;
  const engine = createEngine({
    ...domain.ruleset,
    popups: popups.map((item) => (item === popup ? { ...popup, on: true } : item)),
  });
  const agreed: Visit = { visitorId: "lens", ...solved.visit, consent: true };
  return confirmed([agreed, solved.visit], (visit) => engine.decide(visit).popup?.id === popup.id);
}

/** A visitor whom a redirect's rule sends on, and no earlier one, and for whom `also` holds; or why there is none. */
export function someoneWhoIsSent(domain: Domain, redirect: Redirect, also: readonly Clause[] = []): Solution {
  const { redirects } = domain.ruleset;
  const above = redirects.slice(0, redirects.indexOf(redirect)).filter((item) => item.on);
  const solved = new Space({ ...domain, strayPaths: true }).solve([
    holds(redirect.rule),
    ...above.map((item): Clause => fails(item.rule)),
    ...also,
  ]);
  if (!solved.found) return solved;
  const told = withVariables(solved.visit, [redirect]);
  const engine = createEngine({
    ...domain.ruleset,
    slots: [],
    popups: [],
    redirects: [...above, { ...redirect, on: true }],
  });
  return confirmed([told, solved.visit], (visit) => engine.decide(visit).redirect?.id === redirect.id);
}

/** The first of some visits for which something is really so: caps, exemptions and gaps are no rules, and the engine knows them. */
function confirmed(visits: readonly Visit[], isSo: (visit: Visit) => boolean): Solution {
  const visit = visits.find(isSo);
  return visit ? { found: true, visit } : { found: false, proof: "searched", tries: visits.length };
}

/** A visit that tells what the templates of redirects name, where it does not yet. */
export function withVariables(visit: Visit, redirects: readonly Redirect[]): Visit {
  const names = redirects.flatMap(({ to }) => {
    const parts = templateParts(to);
    return "names" in parts ? parts.names : [];
  });
  const place = { country: "PT", region: "PT-11", city: "Lisbon", ...visit.place };
  const placed = names.some((name) => ["country", "region", "city"].includes(name));
  return {
    ...visit,
    ...(placed ? { place } : {}),
    ...(names.includes("language") && !visit.acceptLanguage ? { acceptLanguage: "en" } : {}),
  };
}

export interface NearestChange {
  visit: Visit;
  /** The facets of the visit that had to change, as few as can be. */
  facets: string[];
}

/** More facets than this are not changed at once: such a visitor has little to do with the one at hand. */
const mostChanged = 5;

/** The smallest change of a visit that shows anything at all in a slot: over its variants that are on. */
export function nearestOf(
  domain: Domain,
  visit: Visit,
  slot: Slot,
): { variant: Variant; change: NearestChange } | undefined {
  let best: { variant: Variant; change: NearestChange } | undefined;
  for (const variant of slot.variants) {
    if (!variant.on) continue;
    const change = nearestChange(domain, visit, slot, variant);
    if (change && (!best || change.facets.length < best.change.facets.length)) best = { variant, change };
    if (best?.change.facets.length === 1) break;
  }
  return best;
}

/**
 * The fewest facets of a visit to change so that a variant (null: the fallback) is shown, with a visit so changed; undefined if
 * none was found. Sets of facets are tried from small to large, so none smaller would do; then each is brought as near as it goes.
 */
export function nearestChange(
  domain: Domain,
  visit: Visit,
  slot: Slot,
  variant: Variant | null,
): NearestChange | undefined {
  const { clauses, isShown, domain: aimed } = aim(domain, slot, variant);
  const space = new Space(aimed);
  const at = parseInstant(visit.at) as number;
  const around = [at - 8 * day, at].map((from) => new Space({ ...aimed, from }));
  const engine = createEngine(aimed.ruleset);
  const isSo = (found: Visit): boolean => isShown(engine.decide(found));
  const facets = space.facets(clauses);
  for (let size = 0; size <= Math.min(mostChanged, facets.length); size++)
    for (const chosen of subsets(facets, size)) {
      const solved = space.solve(clauses, { visit, free: new Set(chosen) });
      if (!solved.found || !isSo(solved.visit)) continue;
      const change = {
        start: visit,
        facets: chosen.filter((facet) => facet !== "consent"),
        // Yesterday may be nearer than next week: instants are sought before the visit, too.
        settings: (facet: string) =>
          (facet === "time" ? around : [space]).flatMap((one) => one.settings(clauses, facet)),
        apply: (found: Visit, setting: Setting) => space.apply(found, setting),
        isSo,
        past: (found: Visit) => engine.read(found).history,
      };
      return { visit: nearer(change, solved.visit), facets: chosen };
    }
  return undefined;
}
