/**
 * The mirror: shows the pages of a site to whoever looks at it through lenses, where they carry no tag or refuse to stand in frames.
 * Each looker has an origin of their own (core/preview/mirror.ts); only the site's own hosts are fetched, and only read.
 */
import { isUrl } from "@/core/text/is-url";
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import sniff from "html-encoding-sniffer";
import { LRUCache } from "lru-cache";
import { CookieJar } from "tough-cookie";
import { mirrorMap, mirrorPaths, readMirrorHost, type MirrorMap } from "@/core/preview/mirror";
import { logFailure } from "@/data/failures";
import { readMirror } from "@/data/mirrors";
import { otherProcesses } from "@/data/processes";
import { ownOrigins, readSite } from "@/data/sites";
import { lookSchema } from "@/delivery/http/formats";
import { lookAnswer } from "@/delivery/look";
import { isDatabaseThere } from "@/delivery/ready";
import { isTargetTooLong } from "@/front/limits";
import { fetchOnce } from "@/server/fetch-page";
import { KeptAnswers } from "./kept-answers";
import { rewritePage, rewriteStyle } from "./rewrite";

interface Options {
  /** Where mirrors are: https://*.mirror.example.com */
  pattern: string;
  /** The origin of the workbench, which alone may frame them. */
  workbench: string;
  /** The file of the lens's script. */
  look: string;
}

/** The longest page and the longest other file that is shown, in bytes. */
const longestPage = 8_000_000;
const longestFile = 30_000_000;
const longestLook = 8000;
/** So many of one looker's requests are asked of the site at once; more wait. */
const atOnce = 12;
const mostWaiting = 400;
/** How long it is believed which site a mirror is of, in milliseconds. */
const believed = 3000;
const mostKept = 2000;
/** How much of rewritten pages is kept, in bytes. */
const mostText = 50_000_000;

/** One looker's mirror: the site, its addresses, its cookies. */
interface Mirror {
  id: string;
  site: string;
  origins: string[];
  map: MirrorMap;
  jar: CookieJar;
  hasCookies: boolean;
  busy: number;
  waiting: (() => void)[];
  until: number;
}

/** What of a site's answer is handed on. */
const handedOn = ["content-type", "content-language", "etag", "last-modified", "cache-control", "expires", "age"];
/** What of a browser's request is. */
const asked = ["accept", "accept-language", "user-agent", "if-none-match", "if-modified-since"];

const askedSchema = lookSchema.omit({ key: true });

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

