import type { Rule } from "@/core/formats/rule";
import { ruleSentence, type SentenceNames } from "@/core/rules/sentence";

/** A rule as a sentence, with what was chosen underlined and grouping in brackets. */
export function RuleSentence({ rule, names }: { rule: Rule; names: SentenceNames }) {
  if (rule === null) return <>for everyone</>;
  return (
    <>
      when{" "}
      {ruleSentence(rule, names).map((part, index) =>
        part.kind === "value" ? (
          <em key={index}>{part.text}</em>
        ) : part.kind ? (
          <span key={index} className={part.kind === "group" ? "bracket" : "gap"}>
            {part.text}
          </span>
        ) : (
          <span key={index}>{part.text}</span>
        ),
      )}
    </>
  );
}
