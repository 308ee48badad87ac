/**
 * What visitors of one arm were worth beside those of another, with intervals that hold at all looks (`always.ts`). Most are worth
 * nothing and a few very much: values are bounded before they come here (`results/worth.ts`), and nothing is told of too few.
 * How often it is wrong of values with heavy tails is counted in tests/reference/worth.test.ts.
 */
import { alwaysOf, neededFor, type Gap } from "./always";
import { usualConfidence, zOf, type Interval } from "./shares";

/** What the visitors of an arm were worth, in any unit: sums over all of them, most of whom add nothing. */
export interface Worth {
  of: number;
  /** How many of them were worth anything. */
  some: number;
  sum: number;
  squares: number;
}

/** Fewer than this who were worth anything in an arm, and no difference is told: values are more skewed than shares. A choice. */
export const leastSome = 30;

export const meanOf = ({ sum, of }: Worth): number => (of > 0 ? sum / of : 0);
/** The variance of what one visitor is worth. */
const spreadOf = (worth: Worth): number => Math.max(0, worth.squares / worth.of - meanOf(worth) ** 2);

/** What arms differ by, once there is anything to differ: b − a, of one visitor. */
function gapOf(a: Worth, b: Worth): Gap | undefined {
  if (!(a.of > 0 && b.of > 0)) return undefined;
  const variance = spreadOf(a) / a.of + spreadOf(b) / b.of;
  return variance > 0 ? { by: meanOf(b) - meanOf(a), variance, seen: a.of + b.of } : undefined;
}

export interface WorthVerdict {
  id: string;
  /** By so much one visitor is worth more than one of the control. */
  by: number;
  interval: Interval;
  p: number;
  /** What may be said by whoever planned to look once, at just so many visitors: the normal approximation for two means. */
  once: Interval;
  /** `few`: fewer than `leastSome` were worth anything in one of the two; `early`: it may as well be chance. */
  says: "few" | "early" | "better" | "worse";
  /** About how many visitors each arm has seen by the time at which a difference like this one is told; undefined: it is, or never. */
  needed: number | undefined;
}

/**
 * Compares arms with their control by what a visitor of each was worth.
 * @param compared how many comparisons are read at all: of several arms, goals and values (Bonferroni)
 */
export function judgeWorth(
  control: Worth,
  others: readonly (Worth & { id: string })[],
  compared: number,
): WorthVerdict[] {
  const confidence = 1 - (1 - usualConfidence) / Math.max(1, compared);
  return others.flatMap((arm) => {
    const gap = gapOf(control, arm);
    if (!gap) return [];
    const { interval, p } = alwaysOf(gap, confidence);
    const few = Math.min(control.some, arm.some) < leastSome;
    const sure = !few && (interval[0] > 0 || interval[1] < 0);
    const half = zOf(confidence) * Math.sqrt(gap.variance);
    const says = few ? "few" : !sure ? "early" : gap.by > 0 ? "better" : "worse";
    const needed = sure ? undefined : neededFor(gap.by, spreadOf(control) + spreadOf(arm), confidence);
    return [
      {
        id: arm.id,
        by: gap.by,
        interval,
        p: Math.min(1, p * Math.max(1, compared)),
        once: [gap.by - half, gap.by + half],
        says,
        needed,
      },
    ];
  });
}
