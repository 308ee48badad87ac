/** Names by which a machine speaks of itself: the localhost of RFC 6761 with all names under it, and loopback addresses. */
export const isLoopback = (hostname: string): boolean =>
  /^(.+\.)?localhost$|^127(\.\d{1,3}){3}$|^\[::1\]$/i.test(hostname);

/**
 * An origin as it is reached by whoever asks for this machine by some name: what stands on this machine itself is, from a phone
 * on the same network, at the same port of that name.
 */
export function reachableFrom(origin: string, hostname: string): string {
  const url = new URL(origin);
  if (!isLoopback(url.hostname) || isLoopback(hostname)) return origin;
  return `${url.protocol}//${hostname}${url.port ? `:${url.port}` : ""}`;
}
