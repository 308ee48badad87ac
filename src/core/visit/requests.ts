/** Requests as people have them at hand: a curl command, a line of an access log, an entry of a HAR file. */
import { text as message, type Words } from "../messages/t";
import { isUrl } from "../text/is-url";
import type { Visit } from "../formats/visit";
import { readCookies } from "./cookies";

/** What a request tells of its visit; the address of the page as it was asked for. */
export interface TakenRequest {
  kind: Words;
  /** The path with its query, or a whole address. */
  target: string;
  at?: string;
  headers: Map<string, string>;
  ip?: string;
}

/** Options of curl that take a value which says nothing of a visitor. */
const skipped =
  /^(-X|--request|-d|--data|--data-raw|--data-binary|--data-urlencode|-o|--output|-u|--user|-m|--max-time|--connect-timeout|-x|--proxy|-F|--form|-w|--write-out|--resolve|--cacert|--cert|--key|-T)$/;

/** The words of a shell command: quotes, escapes and lines that go on. */
function shellWords(text: string): string[] {
  const words: string[] = [];
  let word: string | undefined;
  const joined = text.replace(/\\\r?\n/g, " ");
  for (let i = 0; i < joined.length; i++) {
    const char = joined[i] as string;
    if (char === "'") {
      const end = joined.indexOf("'", i + 1);
      word = (word ?? "") + joined.slice(i + 1, end < 0 ? undefined : end);
      i = end < 0 ? joined.length : end;
    } else if (char === '"') {
      word ??= "";
      for (i += 1; i < joined.length && joined[i] !== '"'; i++) {
        if (joined[i] === "\\" && /["\\$`]/.test(joined[i + 1] ?? "")) i += 1;
        word += joined[i] ?? "";
      }
    } else if (char === "\\") {
      i += 1;
      word = (word ?? "") + (joined[i] ?? "");
    } else if (/\s/.test(char)) {
      if (word !== undefined) words.push(word);
      word = undefined;
    } else word = (word ?? "") + char;
  }
  if (word !== undefined) words.push(word);
  return words;
}

function readCurl(text: string): TakenRequest | undefined {
  if (!/^\s*\$?\s*curl\s/.test(text)) return undefined;
  const words = shellWords(text.replace(/^\s*\$\s*/, "")).slice(1);
  const headers = new Map<string, string>();
  let target: string | undefined;
  const header = (line: string) => {
    const at = line.indexOf(":");
    if (at > 0) headers.set(line.slice(0, at).trim().toLowerCase(), line.slice(at + 1).trim());
  };
  for (let i = 0; i < words.length; i++) {
    const word = words[i] as string;
    const value = words[i + 1] ?? "";
    if (word === "-H" || word === "--header") header(value);
    else if (word === "-A" || word === "--user-agent") headers.set("user-agent", value);
    else if (word === "-e" || word === "--referer") headers.set("referer", value);
    else if (word === "-b" || word === "--cookie") headers.set("cookie", value);
    else if (word === "--url") target = value;
    else if (!skipped.test(word)) {
      if (!word.startsWith("-")) target ??= word;
      continue;
    }
    i += 1;
  }
  return target === undefined ? undefined : { kind: message("a curl command"), target, headers };
}

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
/** The Combined Log Format (Apache HTTP Server documentation, mod_log_config). */
const logLine =
  /^(\S+) \S+ \S+ \[(\d{2})\/(\w{3})\/(\d{4}):(\d{2}:\d{2}:\d{2}) ([+-]\d{2})(\d{2})\] "[A-Z]+ (\S+)[^"]*" \d{3} \S+(?: "((?:[^"\\]|\\.)*)" "((?:[^"\\]|\\.)*)")?/;

function readLog(text: string): TakenRequest | undefined {
  const match = logLine.exec(text.trim());
  if (!match) return undefined;
  const [, ip, day, month, year, clock, hours, minutes, target, referrer, agent] = match;
  const number = months.indexOf(month ?? "") + 1;
  const headers = new Map<string, string>();
  const plain = (value: string) => value.replace(/\\(["\\])/g, "$1");
  if (referrer && referrer !== "-") headers.set("referer", plain(referrer));
  if (agent && agent !== "-") headers.set("user-agent", plain(agent));
  return {
    kind: message("a line of an access log"),
    target: target as string,
    headers,
    ip: ip as string,
    ...(number > 0 ? { at: `${year}-${String(number).padStart(2, "0")}-${day}T${clock}${hours}:${minutes}` } : {}),
  };
}

/** An entry of a HAR file (HTTP Archive 1.2), or a whole file: then its first page. */
function readHar(text: string): TakenRequest | undefined {
  if (!text.trimStart().startsWith("{")) return undefined;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return undefined;
  }
  type Entry = { startedDateTime?: unknown; request?: { url?: unknown; headers?: unknown } };
  const whole = json as Entry & { log?: { entries?: Entry[] } };
  const entry = whole.request ? whole : whole.log?.entries?.[0];
  if (typeof entry?.request?.url !== "string") return undefined;
  const headers = new Map<string, string>();
  if (Array.isArray(entry.request.headers))
    for (const item of entry.request.headers as { name?: unknown; value?: unknown }[])
      if (typeof item?.name === "string" && typeof item.value === "string")
        headers.set(item.name.toLowerCase(), item.value);
  return {
    kind: message("a HAR entry"),
    target: entry.request.url,
    headers,
    ...(typeof entry.startedDateTime === "string" ? { at: entry.startedDateTime } : {}),
  };
}

/** Reads a request, whatever of the three it is; undefined if it is none. */
export const readRequest = (text: string): TakenRequest | undefined => readCurl(text) ?? readLog(text) ?? readHar(text);

/**
 * The visit that a request was. Its page is looked for on the site; what it does not tell is left out, and what no request
 * tells (cart, consent, what the site knows) stays as it was.
 */
export function visitOfRequest(request: TakenRequest, visit: Visit, origin: string): Visit | undefined {
  if (!isUrl(request.target, origin)) return undefined;
  const url = new URL(request.target, origin);
  const { userAgent: _a, hints: _h, acceptLanguage: _l, referrer: _r, cookies: _c, ip: _i, place, ...kept } = visit;
  const get = (name: string) => request.headers.get(name);
  const cookies = readCookies(get("cookie"));
  const at = request.at === undefined ? NaN : Date.parse(request.at);
  const mobile = get("sec-ch-ua-mobile");
  const platform = get("sec-ch-ua-platform")?.replace(/^"|"$/g, "");
  const ip = request.ip ?? get("x-forwarded-for")?.split(",")[0]?.trim();
  return {
    ...kept,
    ...(ip || !place ? {} : { place }),
    url: `${new URL(origin).origin}${url.pathname}${url.search}`,
    ...(Number.isNaN(at) ? {} : { at: new Date(at).toISOString() }),
    ...(get("user-agent") ? { userAgent: get("user-agent") as string } : {}),
    ...(mobile || platform
      ? { hints: { ...(mobile ? { mobile: mobile === "?1" } : {}), ...(platform ? { platform } : {}) } }
      : {}),
    ...(get("accept-language") ? { acceptLanguage: get("accept-language") as string } : {}),
    ...((get("referer") ?? get("referrer")) ? { referrer: (get("referer") ?? get("referrer")) as string } : {}),
    ...(Object.keys(cookies).length > 0 ? { cookies } : {}),
    ...(ip ? { ip } : {}),
  };
}
