/** Lists of texts that tell conditions apart. */
import type { Condition } from "../../formats/rule";
import { textCandidates } from "../texts";

const mostLists = 600;

/** Lists of values: none of them empty. A list meets what any of its values meets, so unions of single values are enough. */
export function listCandidates(conditions: readonly Condition[]): { values: string[][]; exact: boolean } {
  const { texts, exact } = textCandidates(conditions);
  const values: string[][] = texts.map((text) => [text]);
  if (conditions.length < 2) return { values, exact };
  if (texts.length * texts.length <= mostLists * 2)
    for (let i = 0; i < texts.length; i++)
      for (let j = i + 1; j < texts.length; j++) values.push([texts[i] as string, texts[j] as string]);
  values.push(texts);
  // With two conditions pairs meet everything; with more, unions of more values could meet something else.
  return { values, exact: exact && conditions.length <= 2 && texts.length * texts.length <= mostLists * 2 };
}
