/**
 * A test for whole texts: the parts in their order, with any run of characters (also none, and line breaks) between them, and
 * before or after where an end is open. Runs in time linear in the text for each part: no back-tracking.
 */
export function wildcard(parts: readonly string[], openStart: boolean, openEnd: boolean): (text: string) => boolean {
  const [only = ""] = parts;
  if (parts.length < 2) {
    if (openStart && openEnd) return (text) => text.includes(only);
    if (openStart) return (text) => text.endsWith(only);
    if (openEnd) return (text) => text.startsWith(only);
    return (text) => text === only;
  }
  const first = openStart ? "" : only;
  const last = openEnd ? "" : (parts.at(-1) as string);
  const middle = parts.slice(openStart ? 0 : 1, openEnd ? undefined : -1);
  return (text) => {
    if (text.length < first.length + last.length || !text.startsWith(first) || !text.endsWith(last)) return false;
    let at = first.length;
    const end = text.length - last.length;
    for (const part of middle) {
      const found = text.indexOf(part, at);
      if (found < 0 || found + part.length > end) return false;
      at = found + part.length;
    }
    return true;
  };
}
