import {
  compare,
  difference,
  mismatchBelow,
  neededEach,
  rateOf,
  sampleRatio,
  usualConfidence,
  type Interval,
  type Share,
} from "./shares";

/** An arm of a test with what came of it: visitors who saw it, and how many of them did what was hoped for. */
export interface ArmShare extends Share {
  id: string;
  weight: number;
}

/** What may be said of one arm beside the one that it is compared with. */
export interface ArmVerdict {
  id: string;
  by: number;
  interval: Interval;
  p: number | undefined;
  /**
   * `mismatch`: visitors were not shared out as the weights say, so nothing may be concluded. `early`: too few to tell, or the
   * difference may as well be chance. `better`, `worse`: it is not chance, as far as one may be sure.
   */
  says: "mismatch" | "early" | "better" | "worse";
  /** `early`: visitors that each arm would need to tell a difference like this one. */
  needed: number | undefined;
}
export interface TestVerdict {
  /** The sample ratio check. */
  ratio: ReturnType<typeof sampleRatio>;
  mismatch: boolean;
  arms: ArmVerdict[];
}

/** Fewer hits than this in an arm, or fewer that did not, and no test is trusted: common practice for the normal approximation. */
export const leastEach = 10;

/**
 * Compares the arms of a test with its first (or with its control). Each arm's verdict allows for there being several: the
 * confidence is raised by Bonferroni's rule.
 */
export function judgeTest(arms: readonly ArmShare[], control: string | undefined = arms[0]?.id): TestVerdict {
  const ratio = sampleRatio(
    arms.map((arm) => arm.of),
    arms.map((arm) => arm.weight),
  );
  const mismatch = ratio !== undefined && ratio.p < mismatchBelow;
  const base = arms.find((arm) => arm.id === control);
  const others = arms.filter((arm) => arm !== base && arm.weight > 0);
  const allowed = (1 - usualConfidence) / Math.max(1, others.length);
  return {
    ratio,
    mismatch,
    arms: others.flatMap((arm) => {
      const gap = base && difference(base, arm, 1 - allowed);
      if (!base || !gap) return [];
      const p = compare(base, arm)?.p;
      const enough = [base, arm].every((item) => Math.min(item.hits, item.of - item.hits) >= leastEach);
      const sure = enough && p !== undefined && p < allowed;
      return [
        {
          id: arm.id,
          by: gap.by,
          interval: gap.interval,
          p,
          says: mismatch
            ? ("mismatch" as const)
            : !sure
              ? ("early" as const)
              : gap.by > 0
                ? ("better" as const)
                : ("worse" as const),
          needed: sure ? undefined : neededEach(rateOf(base) ?? 0, rateOf(arm) ?? 0, 1 - allowed),
        },
      ];
    }),
  };
}
