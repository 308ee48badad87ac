import type { History, Reading } from "../visit/reading";
import { visitGap, type Memory } from "./memory";

/** The instant that history, markers, caps and gaps go by: never before the last page view. */
export const steadyAt = (at: number, memory: Memory): number => Math.max(at, memory.last);

/** Brings memory up to date with one page view, and tells history as this view sees it. Changes `memory`. */
export function keepView(memory: Memory, r: Reading): History {
  const at = steadyAt(r.at, memory);
  const fresh = memory.visits === 0 || at - memory.last >= visitGap;
  if (fresh) {
    memory.previous = memory.visits === 0 ? 0 : memory.last;
    memory.visits += 1;
    memory.began = at;
    memory.views = 0;
    memory.landing = r.path;
  }
  memory.views += 1;
  memory.last = at;
  const category = r.visit.page?.category;
  if (category !== undefined) {
    const seen = memory.categories.get(category);
    memory.categories.set(category, { views: (seen?.views ?? 0) + 1, used: at });
  }
  return {
    views: memory.views,
    visits: memory.visits,
    minutes: Math.floor((at - memory.began) / 60_000),
    daysSinceLast: memory.visits > 1 ? Math.floor((at - memory.previous) / 86_400_000) : undefined,
    landing: memory.landing,
    categories: new Map([...memory.categories].map(([name, entry]) => [name, entry.views])),
  };
}
