import { IntlMessageFormat } from "intl-messageformat";

/**
 * What the interface says, in the language of whoever reads it. Messages are written in English where they are said; a catalogue
 * (src/messages) has each of them in another language, under its English words. Both are ICU messages (MessageFormat of the Unicode
 * project): values stand in braces, and counts choose their words.
 */

/** A language that the interface speaks. */
export interface Speech {
  /** Its tag (BCP 47): dates, numbers and names of countries follow it. */
  locale: string;
  /** Its messages, by their English words; English needs none. */
  catalogue: Readonly<Record<string, string>>;
}

const english: Speech = { locale: "en-GB", catalogue: {} };

/** Several bundles of one process hold this module: they share the answer to who is spoken to. */
const shared = globalThis as { miradaSpeech?: () => Speech | undefined };

/** Says from where it is known who is spoken to: in a browser always the same, at a server the one who asks. */
export function speakBy(source: () => Speech | undefined): void {
  shared.miradaSpeech = source;
}

/** The language that is spoken just now: English, unless somebody said otherwise. */
export const speech = (): Speech => shared.miradaSpeech?.() ?? english;

/** The tag of the language that is spoken just now. */
export const locale = (): string => speech().locale;

/** A message of a table, which is made before it is known who will read it. */
export class Words {
  constructor(readonly message: string) {}
}

/** Marks a message of a table: `t` says it where it is shown, or `said` whenever it is read. */
export const text = (message: string): Words => new Words(message);

/** A table whose messages are said when they are read. */
export type Said<T> = T extends Words
  ? string
  : T extends (...args: never[]) => unknown
    ? T
    : T extends object
      ? { [K in keyof T]: Said<T[K]> }
      : T;

const isPlain = (value: unknown): value is object =>
  Array.isArray(value) ||
  (typeof value === "object" && value !== null && Object.getPrototypeOf(value) === Object.prototype);

/** A table with messages (`text`) in it, as one whose messages are read in the language of whoever reads them then. */
export function said<const T extends object>(table: T): Said<T> {
  const copy: object = Array.isArray(table) ? [] : {};
  for (const [key, value] of Object.entries(table) as [string, unknown][])
    Object.defineProperty(
      copy,
      key,
      value instanceof Words
        ? { enumerable: true, get: () => t(value) }
        : { enumerable: true, writable: true, value: isPlain(value) ? said(value) : value },
    );
  return copy as Said<T>;
}

export type MessageValues = Readonly<Record<string, string | number | undefined>>;

const compiled = new Map<string, IntlMessageFormat>();
/** A message in the language that is spoken, ready to be filled. @throws SyntaxError if it is no ICU message */
export function compiledMessage(message: string): IntlMessageFormat {
  const { locale, catalogue } = speech();
  const words = Object.hasOwn(catalogue, message) ? (catalogue[message] as string) : message;
  const key = `${locale} ${words}`;
  let found = compiled.get(key);
  if (!found) compiled.set(key, (found = new IntlMessageFormat(words, locale, undefined, { ignoreTag: true })));
  return found;
}

/**
 * A message as whoever reads it reads it.
 * @param message its English words: written out where it is called, or the `text` of a table
 * @param values what stands in its braces; without values, braces are plain signs
 */
export function t(message: string | Words, values?: MessageValues): string {
  const english = typeof message === "string" ? message : message.message;
  const { catalogue } = speech();
  const words = Object.hasOwn(catalogue, english) ? (catalogue[english] as string) : english;
  if (!values) return words;
  if (/\{\w+,/.test(words)) return String(compiledMessage(english).format(values));
  return words.replaceAll(/\{(\w+)\}/g, (_, name: string) => String(values[name] ?? ""));
}

/** A word that begins a line elsewhere, within a sentence: small, but for nouns of languages that write them large. */
export const within = (words: string): string =>
  locale().startsWith("de") ? words : words.slice(0, 1).toLowerCase() + words.slice(1);
