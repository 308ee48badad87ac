/**
 * Whether the tag works under a page's Content Security Policy, as we say it and as Chromium does it: policies are put together at
 * random (always the same ones), and each is tried on a page with the tag as people paste it.
 */
import { createHash } from "node:crypto";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { expect } from "@playwright/test";
import { keptOut } from "../../src/core/preview/policy";
import { tagCode } from "../../src/script/tag";
import { test } from "./support";

const listening = (server: Server) =>
  new Promise<number>((done) => {
    server.listen(0, "127.0.0.1", () => done((server.address() as AddressInfo).port));
  });
/** The same numbers each time: a linear congruential generator (Numerical Recipes, from memory). */
function chooser(seed: number) {
  let state = seed;
  return <T>(of: readonly T[]): T => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return of[Math.floor((state / 2 ** 32) * of.length)] as T;
  };
}

test("what a policy keeps out of the tag is what the browser keeps out", async ({ browser }) => {
  test.setTimeout(180_000);
  const hits: string[] = [];
  const delivery = createServer((request, response) => {
    hits.push(request.url ?? "");
    response.setHeader("access-control-allow-origin", "*");
    response.setHeader("content-type", "text/javascript");
    response.end(
      request.url?.startsWith("/v1/page.js")
        ? `fetch(new URL("/v1/page", document.currentScript.src), { method: "POST", body: "x" }).catch(() => 0)`
        : "0",
    );
  });
  const served: { headers: string[]; meta: string; script: string } = { headers: [], meta: "", script: "" };
  const pages = createServer((_request, response) => {
    response.setHeader("content-type", "text/html");
    if (served.headers.length > 0) response.setHeader("content-security-policy", served.headers);
    const meta = served.meta ? `<meta http-equiv="Content-Security-Policy" content="${served.meta}">` : "";
    response.end(`<!doctype html><html><head>${meta}${served.script}</head><body>A page</body></html>`);
  });
  const [to, from] = [await listening(delivery), await listening(pages)];
  const server = `http://delivery.localhost:${to}`;
  const own = `http://pages.localhost:${from}`;
  const code = tagCode(server, "page_x");
  const hash = createHash("sha256").update(code).digest("base64");
  const choose = chooser(7);
  const good = [server, server, server, `'sha256-${hash}'`, `'sha256-${hash}'`, "'unsafe-inline'", "'unsafe-inline'"];
  const sources = [
    ...good,
    ...good,
    "'none'",
    "'self'",
    server,
    `delivery.localhost:${to}`,
    `*.localhost:${to}`,
    `*.localhost:*`,
    "delivery.localhost",
    "http:",
    "https:",
    "*",
    "'unsafe-inline'",
    `'sha256-${hash}'`,
    "'sha256-AAAA'",
    "'nonce-right'",
    "'nonce-wrong'",
    "'strict-dynamic'",
    `${server}/v1/`,
    `${server}/v1/page.js`,
    `${server}/v1/page`,
    `${server}/v2/`,
    "https://elsewhere.example",
  ];
  const some = () => Array.from({ length: choose([1, 2, 3, 4, 4]) }, () => choose(sources)).join(" ");
  const policy = () =>
    Array.from(
      { length: choose([1, 1, 2, 3]) },
      () => `${choose(["default-src", "connect-src", "script-src", "script-src-elem", "connect-src"])} ${some()}`,
    ).join("; ");
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const counted = { works: 0, asksNot: 0, runsNot: 0 };
  for (let round = 0; round < 200; round++) {
    served.headers = Array.from({ length: choose([0, 1, 1, 1, 2]) }, policy);
    served.meta = served.headers.length === 0 || choose([true, false, false]) ? policy() : "";
    const nonce = choose([undefined, undefined, "right"]);
    served.script = `<script${nonce ? ` nonce="${nonce}"` : ""}>${code}</script>`;
    hits.length = 0;
    await page.goto(`${own}/${round}`);
    // The page script is there or refused before the page has loaded; what it asks is on its way then.
    await page.evaluate(() => new Promise((done) => setTimeout(done, 15)));
    const now = () => ({ loaded: hits.some((url) => url.startsWith("/v1/page.js")), asked: hits.includes("/v1/page") });
    const missing = keptOut([...served.headers, served.meta], {
      page: own,
      script: `${server}/v1/page.js`,
      asks: `${server}/v1/page`,
      inline: hash,
      nonce,
    });
    const told = {
      loaded: !missing.some((one) => one.startsWith("script-src")),
      connects: !missing.some((one) => one.startsWith("connect-src")),
    };
    await expect
      .poll(now, {
        message: `${JSON.stringify(served.headers)} ${served.meta} ${nonce}: ${missing.join(", ")}`,
        intervals: [10, 20, 50],
        timeout: 5000,
      })
      .toEqual({ loaded: told.loaded, asked: told.loaded && told.connects });
    const { loaded, asked } = now();
    counted[asked ? "works" : loaded ? "asksNot" : "runsNot"]++;
  }
  console.log(`200 policies: ${JSON.stringify(counted)}, none judged otherwise than Chromium does`);
  for (const count of Object.values(counted)) expect(count).toBeGreaterThan(15);
  await context.close();
  pages.close();
  delivery.close();
});
