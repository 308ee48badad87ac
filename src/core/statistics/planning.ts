/** Before a test begins: how large a difference could be told in what time, at a slot's own traffic and rate. */
import { neededAlways } from "./always";
import { usualConfidence } from "./shares";

/**
 * The smallest rise of a rate that is told by the time each of two arms has seen so many visitors, in 4 of 5 tests, however often one
 * looks (`neededAlways` turned round, by halving).
 * @param rate what visitors do without a change, 0 < rate < 1
 * @returns undefined: none that a rate can rise by
 */
export function findable(rate: number, each: number, confidence = usualConfidence): number | undefined {
  const most = 1 - rate;
  const tells = (rise: number): boolean => {
    const needed = neededAlways(rate, rate + rise, confidence);
    return needed !== undefined && needed <= each;
  };
  if (!(rate > 0) || !(most > 0) || !tells(most * 0.999)) return undefined;
  let [low, high] = [0, most * 0.999];
  while (high - low > high / 500) {
    const middle = (low + high) / 2;
    if (tells(middle)) high = middle;
    else low = middle;
  }
  return high;
}

export interface Plan {
  weeks: number;
  /** How many visitors each arm sees in that time. */
  each: number;
  /** The smallest rise that is told by then; undefined: none. */
  rise: number | undefined;
}

/** What a test of so many equal arms could tell in some weeks. @param weekly visitors a week, of all arms together */
export const plansFor = (rate: number, weekly: number, arms = 2, weeks: readonly number[] = [1, 2, 4, 8]): Plan[] =>
  weeks.map((count) => {
    const each = Math.floor((weekly * count) / arms);
    return { weeks: count, each, rise: findable(rate, each, 1 - (1 - usualConfidence) / (arms - 1)) };
  });
