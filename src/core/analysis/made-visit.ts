/** A visit in the making: each facet of it is set by itself, and the whole then told as a visit. */
import type { Ruleset } from "../formats/ruleset";
import { parseInstant, type Visit } from "../formats/visit";
import { makeMemory, noPast, pastOf, type Past } from "../memory/made";
import type { History, Reading } from "../visit/reading";

/** A page of the site, with what the site tells of it. */
export interface KnownPage {
  path: string;
  facts: NonNullable<Visit["page"]>;
}

/** What history is to be, with the page view at hand counted. */
export interface WantedHistory {
  visits: number;
  views: number;
  minutes: number;
  daysSinceLast: number | undefined;
  landing: string | undefined;
}

export interface MadeVisit {
  at: number;
  zone: string | undefined;
  path: string;
  params: Map<string, string[]>;
  visit: Omit<Visit, "at" | "url">;
  consent: boolean;
  history: WantedHistory;
  categories: Map<string, number>;
  markers: Map<string, boolean>;
  /** What else is remembered: variants, pop-ups and redirects that were met before. */
  met: Pick<Past, "variants" | "popups" | "redirects">;
  /** Data fields whose date is to have its anniversary at the visit's own time, or not. */
  anniversaries: Map<string, { field: "data" | "page.data"; name: string; same: boolean }>;
}

/** A visit of which nothing is told. */
export const bareVisit = (at: number): MadeVisit => ({
  at,
  zone: undefined,
  path: "/",
  params: new Map(),
  visit: {},
  consent: true,
  history: { visits: 1, views: 1, minutes: 0, daysSinceLast: undefined, landing: undefined },
  categories: new Map(),
  markers: new Map(),
  met: { variants: {}, popups: {}, redirects: [] },
  anniversaries: new Map(),
});

/** The history that rules see of a made visit. */
export const historyOf = (made: MadeVisit): History => ({
  views: made.history.views,
  visits: made.history.visits,
  minutes: made.history.minutes,
  daysSinceLast: made.history.daysSinceLast,
  landing: made.history.landing ?? made.path,
  categories: made.categories,
});

/** The address of a made visit on its site. */
export function addressOf(made: MadeVisit, origin: string): string {
  const url = new URL(made.path, origin);
  const query = new URLSearchParams();
  for (const [name, values] of made.params) for (const value of values) query.append(name, value);
  url.search = query.toString();
  return url.href;
}

/** The made visit as a visit that the engine can decide: with memory in which its history took place. */
export function tell(made: MadeVisit, ruleset: Ruleset): Visit {
  const visit: Visit = {
    at: new Date(made.at).toISOString(),
    url: addressOf(made, ruleset.site.origin),
    ...made.visit,
  };
  if (made.zone) visit.zone = made.zone;
  for (const { field, name, same } of made.anniversaries.values()) {
    const day = new Date(parseInstant(visit.at) as number);
    const date = same
      ? `2004-${String(day.getUTCMonth() + 1).padStart(2, "0")}-${String(day.getUTCDate()).padStart(2, "0")}`
      : `2004-${day.getUTCMonth() === 5 ? "07" : "06"}-15`;
    if (field === "data") visit.data = { ...visit.data, [name]: date };
    else visit.page = { ...visit.page, data: { ...visit.page?.data, [name]: date } };
  }
  if (!made.consent) return visit;
  visit.consent = true;
  const { visits, views, minutes, daysSinceLast, landing } = made.history;
  const begun = views > 1;
  const before = { ...noPast, visits: begun ? visits : visits - 1, views: views - 1, minutes, daysSinceLast };
  const categories: Record<string, number> = {};
  for (const [name, count] of made.categories)
    categories[name] = Math.max(0, count - (made.visit.page?.category === name ? 1 : 0));
  const markers: Record<string, { held: boolean; count: number }> = {};
  for (const [id, held] of made.markers) if (held) markers[id] = { held: true, count: 1 };
  const days = new Map(ruleset.markers.map((marker) => [marker.id as string, marker.days]));
  const something =
    before.visits > 0 || Object.values(categories).some((n) => n > 0) || Object.keys(markers).length > 0;
  if (something)
    visit.memory = makeMemory(
      {
        ...before,
        visits: Math.max(before.visits, 0),
        landing: landing ?? made.path,
        categories,
        markers,
        ...made.met,
      },
      made.at,
      days,
    );
  return visit;
}

/** A visit as one in the making: told again without a change, rules see the same of it. */
export function madeFrom(visit: Visit, reading: Reading): MadeVisit {
  const { at, url, zone, consent, memory, ...rest } = visit;
  const { history } = reading;
  const made = bareVisit(parseInstant(at) as number);
  const params = new Map<string, string[]>();
  for (const [name, values] of reading.query) params.set(name, [...values]);
  return {
    ...made,
    zone,
    path: new URL(url).pathname,
    params,
    visit: structuredClone(rest),
    consent: consent === true,
    history: history
      ? {
          visits: history.visits,
          views: history.views,
          minutes: history.minutes,
          daysSinceLast: history.daysSinceLast,
          landing: history.views > 1 ? history.landing : undefined,
        }
      : made.history,
    categories: new Map(history?.categories),
    markers: new Map([...(reading.markers ?? [])].map((id) => [id, true])),
    met: history ? metOf(memory, parseInstant(at) as number) : made.met,
  };
}

function metOf(memory: unknown, at: number): MadeVisit["met"] {
  const { variants, popups, redirects } = pastOf(memory, at);
  return { variants, popups, redirects };
}
