import { verdictWords, type VerdictCodes } from "@/core/decision/verdicts";
import type { TruthName } from "@/core/rules/truth";

const signs: Record<TruthName, [string, string, string]> = {
  true: ["✓", "yes", "matches"],
  false: ["✗", "no", "does not match"],
  unknown: ["?", "unsure", "is unknown"],
};

/** Whether something holds for the lens at hand: a sign, and beside it a word of one's own. */
export function VerdictMark({ verdict, words }: { verdict: TruthName; words?: Record<TruthName, string> }) {
  const [sign, tone, says] = signs[verdict];
  return (
    <b className={tone} title={`For this visitor it ${says}`}>
      {sign}
      {words && ` ${words[verdict]}`}
    </b>
  );
}

/** What became of a thing for the lens at hand; without a verdict it is not finished. `children` say more of it. */
export function Verdict<Kind extends keyof VerdictCodes>({
  kind,
  verdict,
  title,
  children,
}: {
  kind: Kind;
  verdict: VerdictCodes[Kind] | undefined;
  title?: string | undefined;
  children?: React.ReactNode;
}) {
  const { says, tone } = verdict === undefined ? { says: "Not finished", tone: "" } : verdictWords(kind, verdict);
  return (
    <span className={`verdict ${tone}`} title={title}>
      {says}
      {children}
    </span>
  );
}
