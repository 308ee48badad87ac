import { locale } from "./t";

type Kind = "region" | "language" | "currency";
const known = new Map<string, Intl.DisplayNames>();

/** What a country, language or currency is called in the language that is spoken; undefined if its code says nothing. */
export function displayName(kind: Kind, code: string): string | undefined {
  const key = `${kind} ${locale()}`;
  let names = known.get(key);
  if (!names) known.set(key, (names = new Intl.DisplayNames(locale(), { type: kind })));
  try {
    return names.of(code);
  } catch {
    return undefined;
  }
}
