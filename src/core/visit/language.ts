const choice = /^([a-z]{1,8}(?:-[a-z0-9]{1,8})*)(?:[ \t]*;[ \t]*q=(0(?:\.\d{0,3})?|1(?:\.0{0,3})?))?$/i;

/**
 * The choices of an Accept-Language header (RFC 9110, section 12.5.4) from the most to the least wanted. A weight of 0,
 * malformed entries and `*` are no choices; equal weights keep the header's order.
 */
export function languageChoices(header: string | undefined): string[] {
  if (!header) return [];
  const found: { tag: string; q: number }[] = [];
  for (const item of header.split(",")) {
    const match = choice.exec(item.replace(/^[ \t]+|[ \t]+$/g, ""));
    if (!match) continue;
    const q = match[2] === undefined ? 1 : Number(match[2]);
    if (q > 0) found.push({ tag: match[1] as string, q });
  }
  return found.sort((a, b) => b.q - a.q).map((item) => item.tag);
}

/** Whether a text is a basic language range (RFC 4647, section 2.1). */
export const isBasicRange = (text: string): boolean => text === "*" || /^[a-z]{1,8}(-[a-z0-9]{1,8})*$/i.test(text);

/**
 * Whether what somebody types is a language tag, and no name of a language: the first part of those that are in use has two or three
 * letters (RFC 5646, section 2.2.1), so “italian” is a basic range that no browser ever sends.
 */
export const isTypedTag = (text: string): boolean => isBasicRange(text) && /^(\*|[a-z]{2,3})(-|$)/i.test(text);

/** Basic filtering (RFC 4647, section 3.3.1): `pt` matches pt-PT, `pt-PT` does not match pt. Both in lower case. */
export const matchesRange = (tag: string, range: string): boolean =>
  range === "*" || tag === range || tag.startsWith(`${range}-`);
