/**
 * A test for whole texts against a pattern in which `*` stands for any run of characters, also none and line breaks.
 * Nothing else is special. Runs in time linear in the text for each part of the pattern: no back-tracking.
 */
export function wildcard(pattern: string): (text: string) => boolean {
  const parts = pattern.split("*");
  const first = parts[0] as string;
  if (parts.length === 1) return (text) => text === first;
  const last = parts[parts.length - 1] as string;
  const middle = parts.slice(1, -1).filter((part) => part !== "");
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
