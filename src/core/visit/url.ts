/** Reading of URLs: query values, readable paths, hosts. By the WHATWG URL standard. */
import { urlOf } from "../text/is-url";

/** All values of each parameter of a query (without its question mark), in their order, decoded as WHATWG URL says. */
export function queryOf(search: string): Map<string, string[]> {
  const out = new Map<string, string[]>();
  if (search === "") return out;
  const add = (name: string, value: string): void => {
    const values = out.get(name);
    if (values) values.push(value);
    else out.set(name, [value]);
  };
  if (/[%+]/.test(search)) for (const [name, value] of new URLSearchParams(`?${search}`)) add(name, value);
  // Nothing in it is encoded: it is as it stands there.
  else
    for (const part of search.split("&")) {
      if (part === "") continue;
      const equals = part.indexOf("=");
      if (equals < 0) add(part, "");
      else add(part.slice(0, equals), part.slice(equals + 1));
    }
  return out;
}

const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });

/** A pathname, percent-decoded if the whole is then valid UTF-8, else as it is. */
export function readablePath(pathname: string): string {
  if (!pathname.includes("%")) return pathname;
  const bytes: number[] = [];
  for (let i = 0; i < pathname.length; i++) {
    const pair = pathname[i] === "%" ? /^[0-9a-f]{2}$/i.exec(pathname.slice(i + 1, i + 3)) : null;
    if (pair) {
      bytes.push(parseInt(pair[0], 16));
      i += 2;
    } else bytes.push(pathname.charCodeAt(i));
  }
  try {
    return decoder.decode(Uint8Array.from(bytes));
  } catch {
    return pathname;
  }
}

/** A host name in lower case, without port and without `www.`. */
export const plainHost = (hostname: string): string => hostname.toLowerCase().replace(/^www\./, "");

/** The longest of the domains (keys of the map) that a host is, or lies under. */
export function longestDomain<T>(host: string, domains: ReadonlyMap<string, T>): T | undefined {
  for (let rest = host; ;) {
    const found = domains.get(rest);
    if (found !== undefined) return found;
    const dot = rest.indexOf(".");
    if (dot < 0) return undefined;
    rest = rest.slice(dot + 1);
  }
}

/**
 * A path of one's own site that was told by an address or a form, to be sent to; "/" for whatever could lead elsewhere. What a
 * browser makes of it is judged by the WHATWG URL parser, and anything that it would have to mend is refused.
 */
export function localPath(told: string | null | undefined): string {
  if (!told || !/^\/(?![/\\])[\x21-\x5b\x5d-\x7e]*$/.test(told)) return "/";
  const base = "http://own.invalid";
  const url = urlOf(told, base);
  return url?.origin === base && !url.pathname.startsWith("//") ? `${url.pathname}${url.search}${url.hash}` : "/";
}
