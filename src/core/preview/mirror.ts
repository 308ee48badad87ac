/** The addresses of the mirror: an origin of its own for whoever looks at a site, one more for each further host of the site. */

/** The mirror's own paths, on each of its origins. */
export const mirrorPaths = { look: "/~mirada/look", script: "/~mirada/look.js" } as const;

/**
 * The origin of a mirror.
 * @param pattern where mirrors are: https://*.mirror.example.com
 * @param id the mirror's own label; @param number which of the site's origins it shows, by its place in their list
 */
export const mirrorOrigin = (pattern: string, id: string, number = 0): string =>
  pattern.replace("*", number === 0 ? id : `${id}-${number}`);

/** Which mirror, and which of the site's origins, a Host header names; undefined: none. */
export function readMirrorHost(pattern: string, host: string): { id: string; number: number } | undefined {
  const ending = new URL(pattern.replace("*", "x")).host.slice(1);
  if (!host.toLowerCase().endsWith(ending)) return undefined;
  const label = /^([a-z2-7]{24})(?:-([1-9]\d?))?$/.exec(host.toLowerCase().slice(0, -ending.length));
  return label ? { id: label[1] as string, number: Number(label[2] ?? 0) } : undefined;
}

/** The addresses of a site and of its mirror, each for the other. `origins`: the site's, in the order of the mirror's numbers. */
export interface MirrorMap {
  toMirror: (url: URL) => string | undefined;
  toSite: (url: URL) => string | undefined;
}
/** An address is the site's by its host: pages link to themselves by http and https alike. */
export function mirrorMap(pattern: string, id: string, origins: readonly string[]): MirrorMap {
  const site = origins.map((origin) => new URL(origin));
  const mirrors = origins.map((_, number) => mirrorOrigin(pattern, id, number));
  const rest = (url: URL) => `${url.pathname}${url.search}${url.hash}`;
  return {
    toMirror(url) {
      const at = /^https?:$/.test(url.protocol) ? site.findIndex((one) => one.host === url.host) : -1;
      return at < 0 ? undefined : `${mirrors[at]}${rest(url)}`;
    },
    toSite(url) {
      const at = mirrors.indexOf(url.origin);
      return at < 0 ? undefined : `${origins[at]}${rest(url)}`;
    },
  };
}
