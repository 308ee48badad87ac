/** The mirror over a real PostgreSQL and a website of this test's: what it shows, to whom, and what it refuses. */
import { createServer, request, type IncomingHttpHeaders, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { tmpdir } from "node:os";
import { gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ruleset, site } from "@/core/testing";
import { mirrorOrigin } from "@/core/preview/mirror";
import { createSite } from "@/data/draft";
import { migrate } from "@/data/migrate";
import { openMirror, readMirror } from "@/data/mirrors";
import { makePass } from "@/data/passes";
import type { SignedIn } from "@/data/people";
import { allSites, of, pool, transaction } from "@/data/pool";
import { setOrigins } from "@/data/sites";
import { mirrorServer } from "@/mirror/server";
import { mirrorOf, wayTo } from "@/server/way";
import { everything, somebody, uniqueId } from "./support";

const id = uniqueId("mirror");
const pattern = "http://*.mirror.localhost:1";
const workbench = "http://localhost:9";
let who: SignedIn;
let label: string;
let mirror: Server;
let web: Server;
let origin: string;
let other: string;
const asked: { url: string; method: string; headers: IncomingHttpHeaders }[] = [];

/** Of a page that says by its ETag whether it has changed. */
let edition = 1;
const html = (body: string, head = "") => `<!doctype html><html><head>${head}</head><body>${body}</body></html>`;
const plain = { "content-type": "text/html; charset=utf-8" };
type Page = [status: number, headers: Record<string, string | string[]>, body: string | Buffer];
const pages: Record<string, () => Page> = {
  "/": () => [
    200,
    {
      ...plain,
      "content-security-policy": "default-src 'none'; frame-ancestors 'none'",
      "x-frame-options": "DENY",
      "strict-transport-security": "max-age=1",
      "set-cookie": ["session=one; Path=/; HttpOnly", "elsewhere=x; Domain=other.example"],
    },
    html(
      `<h1>Rooms &amp; boats</h1><a href="${origin}/rooms?a=b#c">Rooms</a><a href="/boats">Boats</a><a href="https://away.example/x" target="_top">Away</a>
       <img src="${origin}/a.svg" srcset="${origin}/a.svg 1x, ${other}/b.svg 2x" style="background: url('${origin}/c.svg')"><form action="${origin}/send"></form>`,
      `<meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="default-src 'none'">
       <link rel="stylesheet" href="${origin}/style.css" integrity="sha256-x"><script>1 < 2 && "</b>"</script>
       <script src="https://delivery.example/v1/page.js" data-key="k"></script><script>(function(){var a="https://delivery.example/v1/page.js"})()</script>
       <style>@import "${origin}/more.css"; a { background: url(${origin}/d.svg) }</style>`,
    ),
  ],
  "/who": () => [200, plain, html(`<p>${asked.at(-1)?.headers.cookie ?? "no cookie"}</p>`)],
  "/style.css": () => [
    200,
    { "content-type": "text/css" },
    `a { background: url("${origin}/e.svg") } b { color: red }`,
  ],
  "/script.js": () => [200, { "content-type": "text/javascript" }, `const home = "${origin}/";`],
  "/old": () => [302, { location: `${origin}/rooms?x=1` }, ""],
  "/away": () => [302, { location: "https://away.example/" }, ""],
  "/away.css": () => [302, { location: "https://away.example/x.css" }, ""],
  "/latin": () => [200, { "content-type": "text/html" }, Buffer.from(html("<p>Café</p>"), "latin1")],
  // “東京” in Shift_JIS, as told by the page itself (WHATWG Encoding, index jis0208).
  "/tokyo": () => [
    200,
    { "content-type": "text/html" },
    Buffer.concat([
      Buffer.from('<!doctype html><meta charset="shift_jis"><p>'),
      Buffer.from([0x93, 0x8c, 0x8b, 0x9e]),
      Buffer.from("</p>"),
    ]),
  ],
  "/packed": () => [200, { ...plain, "content-encoding": "gzip" }, gzipSync(html("<p>Packed</p>"))],
  "/bomb": () => [200, { ...plain, "content-encoding": "gzip" }, gzipSync(Buffer.alloc(200_000_000, 32))],
  "/long": () => [200, plain, Buffer.alloc(50_000_000, 32)],
  "/longish": () => [200, plain, Buffer.alloc(9_000_000, 32)],
  "/file": () => [200, { "content-type": "application/zip" }, "PK"],
  "/base": () => [200, plain, html('<a href="x">X</a>', `<base href="${origin}/deep/">`)],
  "/refresh": () => [
    200,
    plain,
    html(
      "",
      `<meta http-equiv="refresh" content="0; url=/rooms"><meta http-equiv="refresh" content="1;url=https://away.example/">`,
    ),
  ],
  "/bare": () => [200, plain, "Only text, and <b>bold</b>"],
  "/tagged": () => [200, plain, html("", '<script src="https://delivery.example/v1/page.js"></script>')],
  "/framed": () => [
    200,
    { ...plain, "content-security-policy": `frame-ancestors ${workbench}` },
    html("", '<script src="https://delivery.example/v1/page.js"></script>'),
  ],
  "/others": () => [
    200,
    plain,
    html("", `<script src="https://delivery.example/v1/page.js?key=page_somebody-else_${"0".repeat(24)}"></script>`),
  ],
  "/edition": () => {
    const { headers } = asked.at(-1)!;
    return headers["if-none-match"] === `"${edition}"`
      ? [304, { etag: `"${edition}"`, "set-cookie": "seen=again; Path=/" }, ""]
      : [200, { ...plain, etag: `"${edition}"` }, html(`<p>Edition ${edition}</p>`)];
  },
  "/gone": () => [404, plain, html("<p>Not here</p>")],
};

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  body: string;
}
/** Asks the mirror as a browser does, for a page in a frame unless told otherwise. */
function ask(
  path: string,
  { host = `${label}.mirror.localhost:1`, method = "GET", body = "", headers = {} as Record<string, string> } = {},
) {
  return new Promise<Answer>((done, failed) => {
    const { port } = mirror.address() as AddressInfo;
    const sent = request(
      { host: "127.0.0.1", port, path, method, headers: { host, "sec-fetch-dest": "iframe", ...headers } },
      (response) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("end", () =>
          done({
            status: response.statusCode ?? 0,
            headers: response.headers,
            body: Buffer.concat(chunks).toString("utf8"),
          }),
        );
      },
    );
    sent.on("error", failed);
    sent.end(body);
  });
}
const listen = (server: Server) => new Promise<void>((ready) => server.listen(0, "127.0.0.1", ready));

