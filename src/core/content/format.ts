import { IntlMessageFormat } from "intl-messageformat";
import { exponentOf } from "../money/currency";
import type { Content, FieldKind, Ruleset } from "../formats/ruleset";
import { isDate, parseLocal } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import { Text } from "../text/text";
import type { Reading } from "../visit/reading";
import { getterOf, signalInfo } from "../visit/signals";
import { hasTokens } from "./check";
import { icuQuotes } from "./icu";
import { changesOf, isPagesOwn, ownType, type OwnChange } from "./own";
import { cleanHtml, isSafeLink } from "./clean";

/** A block as it is given to a page: its type and fields with every token put in. */
export interface Filled {
  type: string;
  fields: Record<string, unknown>;
}
/** A field that took another text because a token had no value. */
export interface Missing {
  field: string;
  token: string;
  /** What the field shows instead; a change of what the page has is left out. */
  took: "fallback" | "empty" | "left out";
}

const escapeHtml = (text: string): string =>
  text
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;")
    .replaceAll("'", "&#39;");

/** Fills blocks of one ruleset: messages are parsed once, and formatted in the site's language and zone. */
export class ContentFiller {
  readonly #messages = new Map<string, IntlMessageFormat | undefined>();
  /** Texts without tokens, as pages may have them. */
  readonly #plain = new Map<string, string>();
  readonly #kinds = new Map<string, Map<string, FieldKind>>();
  readonly #fields;
  constructor(readonly ruleset: Ruleset) {
    for (const type of ruleset.blockTypes)
      this.#kinds.set(type.id, new Map(type.fields.map((field) => [field.id, field.kind])));
    this.#fields = new Map(ruleset.dataFields.map((field) => [`${field.signal}.${field.name}`, field]));
  }

  /**
   * Fills a block for one visit.
   * @param fallback the slot's fallback: a field whose token has no value takes its text from there
   */
  fill(content: Content, r: Reading, fallback: Content | null, missing?: Missing[]): Filled {
    if (isPagesOwn(content)) return this.#fillOwn(content, r, missing);
    const fields: Record<string, unknown> = {};
    const kinds = this.#kinds.get(content.type);
    for (const [id, value] of Object.entries(content.fields)) {
      const kind = kinds?.get(id);
      if (!kind || typeof value !== "string" || !hasTokens(kind)) {
        fields[id] = kind === "image" ? safePicture(value) : value;
        continue;
      }
      const own = this.text(content, value, kind, r);
      if (typeof own === "string") {
        fields[id] = own;
        continue;
      }
      const other = fallback?.type === content.type ? fallback.fields[id] : undefined;
      const taken = fallback && typeof other === "string" ? this.text(fallback, other, kind, r) : undefined;
      fields[id] = typeof taken === "string" ? taken : "";
      missing?.push({ field: id, token: own.missing, took: typeof taken === "string" ? "fallback" : "empty" });
    }
    return { type: content.type, fields };
  }

