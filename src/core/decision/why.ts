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