beforeAll(async () => {
  process.env.MIRADA_PRIVATE_HOSTS = "yes";
  process.env.MIRADA_MIRROR = pattern;
  process.env.MIRADA_ORIGIN = workbench;
  await migrate();
  web = createServer((got, response) => {
    asked.push({ url: got.url ?? "", method: got.method ?? "", headers: got.headers });
    const [status, headers, body] = pages[(got.url ?? "").split("?")[0] as string]?.() ?? [
      200,
      plain,
      html(`<p>${got.url}</p>`),
    ];
    response.writeHead(status, headers).end(body);
  });
  await listen(web);
  const { port } = web.address() as AddressInfo;
  origin = `http://${id}.localhost:${port}`;
  other = `http://static.${id}.localhost:${port}`;
  const draft = {
    ...ruleset({
      site: { ...site, id, origin },
      slots: [{ id: "s", name: "S", at: { selector: "h1", how: "replace" } }],
    }),
    library: [],
    picks: [],
  };
  await transaction(allSites, async (db) => {
    await createSite(draft, db);
    await setOrigins(id, [origin, other], null, db);
  });
  who = await somebody(id, "looker");
  label = await openMirror(id, { session: who.session });
  const look = join(tmpdir(), `${id}.js`);
  writeFileSync(look, 'const workbench = "MIRADA_WORKBENCH_ORIGIN";');
  mirror = mirrorServer({ pattern, workbench, look });
  await listen(mirror);
});
afterAll(async () => {
  mirror.close();
  web.close();
  await pool().end();
});