export function mirrorServer({ pattern, workbench, look }: Options): Server {
  const script = readFileSync(look, "utf8").replace("MIRADA_WORKBENCH_ORIGIN", () => new URL(workbench).origin);
  const kept = new Map<string, Mirror>();
  const answers = new KeptAnswers();

  /**
   * Pages as they were rewritten: the same page is looked at again and again, by one visitor after the other. As text, which leaves in
   * one piece with its head; `bytes`: its length.
   */
  const pages = new LRUCache<string, { text: string; bytes: number }>({
    maxSize: mostText,
    sizeCalculation: ({ bytes }) => bytes + 1,
  });
  /** The keys of answers that were kept whole: their bytes are not summed up again. */
  const digests = new WeakMap<Buffer, string>();
  const digestOf = (bytes: Buffer): string => {
    const known = digests.get(bytes) ?? createHash("sha256").update(bytes).digest("base64");
    digests.set(bytes, known);
    return known;
  };
  async function rewritten({ map, origins }: Mirror, url: string, bytes: Buffer, charset: string | undefined) {
    const key = [map.toMirror(new URL(url)), charset, digestOf(bytes), ...origins].join(" ");
    const known = pages.get(key);
    if (known !== undefined) return known;
    const encoding = sniff(bytes, charset === undefined ? {} : { transportLayerEncodingLabel: charset });
    const text = await rewritePage(new TextDecoder(encoding).decode(bytes), { url, map });
    const page = { text, bytes: Buffer.byteLength(text) };
    pages.set(key, page);
    return page;
  }

  async function mirrorOf(id: string): Promise<Mirror | undefined> {
    const known = kept.get(id);
    if (known && known.until > performance.now()) return known;
    const site = await readMirror(id);
    const row = site === undefined ? undefined : await readSite(site);
    if (site === undefined || !row) {
      kept.delete(id);
      return undefined;
    }
    const origins = ownOrigins(row);
    const mirror: Mirror = {
      ...(known ?? { jar: new CookieJar(), hasCookies: false, busy: 0, waiting: [] }),
      id,
      site,
      origins,
      map: mirrorMap(pattern, id, origins),
      until: performance.now() + believed,
    };
    if (kept.size >= mostKept) kept.delete(kept.keys().next().value as string);
    // The one that is known stays the same: who waits, waits there.
    kept.set(id, known ? Object.assign(known, mirror) : mirror);
    return kept.get(id);
  }

  /** Says something in the place of a page: the lens's script tells the workbench. */
  const say = (response: ServerResponse, status: number, words: string) =>
    response
      .writeHead(status, headersOf({ "content-type": "text/html; charset=utf-8", "cache-control": "no-store" }))
      .end(
        `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Not shown</title><script src="${mirrorPaths.script}" data-mirror data-says="${escaped(words)}"></script></head><body><p>${escaped(words)}</p></body></html>`,
      );
  const always = {
    // A page's own service worker would stand between the mirror and the lens; only the workbench may frame it, and it itself.
    "content-security-policy": `frame-ancestors 'self' ${new URL(workbench).origin}; worker-src blob:; form-action 'self'`,
    "referrer-policy": "same-origin",
    "x-content-type-options": "nosniff",
    "x-robots-tag": "noindex",
  };
  const headersOf = (more: Record<string, string>): Record<string, string> => ({ ...more, ...always });

  async function takeLook(mirror: Mirror, request: IncomingMessage, response: ServerResponse): Promise<void> {
    const chunks: Buffer[] = [];
    let size = 0;
    for await (const chunk of request as AsyncIterable<Buffer>) {
      size += chunk.length;
      if (size > longestLook) return void response.writeHead(413, headersOf({ connection: "close" })).end();
      chunks.push(chunk);
    }
    let body: unknown;
    try {
      body = JSON.parse(Buffer.concat(chunks).toString("utf8"));
    } catch {
      body = undefined;
    }
    const read = askedSchema.safeParse(body);
    const answer = read.success ? await lookAnswer(mirror.site, read.data) : undefined;
    const ended = { title: "This look has ended", detail: "Open the page once more in the workbench." };
    response
      .writeHead(answer ? 200 : 404, headersOf({ "content-type": "application/json", "cache-control": "no-store" }))
      .end(JSON.stringify(answer ?? ended));
  }

  async function turn(mirror: Mirror): Promise<boolean> {
    if (mirror.busy >= atOnce) {
      if (mirror.waiting.length >= mostWaiting) return false;
      await new Promise<void>((go) => mirror.waiting.push(go));
    }
    mirror.busy += 1;
    return true;
  }
  const done = (mirror: Mirror) => {
    mirror.busy -= 1;
    mirror.waiting.shift()?.();
  };

  /** What the site answers; what it calls fresh is not asked for again at once, unless the looker loads it anew. */
  async function fetched(mirror: Mirror, url: URL, headers: Record<string, string>, cacheControl: string | undefined) {
    const whose = `${mirror.id} ${headers.cookie ?? ""}`;
    const here = cacheControl === undefined ? headers : { ...headers, "cache-control": cacheControl };
    const isAnew = /\bno-cache\b/i.test(cacheControl ?? "");
    const known = isAnew ? undefined : answers.get(whose, { url: url.href, headers: here });
    if (known) return known;
    // A browser that asks whether its own copy has changed is answered that.
    const own = headers["if-none-match"] ?? headers["if-modified-since"];
    const question = own === undefined ? answers.question(whose, { url: url.href, headers }) : undefined;
    const got = await fetchOnce(mirror.origins, url, question ?? headers, longestFile);
    if (!got.ok) return got;
    for (const cookie of got.headers["set-cookie"] ?? []) {
      await mirror.jar.setCookie(cookie, url.href, { ignoreError: true });
      mirror.hasCookies = true;
    }
    if (question && got.status === 304)
      return (
        answers.unchanged(whose, { url: url.href, headers }, got) ??
        // What was asked about made room for others meanwhile.
        fetchOnce(mirror.origins, url, headers, longestFile)
      );
    answers.keep(whose, { url: url.href, headers }, got);
    return got;
  }

  async function show(mirror: Mirror, url: URL, request: IncomingMessage, response: ServerResponse): Promise<void> {
    const isPage =
      request.headers["sec-fetch-dest"] === undefined || /frame/.test(String(request.headers["sec-fetch-dest"]));
    const headers: Record<string, string> = { "accept-encoding": "gzip, br" };
    for (const name of asked) if (typeof request.headers[name] === "string") headers[name] = request.headers[name];
    const cookies = mirror.hasCookies ? await mirror.jar.getCookieString(url.href) : "";
    if (cookies) headers.cookie = cookies;
    const { referer } = request.headers;
    const from = referer && isUrl(referer) ? mirror.map.toSite(new URL(referer)) : undefined;
    if (from) headers.referer = from;
    const got = await fetched(mirror, url, headers, request.headers["cache-control"]);
    if (!got.ok)
      return isPage ? void say(response, 502, got.problem) : void response.writeHead(502, headersOf({})).end();
    const out: Record<string, string> = {};
    for (const name of handedOn) if (typeof got.headers[name] === "string") out[name] = got.headers[name];
    // The further hosts of the site are further origins of the same mirror.
    const { origin } = request.headers;
    if (origin && isUrl(origin) && mirror.map.toSite(new URL(origin))) {
      out["access-control-allow-origin"] = origin;
      out["access-control-allow-credentials"] = "true";
      out.vary = "Origin";
    }
    const { location } = got.headers;
    if (got.status >= 300 && got.status <= 399 && location && isUrl(location, url)) {
      const to = new URL(location, url);
      const there = mirror.map.toMirror(to);
      if (there) return void response.writeHead(got.status, headersOf({ ...out, location: there })).end();
      if (isPage)
        return void say(response, 502, `This page leads on to ${to.host}, which is none of the site’s own addresses.`);
      return void response.writeHead(got.status, headersOf({ ...out, location: to.href })).end();
    }
    const type = out["content-type"] ?? "";
    if (isPage && /^\s*(text\/html|application\/xhtml\+xml)/i.test(type)) {
      if (got.bytes.length > longestPage)
        return void say(response, 502, `This page is longer than ${longestPage / 1_000_000} MB.`);
      const charset = /charset=["']?([^"';\s]+)/i.exec(type)?.[1];
      out["content-type"] = "text/html; charset=utf-8";
      out["cache-control"] = "no-store";
      delete out.etag;
      delete out["last-modified"];
      const page = await rewritten(mirror, url.href, got.bytes, charset);
      // Its length told, head and page leave as one.
      out["content-length"] = String(page.bytes);
      return void response.writeHead(got.status, headersOf(out)).end(page.text);
    }
    if (
      isPage &&
      request.headers["sec-fetch-dest"] !== undefined &&
      got.status < 400 &&
      !/^(image|text|application\/pdf)/.test(type)
    )
      return void say(response, 502, `This is no page, but ${type || "something of an unknown kind"}.`);
    const body = /^text\/css/i.test(type) ? rewriteStyle(got.body, { url: url.href, map: mirror.map }) : got.bytes;
    response.writeHead(got.status, headersOf(out)).end(request.method === "HEAD" ? undefined : body);
  }

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const refuse = (status: number, words: string) =>
      void response
        .writeHead(status, headersOf({ "content-type": "text/plain; charset=utf-8", connection: "close" }))
        .end(`${words}\n`);
    const target = request.url ?? "/";
    if (isTargetTooLong(target)) return refuse(414, "The address is too long.");
    if (target === "/~mirada/health") return refuse(200, "ok");
    if (target === "/~mirada/ready") return tellReady(response);
    const named = readMirrorHost(pattern, request.headers.host ?? "");
    const mirror = named && (await mirrorOf(named.id));
    if (!named || !mirror) return refuse(421, "There is no mirror under this name, or it has ended.");
    const origin = mirror.origins[named.number];
    if (origin === undefined || !target.startsWith("/") || !isUrl(`${origin}${target}`))
      return refuse(404, "There is no such page.");
    if (target === mirrorPaths.script)
      return void response
        .writeHead(
          200,
          headersOf({ "content-type": "text/javascript; charset=utf-8", "cache-control": "private, max-age=60" }),
        )
        .end(script);
    if (target === mirrorPaths.look && request.method === "POST") return takeLook(mirror, request, response);
    if (request.method !== "GET" && request.method !== "HEAD")
      return refuse(405, "Through a lens nothing is sent: pages are only read.");
    if (request.headers["service-worker"] !== undefined)
      return refuse(404, "Through a lens no service worker is installed.");
    // Opened by itself it would be a way to the site for anybody who learns its name.
    if (request.headers["sec-fetch-dest"] === "document")
      return refuse(403, "The mirror is shown in the workbench alone.");
    if (!(await turn(mirror))) return refuse(503, "Too much of this page is being fetched at once.");
    try {
      await show(mirror, new URL(`${origin}${target}`), request, response);
    } finally {
      done(mirror);
    }
  }

  /** Whether lookers can be answered: who may look is asked of the database. */
  async function tellReady(response: ServerResponse): Promise<void> {
    const ready = await isDatabaseThere();
    response
      .writeHead(ready ? 200 : 503, headersOf({ "content-type": "application/json" }))
      .end(JSON.stringify({ ready, database: ready, others: otherProcesses() }));
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((error: unknown) => {
      logFailure("the mirror could not answer", {}, error);
      if (response.headersSent) response.destroy();
      else response.writeHead(500, headersOf({})).end();
    });
  });
  server.requestTimeout = 30_000;
  return server;
}
