import { parse, type MessageFormatElement } from "@formatjs/icu-messageformat-parser";

/**
 * The parser takes an apostrophe before < or > for the beginning of a quotation; ICU (DOUBLE_OPTIONAL) does so before braces
 * only, and before # within a plural. Such an apostrophe is doubled here, so that it reads as itself.
 */
export function icuQuotes(message: string): string {
  if (!/'[<>]/.test(message)) return message;
  let out = "";
  let quoted = false;
  let depth = 0;
  for (let at = 0; at < message.length; at++) {
    const char = message[at] as string;
    const next = message[at + 1];
    if (char === "'" && next === "'") {
      out += "''";
      at += 1;
      continue;
    }
    if (char === "'") {
      if (quoted) quoted = false;
      else if (next === "{" || next === "}" || (next === "#" && depth > 1)) quoted = true;
      else if (next === "<" || next === ">") out += "'";
    } else if (!quoted && char === "{") depth += 1;
    else if (!quoted && char === "}") depth -= 1;
    out += char;
  }
  return out;
}

/** Parses an ICU message; tags are text. @throws Error if it is broken */
export const parseIcu = (message: string): MessageFormatElement[] =>
  parse(icuQuotes(message), { ignoreTag: true, requiresOtherClause: true, captureLocation: true });
