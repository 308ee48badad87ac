/** What a replay counts, in a shape that parts of it can be added up: several files, several cores. */
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";

export interface Counts {
  views: number;
  visits: number;
}
/** Views and visits, and on how many of them something else would be shown. */
export interface Changed extends Counts {
  changedViews: number;
  changedVisits: number;
}
/** A page view on which something else would be shown, to look through. */
export interface Example {
  slot: string;
  /** Variants, "fallback" for the fallback; several of a list are parted by +. "" where the slot is not on the page. */
  before: string;
  after: string;
  visit: Visit;
}

/** What the names of counts are made of: `shown` under the rules, `other` under those it is compared with. */
export type CountKey =
  | { of: "shown" | "other" | "unknown"; slot: string; variant: string }
  | { of: "move"; slot: string; before: string; after: string }
  | { of: "redirect" | "otherRedirect"; id: string }
  | { of: "changed" };

export interface Tally {
  lines: number;
  broken: number;
  /** The first broken lines: number and beginning. */
  brokenLines: { line: number; text: string }[];
  bots: number;
  views: number;
  visitors: number;
  visits: number;
  /** Epoch ms of the first and the last page view; NaN without any. */
  from: number;
  until: number;
  counts: { key: CountKey; views: number; visits: number }[];
  /** Views by hour (its start, epoch ms) and by the index of `counts`. */
  hours: { at: number; views: number; counts: [number, number][] }[];
  /** By country; "" where it is not known. */
  countries: Record<string, Changed>;
  examples: Example[];
}

/** How many examples are kept of each move from one variant to another. */
export const mostExamples = 5;
/** How many broken lines are shown. */
export const mostBroken = 20;

export const emptyTally = (): Tally => ({
  lines: 0,
  broken: 0,
  brokenLines: [],
  bots: 0,
  views: 0,
  visitors: 0,
  visits: 0,
  from: NaN,
  until: NaN,
  counts: [],
  hours: [],
  countries: {},
  examples: [],
});

const nameOf = (key: CountKey): string => JSON.stringify(key);
const moveOf = (example: Example): string => JSON.stringify([example.slot, example.before, example.after]);
const least = (a: number, b: number): number => (Number.isNaN(a) ? b : Number.isNaN(b) ? a : Math.min(a, b));
const most = (a: number, b: number): number => (Number.isNaN(a) ? b : Number.isNaN(b) ? a : Math.max(a, b));

/**
 * Adds up what several replays of the same log counted, each of its share of the lines (`LineShares`).
 */
export function addShares(shares: readonly Tally[]): Tally {
  const out = emptyTally();
  const index = new Map<string, number>();
  const hours = new Map<number, { views: number; counts: Map<number, number> }>();
  const kept = new Map<string, number>();
  for (const share of shares) {
    for (const name of ["lines", "broken", "bots", "views", "visitors", "visits"] as const) out[name] += share[name];
    out.from = least(out.from, share.from);
    out.until = most(out.until, share.until);
    out.brokenLines.push(...share.brokenLines);
    const places = share.counts.map(({ key, views, visits }) => {
      const name = nameOf(key);
      let at = index.get(name);
      if (at === undefined) index.set(name, (at = out.counts.push({ key, views: 0, visits: 0 }) - 1));
      const sum = out.counts[at] as Tally["counts"][number];
      sum.views += views;
      sum.visits += visits;
      return at;
    });
    for (const { at, views, counts } of share.hours) {
      let hour = hours.get(at);
      if (!hour) hours.set(at, (hour = { views: 0, counts: new Map() }));
      hour.views += views;
      for (const [place, count] of counts) {
        const own = places[place] as number;
        hour.counts.set(own, (hour.counts.get(own) ?? 0) + count);
      }
    }
    for (const [country, more] of Object.entries(share.countries)) {
      const sum = (out.countries[country] ??= { views: 0, visits: 0, changedViews: 0, changedVisits: 0 });
      for (const name of ["views", "visits", "changedViews", "changedVisits"] as const) sum[name] += more[name];
    }
    for (const example of share.examples) {
      const move = moveOf(example);
      const count = kept.get(move) ?? 0;
      if (count >= mostExamples) continue;
      kept.set(move, count + 1);
      out.examples.push(example);
    }
  }
  out.brokenLines = out.brokenLines.sort((a, b) => a.line - b.line).slice(0, mostBroken);
  out.hours = [...hours]
    .sort(([a], [b]) => a - b)
    .map(([at, { views, counts }]) => ({ at, views, counts: [...counts].sort(([a], [b]) => a - b) }));
  return out;
}

/** What a replay found (docs/engine.md, section 14). */
export interface ReplayResult {
  lines: number;
  broken: number;
  /** Page views of crawlers: counted, not decided. */
  bots: number;
  views: number;
  visitors: number;
  visits: number;
  /** By slot and variant ("fallback" is the fallback), those that were shown at all. */
  slots: Record<string, Record<string, Counts>>;
  redirects: Record<string, number>;
  /** Views and visits on which the other ruleset shows something else. */
  changes?: Counts;
}

/** A tally as the command line prints it, in the order of the ruleset however it was counted. */
export function resultOf(tally: Tally, ruleset: Ruleset, compared: boolean): ReplayResult {
  const slots: ReplayResult["slots"] = {};
  const redirects: ReplayResult["redirects"] = {};
  const shown = new Map<string, Counts>();
  const taken = new Map<string, number>();
  for (const { key, views, visits } of tally.counts)
    if (key.of === "shown") shown.set(JSON.stringify([key.slot, key.variant]), { views, visits });
    else if (key.of === "redirect") taken.set(key.id, views);
  for (const slot of ruleset.slots)
    for (const variant of [...slot.variants.map((item) => item.id), "fallback"]) {
      const counts = shown.get(JSON.stringify([slot.id, variant]));
      if (counts) (slots[slot.id] ??= {})[variant] = counts;
    }
  for (const { id } of ruleset.redirects) {
    const count = taken.get(id);
    if (count !== undefined) redirects[id] = count;
  }
  const changed = tally.counts.find(({ key }) => key.of === "changed");
  return {
    lines: tally.lines,
    broken: tally.broken,
    bots: tally.bots,
    views: tally.views,
    visitors: tally.visitors,
    visits: tally.visits,
    slots,
    redirects,
    ...(compared ? { changes: { views: changed?.views ?? 0, visits: changed?.visits ?? 0 } } : {}),
  };
}