  /** What the page itself has, with the changes that can be made for this visit. */
  #fillOwn(content: Content, r: Reading, missing?: Missing[]): Filled {
    if (content.type !== ownType) return { type: content.type, fields: {} };
    const changes: OwnChange[] = [];
    for (const [index, change] of changesOf(content).entries()) {
      const kind = change.text !== undefined ? "text" : change.link !== undefined ? "link" : undefined;
      if (kind === undefined) {
        changes.push(change.image ? { ...change, image: safePicture(change.image) as OwnChange["image"] } : change);
        continue;
      }
      const filled = this.text(content, change[kind] as string, kind, r);
      if (typeof filled === "string") changes.push({ ...change, [kind]: filled });
      else missing?.push({ field: `changes/${index}/${kind}`, token: filled.missing, took: "left out" });
    }
    return { type: content.type, fields: { changes } };
  }

  #message(source: string): IntlMessageFormat | undefined {
    if (!this.#messages.has(source)) {
      const { language, zone } = this.ruleset.site;
      let message: IntlMessageFormat | undefined;
      try {
        message = new IntlMessageFormat(icuQuotes(source), language, undefined, {
          ignoreTag: true,
          formatters: {
            getNumberFormat: (locales, options) => new Intl.NumberFormat(locales, options),
            // Without a style a date is written as CLDR's medium one, as in ICU.
            getDateTimeFormat: (locales, options) =>
              new Intl.DateTimeFormat(locales, { ...(options ?? mediumDate), timeZone: zone }),
            getPluralRules: (locales, options) => new Intl.PluralRules(locales, options),
          },
        });
      } catch {
        message = undefined;
      }
      this.#messages.set(source, message);
    }
    return this.#messages.get(source);
  }

  /** A text without tokens as pages may have it: a link that leads somewhere safe, rich text without script. */
  #ready(source: string, kind: FieldKind): string {
    if (kind !== "link" && kind !== "html") return source;
    const key = `${kind} ${source}`;
    let text = this.#plain.get(key);
    if (text === undefined)
      this.#plain.set(key, (text = kind === "html" ? cleanHtml(source) : isSafeLink(source) ? source : ""));
    return text;
  }

  /** The text of a field with its tokens put in, or the token that has no value ("" if the text cannot be read). */
  text(content: Content, source: string, kind: FieldKind, r: Reading): string | { missing: string } {
    if (!/[{}']/.test(source)) return this.#ready(source, kind);
    const message = this.#message(source);
    if (!message) return { missing: "" };
    const values: Record<string, string | number | Date> = {};
    const ast = message.getAst();
    const uses = usesOf(ast);
    /** Arguments that are to be written as they are, where the message asks for a number or a date. */
    const plain = new Set<string>();
    for (const [name, use] of uses) {
      let value = this.#token(content, name, r);
      if (use === "count") value = countOf(value) ?? countOf(content.tokens[name]?.fallback);
      else if (use === "number") value = typeof value === "string" ? (countOf(value) ?? value) : value;
      else if (use === "date") value = typeof value === "string" && isDate(value) ? this.#noon(value) : value;
      if (value === undefined) return { missing: name };
      // A text (of a fallback, say) where a number or a date would stand is written as it is.
      if (typeof value === "string" && (use === "number" || use === "date")) plain.add(name);
      if (use === "plain" && typeof value !== "string") value = this.#written(value);
      values[name] =
        typeof value !== "string"
          ? value
          : kind === "link"
            ? encodeURIComponent(value.toWellFormed())
            : kind === "html"
              ? escapeHtml(value)
              : value;
    }
    try {
      const ready = plain.size === 0 ? message : this.#plainly(ast, plain);
      const text = String(ready.format(values));
      return kind === "link" ? safeLink(text, source) : kind === "html" ? cleanHtml(text) : text;
    } catch {
      return { missing: Object.keys(values)[0] ?? "" };
    }
  }

  /** A number or a date as the site's language writes it, where a message does not say how. */
  #written(value: number | Date): string {
    const { language, zone } = this.ruleset.site;
    return typeof value === "number"
      ? new Intl.NumberFormat(language).format(value)
      : new Intl.DateTimeFormat(language, { ...mediumDate, timeZone: zone }).format(value);
  }

  /** A date as an instant that is on that day in the site's zone. */
  #noon(date: string): Date {
    return new Date(zoneOf(this.ruleset.site.zone).toInstant(parseLocal(`${date}T12:00`) as number));
  }

  /** The message with some of its arguments written as they are. */
  #plainly(ast: readonly unknown[], names: ReadonlySet<string>): IntlMessageFormat {
    const change = (parts: readonly unknown[]): unknown[] =>
      (parts as AstPart[]).map((part) => {
        if (typedArgument(part.type) && names.has(String(part.value))) return { type: 1, value: part.value };
        if (!part.options) return part;
        const options = Object.entries(part.options).map(([key, option]) => [
          key,
          { ...option, value: change(option.value) },
        ]);
        return { ...part, options: Object.fromEntries(options) as AstPart["options"] };
      });
    // The package asks for the tree of the very parser it ships with, and is given that of the same parser, by itself.
    return new IntlMessageFormat(change(ast) as never, this.ruleset.site.language);
  }

  #token(content: Content, name: string, r: Reading): string | number | Date | undefined {
    const token = Object.hasOwn(content.tokens, name) ? content.tokens[name] : undefined;
    if (!token) return undefined;
    const info = signalInfo(token.signal, this.ruleset);
    const value = getterOf(token.signal, this.#fields)?.(r);
    if (info && value !== undefined && value !== null) {
      const first = Array.isArray(value) ? value[0] : value;
      const text = first instanceof Text ? first.raw : undefined;
      // Text of nothing but white space says nothing: as if it were not there.
      if (text !== undefined) return text.trim() === "" ? token.fallback : text;
      if (info.kind === "money") return Number(value) / 10 ** (exponentOf(this.ruleset.site.currency) ?? 2);
      if (info.kind === "number") return value as number;
      if (info.kind === "flag") return String(value);
      if (info.kind === "date") return this.#noon(value as string);
      if (info.kind === "place") return r.place?.city ?? r.place?.country;
      if (info.kind === "address") return r.visit.ip;
      if (typeof first === "string") return first;
    }
    return token.fallback;
  }
}

