import type { ResultRow } from "./results";

/** So many times the usual is a spike, where it is so many exposures at least, and so many other days tell what is usual. */
export const spikeTimes = 5;
const leastExposures = 200;
const leastDays = 6;

export interface Spike {
  /** YYYY-MM-DD */
  day: string;
  exposures: number;
  /** The median of the other days. */
  usual: number;
}

const median = (sorted: readonly number[]): number => {
  const middle = sorted.length >> 1;
  const high = sorted[middle] ?? 0;
  return sorted.length % 2 === 1 ? high : (high + (sorted[middle - 1] ?? 0)) / 2;
};

/** Days on which far more was seen than usual: a campaign, or a machine. Not a statistical test, but a reason to look. */
export function spikesIn(rows: readonly ResultRow[], days: readonly string[]): Spike[] {
  const byDay = new Map(days.map((day) => [day, 0]));
  for (const row of rows)
    if (row.of === "day" && row.kind === "exposure" && byDay.has(row.key))
      byDay.set(row.key, (byDay.get(row.key) ?? 0) + row.count);
  // Days before anything was shown tell nothing of what is usual.
  const counted = [...byDay].filter(([, exposures]) => exposures > 0);
  if (counted.length <= leastDays) return [];
  return counted.flatMap(([day, exposures]) => {
    const usual = median(counted.flatMap(([other, count]) => (other === day ? [] : [count])).sort((a, b) => a - b));
    return exposures >= leastExposures && exposures >= spikeTimes * usual ? [{ day, exposures, usual }] : [];
  });
}