describe("a page in the mirror", () => {
  it("is asked for by its ETag once it is known, and is the new one once it has changed", async () => {
    expect((await ask("/edition")).body).toContain("Edition 1");
    const again = await ask("/edition", { headers: { "cache-control": "no-cache" } });
    expect(asked.at(-1)!.headers["if-none-match"]).toBe('"1"');
    expect(again).toMatchObject({ status: 200 });
    expect(again.body).toContain("Edition 1");
    edition = 2;
    expect((await ask("/edition")).body).toContain("Edition 2");
    expect((await ask("/edition")).body).toContain("Edition 2");
    expect(asked.at(-1)!.headers["if-none-match"]).toBe('"2"');
    // Another looker is told nothing by what this one was shown.
    const another = await somebody(id, "another looker");
    const own = await openMirror(id, { session: another.session });
    const other = { host: `${own}.mirror.localhost:1` };
    await ask("/edition", other);
    expect(asked.at(-1)!.headers["if-none-match"]).toBeUndefined();
    // A cookie that comes with “unchanged” is kept as any other.
    expect((await ask("/edition", other)).body).toContain("Edition 2");
    expect((await ask("/who", other)).body).toContain("seen=again");
  });
  it("is the site's, with its own addresses led into the mirror, without its policies, and with the lens's script", async () => {
    const { status, headers, body } = await ask("/");
    expect(status).toBe(200);
    const [here, there] = [mirrorOrigin(pattern, label), mirrorOrigin(pattern, label, 1)];
    expect(body).toContain(`href="${here}/rooms?a=b#c"`);
    expect(body).toContain('href="/boats"');
    expect(body).toContain(`srcset="${here}/a.svg 1x, ${there}/b.svg 2x"`);
    expect(body).toContain(`action="${here}/send"`);
    expect(body).toContain(`@import "${here}/more.css"`);
    expect(body).toContain(`url(${here}/d.svg)`);
    expect(body).not.toContain(origin);
    expect(body).toContain('href="https://away.example/x">Away');
    expect(body).not.toMatch(/http-equiv="Content-Security-Policy"|integrity|v1\/page\.js/i);
    // What is not touched stays as it was written.
    expect(body).toContain('<script>1 < 2 && "</b>"</script>');
    expect(body).toContain("<h1>Rooms &amp; boats</h1>");
    expect(body.indexOf("/~mirada/look.js")).toBeLessThan(body.indexOf("<meta"));
    expect(headers["content-security-policy"]).toBe(
      `frame-ancestors 'self' ${workbench}; worker-src blob:; form-action 'self'`,
    );
    expect(headers["x-frame-options"]).toBeUndefined();
    expect(headers["strict-transport-security"]).toBeUndefined();
    expect(headers["set-cookie"]).toBeUndefined();
  });

  it("follows the site's addresses: a page that was shown before is led into the mirror anew", async () => {
    const away = `http://shop.${id}.localhost:${new URL(origin).port}`;
    pages["/to-the-shop"] = () => [200, plain, html(`<a href="${away}/x">Shop</a>`)];
    for (let times = 0; times < 2; times++) expect((await ask("/to-the-shop")).body).toContain(`href="${away}/x"`);
    await setOrigins(id, [origin, other, away], null, of(id));
    await expect
      .poll(async () => (await ask("/to-the-shop")).body, { timeout: 10_000 })
      .toContain(`href="${mirrorOrigin(pattern, label, 2)}/x"`);
    // What the page says now is shown, and not what it said.
    pages["/to-the-shop"] = () => [200, plain, html("<p>Closed</p>")];
    expect((await ask("/to-the-shop")).body).toContain("<p>Closed</p>");
    await setOrigins(id, [origin, other], null, of(id));
  });

  it("keeps the site's cookies in a jar of the looker's own, and sends them with the next", async () => {
    await ask("/");
    expect((await ask("/who")).body).toContain("session=one");
    const another = await openMirror(id, { session: (await somebody(id, "second")).session });
    expect((await ask("/who", { host: `${another}.mirror.localhost:1` })).body).toContain("no cookie");
  });

  it("has styles and files as they are, but for addresses of the site in styles", async () => {
    const style = await ask("/style.css", { headers: { "sec-fetch-dest": "style" } });
    expect(style.body).toBe(`a { background: url("${mirrorOrigin(pattern, label)}/e.svg") } b { color: red }`);
    expect((await ask("/script.js", { headers: { "sec-fetch-dest": "script" } })).body).toBe(
      `const home = "${origin}/";`,
    );
    // A further host of the site is a further origin of the mirror, which may be asked from the first.
    const from = { origin: mirrorOrigin(pattern, label), "sec-fetch-dest": "empty" };
    const font = await ask("/font", { host: `${label}-1.mirror.localhost:1`, headers: from });
    expect(font.headers["access-control-allow-origin"]).toBe(from.origin);
    expect(asked.at(-1)?.headers.host).toBe(new URL(other).host);
  });

  it.each([
    ["/latin", "<p>Café</p>"],
    ["/tokyo", "<p>東京</p>"],
    ["/packed", "<p>Packed</p>"],
    ["/bare", "Only text, and <b>bold</b>"],
    ["/gone", "<p>Not here</p>"],
  ])("%s is read as it was written", async (path, text) => {
    const { headers, body } = await ask(path);
    expect(body).toContain(text);
    expect(body).toContain("/~mirada/look.js");
    expect(headers["content-type"]).toBe("text/html; charset=utf-8");
  });

  it("follows where the site leads, within the site", async () => {
    expect(await ask("/old")).toMatchObject({
      status: 302,
      headers: { location: `${mirrorOrigin(pattern, label)}/rooms?x=1` },
    });
    const away = await ask("/away");
    expect(away.body).toContain("This page leads on to away.example, which is none of the site’s own addresses.");
    expect((await ask("/away.css", { headers: { "sec-fetch-dest": "style" } })).headers.location).toBe(
      "https://away.example/x.css",
    );
    const { body } = await ask("/refresh");
    expect(body).toContain(`content="0; url=${mirrorOrigin(pattern, label)}/rooms"`);
    expect(body).not.toContain("away.example");
    expect((await ask("/base")).body).toContain(`<base href="${mirrorOrigin(pattern, label)}/deep/">`);
  });

  it.each([
    ["/long", /more than 30 MB/],
    ["/bomb", /longer than 30 MB/],
    ["/longish", /longer than 8 MB/],
    ["/file", /This is no page, but application\/zip/],
  ])("%s is no page that is shown, and that is said", async (path, says) => {
    const { status, body } = await ask(path);
    expect(status).toBe(502);
    expect(body).toMatch(says);
    expect(body).toContain("data-says=");
  });

  it("is what a lens gets, by its pass, and by nobody else's", async () => {
    const visit = { at: "2026-11-24T10:15:00Z", url: `${origin}/` };
    const pass = await makePass(id, who.session, { visit, source: "draft", pins: {} });
    const look = (body: object) =>
      ask("/~mirada/look", { method: "POST", body: JSON.stringify(body), headers: { "sec-fetch-dest": "empty" } });
    const given = await look({ pass, path: "/" });
    expect(JSON.parse(given.body)).toMatchObject({
      slots: { s: [{ variant: null }] },
      places: { s: { selector: "h1" } },
    });
    expect((await look({ pass: "x".repeat(24), path: "/" })).status).toBe(404);
    expect((await look({ pass, path: "/", key: "k" })).status).toBe(404);
    expect((await ask("/~mirada/look", { method: "POST", body: "{".repeat(9000) })).status).toBe(413);
  });
});

