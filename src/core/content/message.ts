import type { Content } from "../formats/ruleset";
import type { SignalKind } from "../formats/operators";
import { icuQuotes, parseIcu } from "./icu";

/** A message taken apart for an editor: texts as they read, and tokens as they are written. */
export type Piece = { text: string } | { token: string; source: string };

/**
 * Takes an ICU message apart. Texts come without their quoting; a token comes with its whole source, branches included.
 * Undefined if the message cannot be read.
 */
export function readMessage(message: string): Piece[] | undefined {
  if (!/[{}']/.test(message)) return message === "" ? [] : [{ text: message }];
  let ast: ReturnType<typeof parseIcu>;
  try {
    ast = parseIcu(message);
  } catch {
    return undefined;
  }
  // The parser counts places in UTF-16 units.
  const parsed = icuQuotes(message);
  return ast.map((part): Piece => {
    const { value } = part as { value: string };
    if (part.type === 0) return { text: value };
    return { token: value, source: parsed.slice(part.location?.start.offset, part.location?.end.offset) };
  });
}

/** Quotes a text so that it reads as itself in an ICU message (apostrophes: DOUBLE_OPTIONAL). */
export const quoteText = (text: string): string =>
  text.replace(/[{}']+/g, (run, at: number) => {
    const doubled = run.replaceAll("'", "''");
    if (/[{}]/.test(run)) return `'${doubled}'`;
    // An apostrophe alone stands for itself, but before a token it would begin a quotation.
    return run.length > 1 || at + run.length === text.length ? doubled : run;
  });

/** Puts a message together again. Texts beside each other are quoted as one: quoting looks at what follows. */
export function writeMessage(pieces: readonly Piece[]): string {
  let out = "";
  let text = "";
  for (const piece of pieces)
    if ("text" in piece) text += piece.text;
    else {
      out += quoteText(text) + piece.source;
      text = "";
    }
  return out + quoteText(text);
}

/** How a token is written out. */
export type TokenFormat =
  | { as: "text" }
  | { as: "amount"; currency: string }
  | { as: "number" }
  | { as: "percent" }
  /** `#` stands for the number. */
  | { as: "count"; one: string; other: string }
  | { as: "date"; style: "short" | "medium" | "long" | "full" };

/** The source of a token in an ICU message. */
export function tokenSource(name: string, format: TokenFormat): string {
  switch (format.as) {
    case "text":
      return `{${name}}`;
    case "amount":
      return `{${name}, number, ::currency/${format.currency}}`;
    case "number":
      return `{${name}, number}`;
    case "percent":
      return `{${name}, number, percent}`;
    case "count": {
      const branch = (text: string) => `{${quoteText(text)}}`;
      return `{${name}, plural, one ${branch(format.one)} other ${branch(format.other)}}`;
    }
    case "date":
      return `{${name}, date, ${format.style}}`;
  }
}

/** How a token is written out, read back from its source; undefined if it was written by hand in a way of its own. */
export function tokenFormat(name: string, source: string): TokenFormat | undefined {
  const part = readBranches(source);
  const made: TokenFormat | undefined =
    part ??
    [
      { as: "text" } as const,
      { as: "number" } as const,
      { as: "percent" } as const,
      ...(["short", "medium", "long", "full"] as const).map((style) => ({ as: "date" as const, style })),
      { as: "amount" as const, currency: /::currency\/([A-Z]{3})/.exec(source)?.[1] ?? "" },
    ].find((format) => bare(tokenSource(name, format)) === bare(source));
  return made && bare(tokenSource(name, made)) === bare(source) ? made : undefined;
}

const bare = (source: string): string => source.replace(/\s+/g, "");

/** The words of a count with one branch for one and one for others. */
function readBranches(source: string): TokenFormat | undefined {
  const [element] = parseIcu(source);
  if (element?.type !== 6 || Object.keys(element.options).join() !== "one,other") return undefined;
  const text = (key: string): string => {
    const { location } = element.options[key] as { location: { start: { offset: number }; end: { offset: number } } };
    return icuQuotes(source).slice(location.start.offset + 1, location.end.offset - 1);
  };
  const words = (key: string): string | undefined => {
    const pieces = readMessage(text(key));
    return pieces?.length === 1 && pieces[0] && "text" in pieces[0] ? pieces[0].text : undefined;
  };
  const [one, other] = [words("one"), words("other")];
  return one === undefined || other === undefined ? undefined : { as: "count", one, other };
}

/** The ways in which a signal of a kind can be written out, the usual one first. */
export function formatsFor(kind: SignalKind): TokenFormat["as"][] {
  if (kind === "money") return ["amount", "number"];
  if (kind === "number") return ["number", "count", "percent"];
  if (kind === "date") return ["date"];
  return ["text"];
}

/** A name for a new token of a signal that the block does not use yet: "query.first_name" → "first_name". */
export function tokenName(signal: string, content: Content): string {
  const base = (signal.split(".").at(-1) ?? signal).replace(/[^A-Za-z0-9_]+/g, "_").replace(/^_+|_+$/g, "") || "value";
  for (let count = 1; ; count++) {
    const name = count === 1 ? base : `${base}_${count}`;
    const taken = Object.hasOwn(content.tokens, name) ? content.tokens[name] : undefined;
    if (!taken || taken.signal === signal) return name;
  }
}

/** The names that stand after an opening brace: tokens, those within branches too. */
const names = (text: string): Set<string> =>
  new Set([...text.matchAll(/\{\s*([^\s,{}']+)\s*[,}]/g)].map((match) => match[1] as string));

/** The tokens of a block that its texts still name. */
export function tokensInUse(fields: Content["fields"], tokens: Content["tokens"]): Content["tokens"] {
  const texts = Object.values(fields).filter((value): value is string => typeof value === "string");
  return Object.fromEntries(Object.entries(tokens).filter(([name]) => texts.some((text) => names(text).has(name))));
}
