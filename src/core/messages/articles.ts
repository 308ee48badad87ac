import { locale, t } from "./t";

/** With what a thing begins that stands in a sentence, by language. */
const articles: Readonly<Record<string, RegExp>> = {
  en: /^(the|an?) /,
  de: /^(der|die|das|ein|eine) /,
  pt: /^(os?|as?|uma?s?) /,
};

/** "campaign name" of "the campaign name", in the language that is spoken. */
export const bare = (label: string): string => label.replace(articles[locale().slice(0, 2)] ?? /^$/, "");

/** "a campaign name" of "the campaign name". */
export function some(label: string): string {
  const word = bare(label);
  return /^[aeiou]/i.test(word) ? t("an {word}", { word }) : t("a {word}", { word });
}
