const ascii = /^[\x00-\x7f]*$/;

/**
 * Whether a text is a URL (WHATWG). `URL.canParse` of Node.js 20 is quick, and after some thousand calls denies hosts with letters
 * beyond ASCII: of texts with such it is not asked.
 */
export function isUrl(text: string, base?: string | URL): boolean {
  if (ascii.test(text) && (typeof base !== "string" || ascii.test(base))) return URL.canParse(text, base);
  try {
    return Boolean(new URL(text, base));
  } catch {
    return false;
  }
}

/** The URL of a text; undefined if it is none. */
export const urlOf = (text: string, base?: string | URL): URL | undefined =>
  isUrl(text, base) ? new URL(text, base) : undefined;
