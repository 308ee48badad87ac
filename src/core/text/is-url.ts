const ascii = /^[\x00-\x7f]*$/;

/** The URL of a text; undefined if it is none. */
export function urlOf(text: string, base?: string | URL): URL | undefined {
  try {
    return new URL(text, base);
  } catch {
    return undefined;
  }
}

/**
 * Whether a text is a URL (WHATWG). `URL.canParse` of Node.js 20 is quick, and after some thousand calls denies hosts with letters
 * beyond ASCII: of texts with such it is not asked.
 */
export const isUrl = (text: string, base?: string | URL): boolean =>
  ascii.test(text) && (typeof base !== "string" || ascii.test(base))
    ? URL.canParse(text, base)
    : urlOf(text, base) !== undefined;
