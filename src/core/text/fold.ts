import { foldExceptions } from "./unicode";

const exceptions = new Map<string, string>();
{
  const pairs = foldExceptions.split(" ");
  for (let i = 0; i + 1 < pairs.length; i += 2) exceptions.set(pairs[i] as string, pairs[i + 1] as string);
}

const ascii = /^[\x00-\x7f]*$/;

/**
 * Full Unicode case folding without locale (Unicode, section 3.13, toCasefold), between two NFC passes:
 * two texts are alike without regard to case if their folded forms are equal. `STRASSE` folds to `strasse`, as `straße` does.
 */
export function fold(text: string): string {
  if (ascii.test(text)) return text.toLowerCase();
  let out = "";
  for (const char of text.normalize("NFC")) out += exceptions.get(char) ?? char.toLowerCase();
  return out.normalize("NFC");
}

/** Text without accents and case, so that what was meant to be the same can be found. */
export const unaccented = (text: string): string => fold(text.normalize("NFKD").replace(/\p{M}/gu, ""));

/** The form in which texts are compared: folded, or with `exact` only normalised (NFC). */
export const comparable = (text: string, exact = false): string => (exact ? text.normalize("NFC") : fold(text));
