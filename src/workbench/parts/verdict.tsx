import type { TruthName } from "@/core/rules/truth";

const signs: Record<TruthName, [string, string, string]> = {
  true: ["✓", "yes", "holds"],
  false: ["✗", "no", "does not hold"],
  unknown: ["?", "unsure", "cannot be told"],
};

/** Whether something holds for the lens at hand: a sign, and beside it a word of one's own. */
export function VerdictMark({ verdict, words }: { verdict: TruthName; words?: Record<TruthName, string> }) {
  const [sign, tone, says] = signs[verdict];
  return (
    <b className={tone} title={`For this lens it ${says}`}>
      {sign}
      {words && ` ${words[verdict]}`}
    </b>
  );
}
