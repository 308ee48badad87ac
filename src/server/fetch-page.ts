/** Fetches pages of a site for the workbench: from the site's own hosts alone, bounded in time, size and number of redirects. */
import { t } from "@/core/messages/t";
import { isUrl } from "@/core/text/is-url";
import { lookup as resolve } from "node:dns/promises";
import { request as askPlain, type IncomingHttpHeaders } from "node:http";
import { request as askSecure } from "node:https";
import { brotliDecompress, unzip } from "node:zlib";
import { parseAddress } from "@/core/visit/address";
import { isLoopback } from "@/core/visit/origins";
import { isSpecial } from "@/core/visit/special";

/** The longest answer that is read, in bytes. */
const longest = 60_000_000;
/** How long a whole answer may take, in milliseconds. */
const patience = 10_000;
const mostRedirects = 5;

export interface Fetched {
  ok: true;
  status: number;
  headers: IncomingHttpHeaders;
  bytes: Buffer;
  /** The answer as text of UTF-8. */
  body: string;
  /** Where it was found after redirects. */
  url: string;
}
export type Fetching = Fetched | { ok: false; problem: string };

/** Whether addresses of this machine and of private networks may be asked: in a demo and in tests they must be. */
export const mayAskPrivate = (): boolean => process.env.MIRADA_PRIVATE_HOSTS === "yes";

/** The address of a host, resolved once: what is connected to is what was judged. */
async function addressOf(hostname: string): Promise<{ address: string } | { problem: string }> {
  const name = hostname.replace(/^\[|\]$/g, "");
  // Names under localhost are this machine (RFC 6761), whether or not its resolver knows them.
  const address = isLoopback(hostname)
    ? /^\[?::1\]?$/.test(hostname)
      ? "::1"
      : "127.0.0.1"
    : parseAddress(name)
      ? name
      : await resolve(name).then(
          (found) => found.address,
          () => undefined,
        );
  if (address === undefined) return { problem: t("There is no host {hostname}.", { hostname }) };
  const parsed = parseAddress(address);
  if (!parsed || (isSpecial(parsed) && !mayAskPrivate()))
    return {
      problem: t("{hostname} is at an address of a private network ({address}), which is not asked from here.", {
        hostname,
        address,
      }),
    };
  return { address };
}

/** An answer as it came, without what a transfer packed it into. */
async function unpacked(bytes: Buffer, encoding: string | undefined, most: number): Promise<Buffer | undefined> {
  if (!/^(x-gzip|gzip|deflate|br)$/.test(encoding ?? "")) return bytes;
  return new Promise((done) => {
    const taken = (error: Error | null, found: Buffer) => done(error ? undefined : found);
    const bound = { maxOutputLength: most };
    if (encoding === "br") brotliDecompress(bytes, bound, taken);
    else unzip(bytes, bound, taken);
  });
}

function askOnce(url: URL, address: string, headers: Record<string, string>, most: number): Promise<Fetching> {
  return new Promise((done) => {
    const fail = (problem: string) => {
      clearTimeout(late);
      done({ ok: false, problem });
    };
    const ask = url.protocol === "https:" ? askSecure : askPlain;
    const request = ask(
      url,
      {
        // The name stays in the Host header and in TLS; only the address is given.
        lookup: (_name, options, found) => {
          const family = address.includes(":") ? 6 : 4;
          if ((options as { all?: boolean }).all)
            (found as (e: null, all: object[]) => void)(null, [{ address, family }]);
          else found(null, address, family);
        },
        headers: { "user-agent": "Mirada (looks at its own site's pages)", accept: "text/html,*/*;q=0.8", ...headers },
      },
      (response) => {
        const chunks: Buffer[] = [];
        let size = 0;
        response.on("data", (chunk: Buffer) => {
          size += chunk.length;
          if (size <= most) chunks.push(chunk);
          else {
            request.destroy();
            fail(t("{host} answered with more than {most} MB.", { host: url.host, most: most / 1_000_000 }));
          }
        });
        response.on("end", () => {
          clearTimeout(late);
          void unpacked(Buffer.concat(chunks), response.headers["content-encoding"], most).then((bytes) =>
            bytes === undefined
              ? fail(
                  t("What {host} answered cannot be unpacked, or is longer than {most} MB.", {
                    host: url.host,
                    most: most / 1_000_000,
                  }),
                )
              : done({
                  ok: true,
                  status: response.statusCode ?? 0,
                  headers: response.headers,
                  bytes,
                  get body() {
                    return bytes.toString("utf8");
                  },
                  url: url.href,
                }),
          );
        });
        response.on("error", () => fail(t("{host} stopped in the middle of its answer.", { host: url.host })));
      },
    );
    request.on("error", (error: NodeJS.ErrnoException) => {
      // The site closed a connection that was kept open just as it was used again: asking once more opens another.
      if (request.reusedSocket && error.code === "ECONNRESET") {
        clearTimeout(late);
        return void askOnce(url, address, headers, most).then(done);
      }
      fail(t("{host} could not be reached ({code}).", { host: url.host, code: error.code ?? error.message }));
    });
    const late = setTimeout(() => {
      fail(t("{host} did not answer within {patience} seconds.", { host: url.host, patience: patience / 1000 }));
      request.destroy();
    }, patience);
    request.end();
  });
}

/**
 * Fetches an address of a site; what it answers with may be a redirect.
 * @param origins the site's own; nothing else is asked
 * @param most the longest answer that is read, in bytes
 */
export async function fetchOnce(
  origins: readonly string[],
  url: URL,
  headers: Record<string, string> = {},
  most = longest,
): Promise<Fetching> {
  if (!origins.includes(url.origin))
    return {
      ok: false,
      problem: t("It leads on to {origin}, which is none of the site’s own addresses.", { origin: url.origin }),
    };
  const at = await addressOf(url.hostname);
  return "problem" in at ? { ok: false, problem: at.problem } : askOnce(url, at.address, headers, most);
}

/** Fetches an address of a site, and follows redirects as long as they stay on it. */
export async function fetchFrom(
  origins: readonly string[],
  address: string,
  headers: Record<string, string> = {},
): Promise<Fetching> {
  let url = new URL(address);
  for (let hops = 0; hops <= mostRedirects; hops++) {
    const got = await fetchOnce(origins, url, headers);
    if (!got.ok) return got;
    const { location } = got.headers;
    if (got.status < 300 || got.status > 399 || !location || !isUrl(location, url)) return got;
    url = new URL(location, url);
  }
  return {
    ok: false,
    problem: t("{address} was redirected more than {mostRedirects} times.", { address, mostRedirects }),
  };
}
