/** Real visits to try a claim on: ordinary ones, and ones put together from settings of the facets that rules lean on. */
import { createEngine, type Engine } from "../decision/engine";
import { isCondition, walkRule, type Condition } from "../formats/rule";
import type { Decision } from "../decision/decision";
import type { Visit } from "../formats/visit";
import { allRules } from "../ruleset/uses";
import { agents } from "./agents";
import type { Domain, Facet } from "./facet";
import { facetOf, settingsOf } from "./facets/table";
import { bareVisit, tell } from "./made-visit";
import { randomBy } from "../statistics/random";

/** So many visits at least stand behind "not found". */
export const leastSampled = 1500;

/** A visit that was tried, and what it got. */
export interface Sampled {
  visit: Visit;
  decision: Decision;
}

/** The facets that a ruleset's rules lean on, with settings made for all conditions together and for each alone. */
function facetsOf(domain: Domain): Facet[] {
  const byName = new Map<string, Condition[]>();
  for (const { rule } of allRules(domain.ruleset))
    walkRule(rule, (inner) => {
      if (inner === null || !isCondition(inner)) return;
      const name = facetOf(inner.signal, domain);
      const list = byName.get(name) ?? [];
      if (list.length < 40) byName.set(name, [...list, inner]);
    });
  return [...byName].map(([name, conditions]) => {
    const all = settingsOf(name, conditions.slice(0, 12), domain);
    const alone = conditions.flatMap((condition) => settingsOf(name, [condition], domain).settings.slice(0, 200));
    return { ...all, settings: [...all.settings.slice(0, 2000), ...alone] };
  });
}

/** Places, languages and referrers of ordinary visitors: common practice, for nobody's site in particular. */
const countries = ["PT", "ES", "DE", "GB", "US", "BR", "FR", "JP", "IN", "ZA", "AU", "MX"];
const languages = ["en-US,en;q=0.9", "pt-PT,pt;q=0.9,en;q=0.5", "de-DE,de;q=0.9", "es-ES,es;q=0.9,en;q=0.4", "fr"];
const referrers = [
  "https://www.google.com/",
  "https://mail.google.com/",
  "https://www.facebook.com/",
  "https://elsewhere.example/a",
];
const hour = 3_600_000;

/** Visits of all kinds to a site, each decided by `engine`; the same ones each time. Offers and redirects are in it. */
export function sample(domain: Domain, count = leastSampled, engine: Engine = createEngine(domain.ruleset)): Sampled[] {
  const random = randomBy(count + domain.ruleset.slots.length);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const facets = facetsOf(domain).filter((facet) => facet.settings.length > 0);
  const out: Sampled[] = [];
  for (let index = 0; index < count; index++) {
    const made = bareVisit(domain.from + Math.floor(random() * 24 * 365 * hour));
    made.consent = random() < 0.7;
    if (random() < 0.8) made.visit.userAgent = pick(agents).replaceAll("{v}", String(100 + Math.floor(random() * 60)));
    if (random() < 0.7) made.visit.place = { country: pick(countries) };
    if (random() < 0.7) made.visit.acceptLanguage = pick(languages);
    if (random() < 0.4) made.visit.referrer = pick(referrers);
    if (random() < 0.7) made.zone = domain.ruleset.site.zone;
    if (random() < 0.6)
      made.visit.cart = {
        lines: Array.from({ length: Math.floor(random() * 3) }, (_, line) => ({
          sku: `item-${line}`,
          quantity: 1 + Math.floor(random() * 4),
          unitPrice: Math.floor(random() * 20_000),
        })),
      };
    made.history = {
      visits: 1 + Math.floor(random() * 4),
      views: 1 + Math.floor(random() * 5),
      minutes: Math.floor(random() * 30),
      daysSinceLast: Math.floor(random() * 20),
      landing: undefined,
    };
    if (made.history.visits === 1) made.history.daysSinceLast = undefined;
    if (made.history.views === 1) made.history.minutes = 0;
    if (domain.pages && domain.pages.length > 0) {
      const page = pick(domain.pages);
      made.path = page.path;
      made.visit.page = page.facts;
    }
    // Some are ordinary; the others are as rules ask, in some facets or in all of them.
    const share = index % 4 === 0 ? 0 : index % 4 === 1 ? 1 : random();
    for (const facet of facets) if (random() < share) pick(facet.settings)(made);
    const visit: Visit = { visitorId: `sample-${index}`, ...tell(made, domain.ruleset) };
    out.push({ visit, decision: engine.decide(visit) });
  }
  return out;
}
