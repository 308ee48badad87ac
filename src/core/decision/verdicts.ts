/** What became of a thing for one visit: codes, and their words and tone, here alone for every screen. */
import type { MarkerTrace, OfferTrace, PopupTrace, RedirectTrace, VariantTrace, VariantVerdict } from "./decision";

/** What verdicts are of. */
export interface VerdictCodes {
  variant: VariantVerdict;
  popup: PopupTrace["verdict"];
  redirect: RedirectTrace["verdict"];
  offer: OfferTrace["verdict"];
  marker: MarkerTrace["verdict"];
}
type Verdict = VerdictCodes[keyof VerdictCodes];

/** How a verdict reads at a glance: good, against, in doubt, or neither. */
export type Tone = "yes" | "no" | "unsure" | "";

const words: Record<Verdict, [says: string, tone: Tone]> = {
  shown: ["Shown", "yes"],
  remembered: ["Shown, remembered", "yes"],
  pinned: ["Pinned", ""],
  beaten: ["Beaten", ""],
  "held out": ["Held out", ""],
  "held back": ["Held back", "unsure"],
  "not on this page": ["Not on this page", ""],
  "rule false": ["Rule not met", ""],
  "rule unknown": ["Cannot tell", "unsure"],
  off: ["Switched off", ""],
  applies: ["Redirects", "yes"],
  "would loop": ["Would loop", "no"],
  "not applicable": ["Held back", "unsure"],
  applied: ["Applied", "yes"],
  "outside its dates": ["Outside its dates", ""],
  "nothing in scope": ["Nothing in scope", ""],
  "below threshold": ["Not reached", ""],
  "does not combine": ["Beaten", ""],
  "list ended": ["Beaten", ""],
  held: ["Set", "yes"],
  gained: ["Set on this page", "yes"],
  lost: ["Cleared on this page", ""],
  counting: ["Counting", ""],
  "not held": ["Not set", ""],
  "not kept: no consent": ["No consent", ""],
};

/** What a thing of this kind says in words of its own. */
const own: { [Kind in keyof VerdictCodes]?: Partial<Record<VerdictCodes[Kind], [says: string, tone: Tone]>> } = {
  variant: { "rule false": ["Not shown", "no"] },
  popup: { shown: ["Opens", "yes"] },
  offer: { "not applicable": ["No cart", ""] },
};

/** A verdict on a kind of thing, in a word or two, and how it reads. */
export function verdictWords<Kind extends keyof VerdictCodes>(
  kind: Kind,
  verdict: VerdictCodes[Kind],
): { says: string; tone: Tone } {
  const [says, tone] = own[kind]?.[verdict] ?? words[verdict];
  return { says, tone };
}

/** The verdict of a variant, with what beat it; `letter` names the variants of the slot. */
export const variantVerdictText = (
  trace: Pick<VariantTrace, "verdict" | "by">,
  letter: (variant: string) => string,
): string => {
  const { says } = verdictWords("variant", trace.verdict);
  return trace.verdict === "beaten" ? `${says} by ${(trace.by ?? []).map(letter).join(", ")}` : says;
};
