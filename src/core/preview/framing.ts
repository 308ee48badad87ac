/**
 * Whether a page lets itself be shown in a frame of another origin, by the headers that it came with (Content Security Policy
 * Level 3, frame-ancestors; HTML, “The X-Frame-Options header”, which counts only without frame-ancestors).
 */
export function mayBeFramed(
  headers: { "content-security-policy"?: string | undefined; "x-frame-options"?: string | undefined },
  by: string,
): boolean {
  // Several policies stand in one header by commas; each has to allow it.
  const ancestors = (headers["content-security-policy"] ?? "").split(",").flatMap((policy) => {
    const found = policy
      .split(";")
      .map((directive) => directive.trim().split(/\s+/))
      .find(([name]) => name?.toLowerCase() === "frame-ancestors");
    return found ? [found.slice(1)] : [];
  });
  if (ancestors.length > 0) return ancestors.every((sources) => sources.some((source) => allows(source, new URL(by))));
  const options = (headers["x-frame-options"] ?? "")
    .toLowerCase()
    .split(",")
    .map((option) => option.trim());
  return !options.some((option) => option === "deny" || option === "sameorigin");
}

/** Whether a source of a policy names an origin. 'self' is the page's own, which the workbench never is. */
function allows(source: string, { protocol, hostname, port }: URL): boolean {
  if (source === "*") return /^https?:$/.test(protocol);
  const scheme = /^([a-z][a-z0-9+.-]*):$/i.exec(source)?.[1];
  if (scheme)
    return `${scheme.toLowerCase()}:` === protocol || (scheme.toLowerCase() === "http" && protocol === "https:");
  const parts = /^(?:([a-z][a-z0-9+.-]*):\/\/)?(\*\.)?([^:/*']+)(?::(\d+|\*))?(?:\/.*)?$/i.exec(source);
  if (!parts) return false;
  const [, named, wild, host = "", at] = parts;
  if (named && `${named.toLowerCase()}:` !== protocol && !(named.toLowerCase() === "http" && protocol === "https:"))
    return false;
  const name = host.toLowerCase();
  if (wild ? !hostname.endsWith(`.${name}`) : hostname !== name) return false;
  const usual = protocol === "https:" ? "443" : "80";
  return at === "*" || (at ?? usual) === (port || usual);
}
