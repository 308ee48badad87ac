/**
 * What visitors were worth, from values that are kept in bands: each band eight to a doubling, with how many values lie in it, their
 * sum and the sum of their squares. So one very large order can be bounded afterwards, and everything below is exact.
 */
import type { Worth } from "../statistics/worth";

/** The values in one band that visitors brought when each reached a goal for the first time, in minor units. */
export interface ValueRow {
  variant: string;
  arm: string;
  /** The goal. */
  name: string;
  /** Values from `edgeOf(band)` up to that of the next. */
  band: number;
  count: number;
  sum: number;
  squares: number;
}

const bandsEach = 8;
/** Where a band begins. */
export const edgeOf = (band: number): number => 2 ** (band / bandsEach);
/** The band of a value of at least 1. */
export const bandOf = (value: number): number => Math.floor(bandsEach * Math.log2(value));

/** At most so large a share of values lies above the bound: common practice for values with a few very large ones. */
export const boundedShare = 0.01;

/**
 * What the largest values count as: the lowest edge with at most 1 in 100 of all values above it, whichever arm they came from.
 * @returns Infinity where there are so few that none is bounded
 */
export function boundOf(rows: readonly Pick<ValueRow, "band" | "count">[]): number {
  const counts: number[] = [];
  let all = 0;
  for (const { band, count } of rows) {
    while (counts.length <= band) counts.push(0);
    counts[band] = (counts[band] as number) + count;
    all += count;
  }
  let above = 0;
  let bound = Infinity;
  for (let band = counts.length - 1; band >= 0; band--) {
    const count = counts[band] as number;
    above += count;
    if (above > boundedShare * all) break;
    if (count > 0) bound = edgeOf(band);
  }
  return bound;
}

/** What so many visitors were worth, no value counting for more than the bound. */
export function worthOf(rows: readonly ValueRow[], visitors: number, bound: number): Worth {
  const worth = { of: visitors, some: 0, sum: 0, squares: 0 };
  // A bound is an edge of its own band.
  const first = bandsEach * Math.log2(bound) - 0.5;
  for (const { band, count, sum, squares } of rows) {
    const over = band > first;
    worth.some += count;
    worth.sum += over ? count * bound : sum;
    worth.squares += over ? count * bound * bound : squares;
  }
  return worth;
}
