import { t } from "../messages/t";
import { isTraversal, parse, type Selector } from "css-what";
import * as z from "zod";

/** The longest selector, in characters. */
export const longestSelector = 500;

/** Names that begin with a digit: the parser takes them, CSS does not (Selectors Level 4, identifiers). */
const digitFirst = /(?:^|[\s>+~,.#:])\d/;
/** What stands in no selector, unless it is escaped. */
const strange = /(?<!\\)(?:[;{}!@$%&/?^`<]|[.#](?=[.#]))/;
/** What may hold digits of its own: attributes, strings and the steps of :nth-child(). */
const asides = /\[[^\]]*\]|"[^"]*"|'[^']*'|:nth-[a-z-]+\([^)]*\)/gi;

/** What is wrong with a text that should be a CSS selector (Selectors Level 4); undefined: nothing. */
export function selectorProblem(text: string): string | undefined {
  if (text.length > longestSelector) return t("must be at most {longestSelector} characters", { longestSelector });
  const wrong = t("must be a CSS selector such as main .hero");
  let lists: Selector[][];
  try {
    lists = parse(text);
  } catch (error) {
    return `${wrong}: ${error instanceof Error ? error.message.toLowerCase() : t("it cannot be read")}`;
  }
  if (lists.length === 0 || text.trim() === "") return wrong;
  for (const list of lists) {
    const [first, last] = [list[0], list.at(-1)];
    if (!first || !last || isTraversal(first) || isTraversal(last)) return wrong;
    if (list.some((part) => part.type === "pseudo-element"))
      return t("{wrong}: pseudo-elements are no elements", { wrong });
  }
  const bare = text.replace(asides, "");
  if (strange.test(bare)) return wrong;
  return digitFirst.test(bare) ? t("{wrong}: a name cannot begin with a digit", { wrong }) : undefined;
}

/** A CSS selector. */
export const selectorSchema = z.string().superRefine((text, context) => {
  const problem = selectorProblem(text);
  if (problem) context.addIssue({ code: "custom", message: problem });
});