/** CLDR's medium date, in parts. */
const mediumDate = { year: "numeric", month: "short", day: "numeric" } as const;

/** A part of a parsed message, as far as it is looked at. Types: 0 literal, 1 argument, 2 number, 3 date, 4 time, 5 select, 6 plural, 7 "#". */
interface AstPart {
  type: number;
  value?: unknown;
  options?: Record<string, { value: unknown[] }>;
}
/** As what an argument is used: in one place as a count is enough to need a number. */
type Use = "plain" | "number" | "date" | "choice" | "count";
const useOf: Record<number, Use> = { 1: "plain", 2: "number", 3: "date", 4: "date", 5: "choice", 6: "count" };
const typedArgument = (type: number): boolean => type === 2 || type === 3 || type === 4;
const rank: Use[] = ["plain", "choice", "number", "date", "count"];

/** The arguments that a message has, in any of its branches, and as what each is used. */
function usesOf(ast: readonly unknown[]): Map<string, Use> {
  const uses = new Map<string, Use>();
  const walk = (parts: readonly unknown[]): void => {
    for (const part of parts as AstPart[]) {
      const use = useOf[part.type];
      if (use && typeof part.value === "string") {
        const before = uses.get(part.value) ?? "plain";
        uses.set(part.value, rank.indexOf(use) > rank.indexOf(before) ? use : before);
      }
      for (const option of Object.values(part.options ?? {})) if (Array.isArray(option.value)) walk(option.value);
    }
  };
  walk(ast);
  return uses;
}

/** A number that a text says in full; undefined for anything else. */
function countOf(value: unknown): number | undefined {
  if (typeof value === "number") return value;
  if (typeof value !== "string" || !/^\s*[+-]?(\d+(\.\d*)?|\.\d+)\s*$/.test(value)) return undefined;
  return Number(value);
}

/** A filled link, or empty text if its tokens changed its scheme or host. */
function safeLink(text: string, source: string): string {
  const base = "https://base.invalid";
  const head = source.split("{")[0] as string;
  if (!isSafeLink(text)) return "";
  // The scheme and host must stand before the first token: then no token can change them.
  if (/^[a-z][a-z0-9+.-]*:\/\/[^/?#]+[/?#]/i.test(head) || /^(mailto|tel):/i.test(head)) return text;
  return new URL(text, base).origin === base && !/^[\\/]{2}/.test(text) ? text : "";
}

/** A picture whose address is safe to load; otherwise one without an address. */
function safePicture(value: unknown): unknown {
  const src = typeof value === "object" && value !== null ? (value as { src?: unknown }).src : value;
  if (typeof src !== "string" || isSafeLink(src)) return value;
  return typeof value === "string" ? "" : { ...(value as object), src: "" };
}
