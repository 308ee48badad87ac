import { normalBelow, normalQuantile } from "./distributions";

/** So many of so many. */
export interface Share {
  hits: number;
  of: number;
}
/** From low to high. */
export type Interval = readonly [low: number, high: number];

/** The confidence used throughout, unless another is asked for: common practice. */
export const usualConfidence = 0.95;
/** So many standard deviations to either side hold that much of a normal distribution. */
export const zOf = (confidence: number): number => normalQuantile(0.5 + confidence / 2);

export const rateOf = ({ hits, of }: Share): number | undefined => (of > 0 ? hits / of : undefined);

/** Wilson's score interval of a share (E. B. Wilson 1927; without continuity correction). Undefined of nothing. */
export function wilson({ hits, of }: Share, confidence = usualConfidence): Interval | undefined {
  if (!(of > 0)) return undefined;
  const z = zOf(confidence);
  const p = hits / of;
  const middle = p + (z * z) / (2 * of);
  const half = z * Math.sqrt((p * (1 - p)) / of + (z * z) / (4 * of * of));
  const whole = 1 + (z * z) / of;
  return [hits === 0 ? 0 : (middle - half) / whole, hits === of ? 1 : (middle + half) / whole];
}

/** The difference b − a of two shares with Newcombe's interval from Wilson's (R. G. Newcombe 1998, method 10). */
export function difference(
  a: Share,
  b: Share,
  confidence = usualConfidence,
): { by: number; interval: Interval } | undefined {
  const [left, right] = [wilson(a, confidence), wilson(b, confidence)];
  if (!left || !right) return undefined;
  const [p, q] = [a.hits / a.of, b.hits / b.of];
  const by = q - p;
  return {
    by,
    interval: [by - Math.hypot(q - right[0], left[1] - p), by + Math.hypot(right[1] - q, p - left[0])],
  };
}

/** The two-proportion z test with pooled variance, two-sided. Undefined where nothing can be told apart (all or none hit). */
export function compare(a: Share, b: Share): { z: number; p: number } | undefined {
  const pooled = (a.hits + b.hits) / (a.of + b.of);
  const spread = Math.sqrt(pooled * (1 - pooled) * (1 / a.of + 1 / b.of));
  if (!(spread > 0)) return undefined;
  const z = (a.hits / a.of - b.hits / b.of) / spread;
  return { z, p: 2 * normalBelow(-Math.abs(z)) };
}

/**
 * How many visitors each of two arms needs so that a difference like this one is found in 4 of 5 tests (power 0.8) at the usual
 * confidence: the textbook formula for two proportions with unpooled variances (Fleiss, without continuity correction).
 */
export function neededEach(p: number, q: number, confidence = usualConfidence, power = 0.8): number | undefined {
  if (p === q) return undefined;
  const z = zOf(confidence) + normalQuantile(power);
  return Math.ceil((z * z * (p * (1 - p) + q * (1 - q))) / (p - q) ** 2);
}
