/**
 * What is refused before anything reads it. A framework may take longer than the square of what it is given: so nobody gives it
 * much, unless they are signed in and send a file.
 */

/** The longest request target (path and query), in bytes. RFC 9110 asks for 8,000 octets at least. */
export const longestTarget = 8192;
/** The most parameters in a query. */
export const mostParameters = 500;
/** The longest body from somebody who is not signed in, in bytes. */
export const longestBody = 65_536;

/** Paths on which more may be sent with a session, and how much, in bytes. */
const uploads: readonly [path: RegExp, bytes: number][] = [
  [/^\/s\/[^/]+\/place-files$/, 300 * 1024 * 1024],
  [/^\/s\/[^/]+\/archive$/, 64 * 1024 * 1024],
  [/^\/s\/[^/]+\/act\/[A-Za-z]+$/, 56 * 1024 * 1024],
];

/** Whether a target is longer than is read, or has more parameters. */
export function isTargetTooLong(target: string): boolean {
  if (target.length > longestTarget) return true;
  let parameters = 1;
  for (let at = target.indexOf("&"); at >= 0; at = target.indexOf("&", at + 1))
    if (++parameters > mostParameters) return true;
  return false;
}

/** Whether the path of a target is no text: percent signs that stand for nothing (RFC 3986, 2.1), or for bytes that are no UTF-8. */
export function isPathUnreadable(target: string): boolean {
  try {
    decodeURIComponent(target.split(/[?#]/, 1)[0] ?? "");
    return false;
  } catch {
    return true;
  }
}

/** How many bytes a path takes from whoever is signed in. */
export const uploadLimit = (target: string): number => {
  const path = target.split("?", 1)[0] ?? "";
  return uploads.find(([pattern]) => pattern.test(path))?.[1] ?? longestBody;
};

/** A request as far as its limits need it. */
export interface Incoming {
  url?: string | undefined;
  headers: { [name: string]: string | string[] | undefined };
}

/**
 * How a request is refused: 400 (a path that is no text), or by its length: 411 (a body whose length is not told), 413 or 414;
 * undefined: it is not.
 * Whoever reads a body gets no more than was told: Node's parser sees to that.
 * @param isSignedIn asked only where the answer depends on it
 */
export async function refusalOf(
  { url = "", headers }: Incoming,
  isSignedIn: () => Promise<boolean>,
): Promise<400 | 411 | 413 | 414 | undefined> {
  if (isTargetTooLong(url)) return 414;
  if (isPathUnreadable(url)) return 400;
  if (headers["transfer-encoding"] !== undefined) return 411;
  const told = headers["content-length"];
  if (told === undefined) return undefined;
  const length = Number(told);
  if (length <= longestBody) return undefined;
  if (!(length <= uploadLimit(url))) return 413;
  return (await isSignedIn().catch(() => false)) ? undefined : 413;
}
