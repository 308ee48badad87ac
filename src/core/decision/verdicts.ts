/** What became of a thing for one visit: codes, and their words and tone, here alone for every screen. */
import { said, t, text } from "../messages/t";
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

const words: Record<Verdict, [says: string, tone: Tone]> = said({
  shown: [text("Shown"), "yes"],
  remembered: [text("Shown, remembered"), "yes"],
  pinned: [text("Pinned"), ""],
  beaten: [text("Beaten"), ""],
  "held out": [text("Held out"), ""],
  "held back": [text("Held back"), "unsure"],
  "not on this page": [text("Not on this page"), ""],
  "rule false": [text("Rule not met"), ""],
  "rule unknown": [text("Cannot tell"), "unsure"],
  off: [text("Switched off"), ""],
  applies: [text("Redirects"), "yes"],
  "would loop": [text("Would loop"), "no"],
  "not applicable": [text("Held back"), "unsure"],
  applied: [text("Applied"), "yes"],
  "outside its dates": [text("Outside its dates"), ""],
  "nothing in scope": [text("Nothing in scope"), ""],
  "below threshold": [text("Not reached"), ""],
  "does not combine": [text("Beaten"), ""],
  "list ended": [text("Beaten"), ""],
  held: [text("Set"), "yes"],
  gained: [text("Set on this page"), "yes"],
  lost: [text("Cleared on this page"), ""],
  counting: [text("Counting"), ""],
  "not held": [text("Not set"), ""],
  "not kept: no consent": [text("No consent"), ""],
});

/** What a thing of this kind says in words of its own. */
const own: { [Kind in keyof VerdictCodes]?: Partial<Record<VerdictCodes[Kind], [says: string, tone: Tone]>> } = said({
  variant: { "rule false": [text("Not shown"), "no"] },
  popup: { shown: [text("Opens"), "yes"] },
  offer: { "not applicable": [text("No cart"), ""] },
});

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
  return trace.verdict === "beaten" ? t("{says} by {by}", { says, by: (trace.by ?? []).map(letter).join(", ") }) : says;
};
