/** More pairs than any browser sends are not looked at. */
const most = 300;

/**
 * Reads a Cookie header (RFC 6265, section 4.2.1) as leniently as servers must: pairs parted by `;`, white space around names
 * and values dropped, pairs without `=` passed over, values as they stand. Of equal names the first counts: browsers send the
 * one with the longest path first (section 5.4).
 */
export function readCookies(header: string | undefined): Record<string, string> {
  const found = new Map<string, string>();
  for (const pair of (header ?? "").split(";", most)) {
    const at = pair.indexOf("=");
    if (at < 0) continue;
    const name = pair.slice(0, at).replace(/^[ \t]+|[ \t]+$/g, "");
    if (name !== "" && !found.has(name)) found.set(name, pair.slice(at + 1).replace(/^[ \t]+|[ \t]+$/g, ""));
  }
  return Object.fromEntries(found);
}
