/** Why a variant is shown or not, in words. */
import { actualText, decidingLeaves, type Reason } from "../rules/explain";
import type { SentenceNames } from "../rules/sentence";
import type { VariantTrace } from "./decision";

/** The reasons for a variant's verdict, each once, at most `most`. */
export function reasonsFor(trace: VariantTrace, names: SentenceNames, most = 4): Reason[] {
  const out: Reason[] = [];
  for (const leaf of decidingLeaves(trace.rule)) {
    const text = actualText(leaf, names);
    const verdict = trace.rule.verdict;
    if (!out.some((reason) => reason.text === text)) out.push({ verdict, text });
  }
  return out.slice(0, most);
}

/** The verdict of a variant in a word or two; `letter` names the variants of the slot. */
export function verdictText(trace: VariantTrace, letter: (variant: string) => string): string {
  switch (trace.verdict) {
    case "shown":
      return "Shown";
    case "remembered":
      return "Shown, remembered";
    case "pinned":
      return "Pinned";
    case "beaten":
      return `Beaten by ${(trace.by ?? []).map(letter).join(", ")}`;
    case "held out":
      return "Held out";
    case "not on this page":
      return "Not on this page";
    case "off":
      return "Switched off";
    case "rule unknown":
      return "Cannot tell";
    case "rule false":
      return "Not shown";
  }
}
