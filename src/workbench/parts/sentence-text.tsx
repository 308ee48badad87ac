import { t } from "@/core/messages/t";
import { rich } from "./rich";
import type { Rule } from "@/core/formats/rule";
import { ruleSentence, type SentenceNames } from "@/core/rules/sentence";

/** A rule's words, with what was chosen underlined and grouping in brackets. */
export function SentenceParts({ rule, names }: { rule: Rule; names: SentenceNames }) {
  return ruleSentence(rule, names).map((part, index) =>
    part.kind === "value" ? (
      <em key={index}>{part.text}</em>
    ) : part.kind ? (
      <span key={index} className={part.kind === "group" ? "bracket" : "gap"}>
        {part.text}
      </span>
    ) : (
      <span key={index}>{part.text}</span>
    ),
  );
}

/** A rule as a sentence, to stand by itself: "when …" or "for everyone". */
export function RuleSentence({
  rule,
  names,
  everyone = t("for everyone"),
}: {
  rule: Rule;
  names: SentenceNames;
  everyone?: string;
}) {
  if (rule === null) return <>{everyone}</>;
  return <>{rich("when {rule}", { rule: <SentenceParts rule={rule} names={names} /> })}</>;
}
