/**
 * What a page's Content Security Policy lets in (Content Security Policy Level 3): hosts, and the inline script of the tag. A page may
 * have several policies; each has to allow it.
 */

/** The policies that stand in a header (by commas) or in `<meta>` elements, each as its directives by name, in small letters. */
export const policiesOf = (texts: readonly string[]): ReadonlyMap<string, readonly string[]>[] =>
  texts
    .flatMap((text) => text.split(","))
    .map((policy) => {
      const directives = new Map<string, readonly string[]>();
      for (const part of policy.split(";")) {
        const [name = "", ...sources] = part.trim().split(/\s+/);
        // Of a directive that stands there twice the first counts (section 2.2.1).
        if (name !== "" && !directives.has(name.toLowerCase())) directives.set(name.toLowerCase(), sources);
      }
      return directives;
    })
    .filter((directives) => directives.size > 0);

/**
 * Whether a source expression names an address (section 6.7.2.6 and after). 'self' is asked by whoever knows the page's own origin.
 * @param path whether paths in sources count: they do not for ancestors
 */
export function sourceNames(source: string, url: URL, path = true): boolean {
  const { protocol, hostname, port, pathname } = url;
  if (source === "*") return /^(https?|wss?):$/.test(protocol);
  const secure = (scheme: string) => `${scheme}:` === protocol || (scheme === "http" && protocol === "https:");
  const scheme = /^([a-z][a-z0-9+.-]*):$/i.exec(source)?.[1];
  if (scheme) return secure(scheme.toLowerCase());
  const parts = /^(?:([a-z][a-z0-9+.-]*):\/\/)?(\*\.)?([^:/*']+)(?::(\d+|\*))?(\/[^?#]*)?$/i.exec(source);
  if (!parts) return false;
  const [, named, wild, host = "", at, under] = parts;
  if (named && !secure(named.toLowerCase())) return false;
  const name = host.toLowerCase();
  if (wild ? !hostname.endsWith(`.${name}`) : hostname !== name) return false;
  const usual = protocol === "https:" ? "443" : "80";
  if (at !== "*" && (at ?? usual) !== (port || usual)) return false;
  if (!path || under === undefined || under === "/") return true;
  return under.endsWith("/") ? pathname.startsWith(under) : pathname === under;
}

/** The tag as it stands on a page. */
export interface TagOnPage {
  /** The page's own origin. */
  page: string;
  /** The address of the page script. */
  script: string;
  /** Where it asks. */
  asks: string;
  /** SHA-256 of the inline script that loads it, in base64; undefined: the page loads the page script itself. */
  inline: string | undefined;
  /** The nonce that the tag's element carries. */
  nonce: string | undefined;
}

/**
 * What a page's policies keep out of what the tag does.
 * @param policies as they stand in the header and in `<meta>` elements
 * @returns what has to be added for it to work, a directive with its source each; empty: nothing is kept out
 */
export function keptOut(policies: readonly string[], tag: TagOnPage): string[] {
  const wanted = new Set<string>();
  const names = (sources: readonly string[], address: string) => {
    const url = new URL(address);
    const own = url.origin === tag.page;
    return sources.some((source) => (own && /^'self'$/i.test(source)) || sourceNames(source, url));
  };
  /** What is added to a directive; where it stands for what is not named, one that names it has to keep what it let in. */
  const add = (name: string, [found, sources]: readonly [string, readonly string[]], source: string) =>
    wanted.add(
      found === "default-src"
        ? [name, ...sources.filter((one) => !/^'none'$/i.test(one)), source].join(" ")
        : `${found} ${source}`,
    );
  for (const policy of policiesOf(policies)) {
    const of = (...order: string[]) =>
      order.flatMap((name) => {
        const sources = policy.get(name);
        return sources ? [[name, sources] as const] : [];
      })[0];
    const scripts = of("script-src-elem", "script-src", "default-src");
    if (scripts) {
      const [, allowed] = scripts;
      const has = (pattern: RegExp) => allowed.some((source) => pattern.test(source));
      const byNonce = tag.nonce !== undefined && allowed.includes(`'nonce-${tag.nonce}'`);
      const trustsOn = has(/^'strict-dynamic'$/i);
      // Where hashes, nonces or strict-dynamic stand, unsafe-inline counts for nothing (section 6.7.3.2).
      const anyInline = has(/^'unsafe-inline'$/i) && !has(/^'(nonce-|sha(256|384|512)-)/i) && !trustsOn;
      const byHash = tag.inline !== undefined && allowed.some((source) => source === `'sha256-${tag.inline}'`);
      const inlineRuns = tag.inline === undefined || byNonce || byHash || anyInline;
      if (!inlineRuns) add("script-src", scripts, `'sha256-${tag.inline}'`);
      // What a trusted script puts in is trusted with it; of hosts nothing counts then.
      // A nonce lets in the element that carries it; what an inline script puts in carries none.
      const loads = trustsOn
        ? tag.inline !== undefined || byNonce
        : (tag.inline === undefined && byNonce) || names(allowed, tag.script);
      if (!loads) add("script-src", scripts, trustsOn ? "'nonce-…'" : new URL(tag.script).origin);
    }
    const connects = of("connect-src", "default-src");
    if (connects && !names(connects[1], tag.asks)) add("connect-src", connects, new URL(tag.asks).origin);
  }
  return [...wanted];
}
