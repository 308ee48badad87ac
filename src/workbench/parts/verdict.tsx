import { said, t, text } from "@/core/messages/t";
import { verdictWords, type VerdictCodes } from "@/core/decision/verdicts";
import type { TruthName } from "@/core/rules/truth";

const signs: Record<TruthName, [string, string, string]> = said({
  true: ["✓", "yes", "matches"],
  false: ["✗", "no", text("does not match")],
  unknown: ["?", "unsure", text("is unknown")],
});

/** Whether something holds for the lens at hand: a sign, and beside it a word of one's own. */
export function VerdictMark({ verdict, words }: { verdict: TruthName; words?: Record<TruthName, string> }) {
  const [sign, tone, says] = signs[verdict];
  return (
    <b className={tone} title={t("For this visitor it {says}", { says })}>
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
  const { says, tone } = verdict === undefined ? { says: t("Not finished"), tone: "" } : verdictWords(kind, verdict);
  return (
    <span className={`verdict ${tone}`} title={title}>
      {says}
      {children}
    </span>
  );
}
