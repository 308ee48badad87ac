import { IntlMessageFormat } from "intl-messageformat";
import { exponentOf } from "../cart/currency";
import type { Content, FieldKind, Ruleset } from "../formats/ruleset";
import { Text } from "../text/text";
import { getterOf, type Reading } from "../visit/reading";
import { signalInfo } from "../visit/signals";
import { hasTokens } from "./check";
import { icuQuotes } from "./icu";
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
  /** What the field shows instead. */
  took: "fallback" | "empty";
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

  #message(source: string): IntlMessageFormat | undefined {
    if (!this.#messages.has(source)) {
      const { language, zone } = this.ruleset.site;
      let message: IntlMessageFormat | undefined;
      try {
        message = new IntlMessageFormat(icuQuotes(source), language, undefined, {
          ignoreTag: true,
          formatters: {
            getNumberFormat: (locales, options) => new Intl.NumberFormat(locales, options),
            getDateTimeFormat: (locales, options) => new Intl.DateTimeFormat(locales, { ...options, timeZone: zone }),
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
    for (const name of argumentsOf(message.getAst())) {
      const value = this.#token(content, name, r);
      if (value === undefined) return { missing: name };
      values[name] =
        typeof value !== "string"
          ? value
          : kind === "link"
            ? encodeURIComponent(value)
            : kind === "html"
              ? escapeHtml(value)
              : value;
    }
    try {
      const text = String(message.format(values));
      return kind === "link" ? safeLink(text, source) : kind === "html" ? cleanHtml(text) : text;
    } catch {
      return { missing: Object.keys(values)[0] ?? "" };
    }
  }

  #token(content: Content, name: string, r: Reading): string | number | Date | undefined {
    const token = Object.hasOwn(content.tokens, name) ? content.tokens[name] : undefined;
    if (!token) return undefined;
    const info = signalInfo(token.signal, this.ruleset);
    const value = getterOf(token.signal, this.#fields)?.(r);
    if (info && value !== undefined && value !== null) {
      const first = Array.isArray(value) ? value[0] : value;
      if (first instanceof Text) return first.raw;
      if (info.kind === "money") return Number(value) / 10 ** (exponentOf(this.ruleset.site.currency) ?? 2);
      if (info.kind === "number") return value as number;
      if (info.kind === "flag") return String(value);
      if (info.kind === "date") return new Date(`${value as string}T12:00:00Z`);
      if (info.kind === "place") return r.place?.city ?? r.place?.country;
      if (info.kind === "address") return r.visit.ip;
      if (typeof first === "string") return first;
    }
    return token.fallback;
  }
}

/** The names of the arguments that a message has, in any of its branches. */
function argumentsOf(ast: readonly unknown[]): Set<string> {
  const names = new Set<string>();
  const walk = (parts: readonly unknown[]): void => {
    for (const part of parts as { type: number; value?: unknown; options?: Record<string, { value: unknown[] }> }[]) {
      // Types of the parser: 0 literal, 7 "#"; all others are arguments, with `value` their name.
      if (part.type !== 0 && part.type !== 7 && typeof part.value === "string") names.add(part.value);
      for (const option of Object.values(part.options ?? {})) if (Array.isArray(option.value)) walk(option.value);
    }
  };
  walk(ast);
  return names;
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
