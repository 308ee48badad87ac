/** What an author may write in a field, and how it is taken. */
import { locale, t } from "../messages/t";
import type { FieldKind } from "../formats/ruleset";
import { messageProblem } from "./check";
import { cleanHtmlReport, cleanText, isSafeLink, type Cleaned } from "./clean";

/** The longest text of a field, in characters. */
export const longestText = 20_000;

/** What is wrong with a text of a kind, in words; undefined if nothing is. */
export function textProblem(text: string, kind: FieldKind): string | undefined {
  const count = (number: number) => number.toLocaleString(locale());
  if (text.length > longestText)
    return t("This is too long: {text} characters, at most {longestText}", {
      text: count(text.length),
      longestText: count(longestText),
    });
  if (messageProblem(text)) return t("This has a { or } that is not understood as a value; write '{' to show one");
  if (kind !== "html" && kind !== "text" && /[\r\n]/.test(text)) return t("This must be one line");
  if (kind !== "link" || text === "") return undefined;
  const bare = text.replace(/\{[^}]*\}/g, "x");
  if (!/^(https?:\/\/[^\s/]|mailto:\S+@|tel:\+?\d|\/(?!\/)|#)/i.test(text) || !isSafeLink(bare))
    return t("A link begins with /, https://, mailto: or tel:");
  return undefined;
}

/** A text without what no page should have in it, and what that was. */
export const cleanedText = (text: string, kind: FieldKind): Cleaned =>
  kind === "html" && /[<&]/.test(text) ? cleanHtmlReport(text) : cleanText(text);