describe("who may look", () => {
  it("only the workbench's frame, only reading, only under a mirror's name", async () => {
    const before = asked.length;
    expect((await ask("/", { headers: { "sec-fetch-dest": "document" } })).status).toBe(403);
    expect((await ask("/", { method: "POST" })).status).toBe(405);
    expect((await ask("/sw.js", { headers: { "service-worker": "script" } })).status).toBe(404);
    expect((await ask("/", { host: "mirror.localhost:1" })).status).toBe(421);
    expect((await ask("/", { host: `${"a".repeat(24)}.mirror.localhost:1` })).status).toBe(421);
    expect((await ask("/", { host: `${label}-7.mirror.localhost:1` })).status).toBe(404);
    expect((await ask(`/?${"a=1&".repeat(3000)}`)).status).toBe(414);
    await ask("//evil.example/x");
    expect(asked.slice(before).every(({ headers }) => headers.host === new URL(origin).host)).toBe(true);
  });

  it("nobody whose session has ended", async () => {
    const short = await somebody(id, "short");
    const own = await openMirror(id, { session: short.session });
    expect(await openMirror(id, { session: short.session })).toBe(own);
    expect(await readMirror(own)).toBe(id);
    await everything.query("delete from sessions where id = $1", [short.session]);
    expect(await readMirror(own)).toBeUndefined();
  });

  it("no page of a private network, unless the installation allows it", async () => {
    process.env.MIRADA_PRIVATE_HOSTS = "";
    const before = asked.length;
    const { status, body } = await ask("/rooms");
    process.env.MIRADA_PRIVATE_HOSTS = "yes";
    expect(status).toBe(502);
    expect(body).toContain("private network (127.0.0.1)");
    expect(asked.length).toBe(before);
  });
});

describe("the way to a page", () => {
  const way = (path: string) => wayTo(id, path, { session: who.session });
  it("is its own place where it carries the tag and lets itself be framed, else the mirror, with the reason", async () => {
    expect(await way("/tagged")).toEqual({ by: "tag", origin });
    expect(await way("/framed")).toEqual({ by: "tag", origin });
    const mirrored = { by: "mirror", origin: mirrorOrigin(pattern, label) };
    expect(await way("/rooms")).toMatchObject({ ...mirrored, why: "the page does not carry the tag yet" });
    expect(await way("/others")).toMatchObject({ ...mirrored, why: "the page carries the tag of another site" });
    expect(await way("/")).toMatchObject({ ...mirrored, why: "the page refuses to stand in frames of others" });
    // What is no page of the site is said to be none.
    expect(await way("/gone")).toMatchObject({ ...mirrored, status: 404 });
    expect(await way("/rooms")).not.toHaveProperty("status");
    expect(await mirrorOf(id, { session: who.session })).toEqual({
      ...mirrored,
      origins: [
        [mirrorOrigin(pattern, label), origin],
        [mirrorOrigin(pattern, label, 1), other],
      ],
    });
  });
  it("is none where the server cannot reach it, and that is said", async () => {
    process.env.MIRADA_PRIVATE_HOSTS = "";
    const found = await way("/");
    process.env.MIRADA_PRIVATE_HOSTS = "yes";
    expect(found).toMatchObject({ by: "none", why: expect.stringContaining("private network") });
  });
});
