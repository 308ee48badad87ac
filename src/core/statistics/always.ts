/**
 * What stays true however often one looks. Intervals for a single look are wrong far more often than they say, if somebody looks
 * every day and stops when there is something to see; these hold at all looks at once (confidence sequences).
 *
 * Source: I. Waudby-Smith, D. Arbour, R. Sinha, E. H. Kennedy, A. Ramdas, “Time-uniform central limit theory and asymptotic
 * confidence sequences” (Annals of Statistics, 2024), theorem 2.2; the same bound as that of the mixture sequential probability ratio
 * test with a normal mixture in R. Johari, P. Koomen, L. Pekelis, D. Walsh, “Always valid inference” (Operations Research, 2022). It
 * is asymptotic: `leastEach` keeps it from being read too early. How often it is wrong is counted in tests/reference/always.test.ts.
 */
import { logGamma, normalQuantile } from "./distributions";
import { usualConfidence, type Interval, type Share } from "./shares";

/** The number of visitors, of both arms together, at which intervals are tightest: a choice, since a bound must favour some time. */
export const tightestAt = 5000;

/**
 * How far the bound is tuned, once so many were seen: ρ²t of the source, with ρ² by its equation for the tightest time.
 * @param wrong how often it may be wrong at all, 0 < wrong < 1
 */
function tuned(seen: number, wrong: number): number {
  const spread = -2 * Math.log(wrong);
  return ((spread + Math.log(spread + 1)) / tightestAt) * seen;
}

/** The variance of a share, from what was seen; half a hit and half a miss more keep it from being none. */
const varianceOf = ({ hits, of }: Share): number => {
  const rate = (hits + 0.5) / (of + 1);
  return (rate * (1 - rate)) / of;
};

/** The bound of the source for a variance, with ρ²t for r. */
const bound = (variance: number, r: number, wrong: number): number =>
  Math.sqrt(variance * (1 + 1 / r) * Math.log((1 + r) / (wrong * wrong)));

/** Half the width of an interval that holds at all looks. @param variance of what is estimated; @param seen visitors so far */
export const halfWidth = (variance: number, seen: number, confidence = usualConfidence): number =>
  bound(variance, tuned(seen, 1 - confidence), 1 - confidence);

/** A difference that was seen between two arms. */
export interface Gap {
  by: number;
  /** Of the difference, as far as it is known. */
  variance: number;
  /** Visitors of both arms. */
  seen: number;
}

/**
 * A difference with an interval and a p that hold at all looks: over all of them the true difference is ever outside with a probability
 * of at most 1 − confidence, and p is ever at or below a level with at most that level.
 */
export function alwaysOf({ by, variance, seen }: Gap, confidence = usualConfidence): { interval: Interval; p: number } {
  const r = tuned(seen, 1 - confidence);
  const half = bound(variance, r, 1 - confidence);
  const p = Math.min(1, Math.sqrt(1 + r) * Math.exp((-(by * by) / variance) * (r / (2 * (1 + r)))));
  return { interval: [by - half, by + half], p };
}

/**
 * The difference b − a of two shares, with an interval and a p that hold at all looks.
 * @returns undefined while one of them was seen by nobody
 */
export function alwaysDifference(
  a: Share,
  b: Share,
  confidence = usualConfidence,
): { by: number; interval: Interval; p: number } | undefined {
  if (!(a.of > 0 && b.of > 0)) return undefined;
  const by = b.hits / b.of - a.hits / a.of;
  const gap = { by, variance: varianceOf(a) + varianceOf(b), seen: a.of + b.of };
  const { interval, p } = alwaysOf(gap, confidence);
  return { by, interval: [Math.max(-1, interval[0]), Math.min(1, interval[1])], p };
}

/**
 * How many visitors each of two arms of the same size has seen by the time at which a difference is told, in 4 of 5 tests (power 0.8):
 * where the interval, and as far again as chance moves the difference in 4 of 5, keeps off zero.
 * @param by the difference; @param spread the variances of one visitor of each arm, added
 */
export function neededFor(by: number, spread: number, confidence = usualConfidence, power = 0.8): number | undefined {
  if (by === 0) return undefined;
  const further = normalQuantile(power);
  const reaches = (each: number): boolean => {
    const variance = spread / each;
    return halfWidth(variance, 2 * each, confidence) + further * Math.sqrt(variance) <= Math.abs(by);
  };
  let high = 16;
  while (!reaches(high)) {
    high *= 2;
    if (high > 1e12) return undefined;
  }
  let low = high / 2;
  while (high - low > Math.max(1, high / 1000)) {
    const middle = Math.round((low + high) / 2);
    if (reaches(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** The same of a difference of two shares. */
export const neededAlways = (p: number, q: number, confidence = usualConfidence): number | undefined =>
  neededFor(q - p, p * (1 - p) + q * (1 - q), confidence);

/** Below this visitors were not shared out as meant: over all looks a right test is called wrong at most once in a hundred. */
export const mismatchAlways = 0.01;
/** How near to the weights other shares are thought to be: as near as those of a test of so many visitors come by chance. A choice. */
const nearness = 500;

/**
 * Whether visitors were shared out by their weights, judged at all looks: a multinomial test by a Dirichlet mixture around the
 * weights (M. Lindon, A. Malek, “Anytime-valid inference for multinomial count data”, NeurIPS 2022). p is the inverse of the Bayes
 * factor, at most 1.
 * @returns undefined where there is nothing to be judged
 */
export function alwaysRatio(counts: readonly number[], weights: readonly number[]): { p: number } | undefined {
  const arms = counts.map((count, index) => ({ count, weight: weights[index] ?? 0 }));
  if (arms.some((arm) => arm.weight === 0 && arm.count > 0)) return { p: 0 };
  const shared = arms.filter((arm) => arm.weight > 0);
  const total = shared.reduce((sum, arm) => sum + arm.count, 0);
  const weight = shared.reduce((sum, arm) => sum + arm.weight, 0);
  if (total === 0 || shared.length < 2) return undefined;
  const evidence = shared.reduce(
    (sum, arm) => {
      const share = arm.weight / weight;
      return sum + logGamma(nearness * share + arm.count) - logGamma(nearness * share) - arm.count * Math.log(share);
    },
    logGamma(nearness) - logGamma(nearness + total),
  );
  return { p: Math.min(1, Math.exp(-evidence)) };
}
