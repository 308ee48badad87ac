/** What a browser keeps of how the workbench looks, in cookies, so that pages come as they were left. No secrets. */

/** Keeps a value under a name for half a year. */
export function keepHere(name: string, value: string): void {
  document.cookie = `${name}=${encodeURIComponent(value)}; path=/; max-age=${180 * 86_400}; samesite=lax`;
}

/** What this browser keeps under a name. */
export function keptHere(name: string): string | undefined {
  const found = document.cookie.split("; ").find((one) => one.startsWith(`${name}=`));
  return found && decodeURIComponent(found.slice(name.length + 1));
}
