import { alwaysDifference, alwaysRatio, mismatchAlways, neededAlways } from "./always";
import { compare, difference, neededEach, rateOf, usualConfidence, type Interval, type Share } from "./shares";

/** An arm of a test with what came of it: visitors who saw it, and how many of them did what was hoped for. */
export interface ArmShare extends Share {
  id: string;
  weight: number;
}

/** What may be said of one arm beside the one that it is compared with. */
export interface ArmVerdict {
  id: string;
  by: number;
  /** Interval and p hold however often one looks, and for all arms together. */
  interval: Interval;
  p: number;
  /** What may be said by whoever planned to look once, at just so many visitors. */
  once: {
    interval: Interval;
    p: number | undefined;
    /** How many visitors an arm one plans for to tell a difference like this one. */
    needed: number | undefined;
  };
  /**
   * `mismatch`: visitors were not shared out as the weights say, so nothing may be concluded. `early`: too few to tell, or the
   * difference may as well be chance. `better`, `worse`: it is not chance, as far as one may be sure.
   */
  says: "mismatch" | "early" | "better" | "worse";
  /** `early`: about how many visitors each arm has seen by the time at which a difference like this one is told. */
  needed: number | undefined;
}
export interface TestVerdict {
  /** The sample ratio check, at all looks. */
  ratio: ReturnType<typeof alwaysRatio>;
  mismatch: boolean;
  arms: ArmVerdict[];
}

/** Fewer hits than this in an arm, or fewer that did not, and no test is trusted: common practice for the normal approximation. */
export const leastEach = 10;

/**
 * Compares the arms of a test with its first (or with its control), so that one may look as often as one likes and stop when there is
 * something to see. Each arm's verdict allows for there being several, and for several goals that may be looked at: confidence and p
 * are raised by Bonferroni's rule.
 * @param goals how many goals the test is read by; 1 where it was said beforehand which
 */
export function judgeTest(
  arms: readonly ArmShare[],
  control: string | undefined = arms[0]?.id,
  goals = 1,
): TestVerdict {
  const ratio = alwaysRatio(
    arms.map((arm) => arm.of),
    arms.map((arm) => arm.weight),
  );
  const mismatch = ratio !== undefined && ratio.p < mismatchAlways;
  const base = arms.find((arm) => arm.id === control);
  const others = arms.filter((arm) => arm !== base && arm.weight > 0);
  const compared = Math.max(1, others.length) * Math.max(1, goals);
  const confidence = 1 - (1 - usualConfidence) / compared;
  const forAll = (p: number) => Math.min(1, p * compared);
  return {
    ratio,
    mismatch,
    arms: others.flatMap((arm) => {
      const gap = base && alwaysDifference(base, arm, confidence);
      const once = base && difference(base, arm, confidence);
      if (!base || !gap || !once) return [];
      const single = compare(base, arm);
      const enough = [base, arm].every((item) => Math.min(item.hits, item.of - item.hits) >= leastEach);
      const sure = enough && (gap.interval[0] > 0 || gap.interval[1] < 0);
      return [
        {
          id: arm.id,
          ...gap,
          p: forAll(gap.p),
          once: {
            interval: once.interval,
            p: single && forAll(single.p),
            needed: neededEach(rateOf(base) ?? 0, rateOf(arm) ?? 0, confidence),
          },
          says: mismatch
            ? ("mismatch" as const)
            : !sure
              ? ("early" as const)
              : gap.by > 0
                ? ("better" as const)
                : ("worse" as const),
          needed: sure ? undefined : neededAlways(rateOf(base) ?? 0, rateOf(arm) ?? 0, confidence),
        },
      ];
    }),
  };
}

/** So many days are too many to wait for. */
export const tooLong = 730;

/**
 * In how many days each of some arms has been seen by so many visitors, at the traffic that there was.
 * @param days in which their visitors came
 * @returns undefined: within two years it is not
 */
export function daysUntil(needed: number, arms: readonly Pick<Share, "of">[], days: number): number | undefined {
  const each = arms.map((arm) => Math.max(0, needed - arm.of) / (arm.of / Math.max(1, days)));
  const longest = Math.ceil(Math.max(...each));
  return longest <= tooLong ? longest : undefined;
}
