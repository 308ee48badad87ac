/**
 * Whole pages by others go through the mirror: each runs without a script error that it does not have by itself, and looks as it does
 * by itself. And pages that do what pages should not: the workbench stays whole.
 */
import { expect, test as plain, type BrowserContext, type Page } from "@playwright/test";
import { createReadStream, existsSync, statSync } from "node:fs";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { extname, join, normalize } from "node:path";
import { pagesRoot, wholePages } from "../generated/whole-pages";
import { launch } from "./launch";
import { makeSite, port, removeSite, site, test } from "./support";

const types: Record<string, string> = {
  ".html": "text/html; charset=utf-8",
  ".css": "text/css",
  ".js": "text/javascript",
  ".svg": "image/svg+xml",
  ".png": "image/png",
  ".jpg": "image/jpeg",
};
const hostile: Record<string, string> = {
  "/forges": `<h1>Forged</h1><script>
    for (const data of [1, null, {}, { mirada: "ready" }, { mirada: "slot", id: {} }, { mirada: "pointed", chosen: 1 }, { mirada: "go", href: 7 }])
      parent.postMessage(data, "*");</script>`,
  "/leaves": `<h1>Leaves</h1><script>
    try { top.location = "http://evil.example/"; } catch {}
    try { open("http://evil.example/"); } catch {}
    try { alert("!"); confirm("?"); prompt("?"); } catch {}
    try { if (top !== self) parent.document.body.innerHTML = ""; } catch {}</script>`,
  "/itself": `<h1>Itself</h1><iframe src="/itself?n=1" width="200" height="80"></iframe>`,
  "/circle": `<h1>Circle</h1><script>setInterval(() => { document.querySelector("h1").textContent += "."; history.replaceState(null, "", "?n=" + Math.random()) }, 50)</script>`,
  "/worker": `<h1>Worker</h1><script>navigator.serviceWorker?.register("/sw.js").then(() => { document.querySelector("h1").textContent = "Installed" }, () => undefined)</script>`,
};

// As people's browsers are: what a page does to itself is its own process's matter.
test.use({ launchOptions: launch });
plain.use({ launchOptions: launch });

let server: Server;
let origin: string;
plain.beforeAll(async () => {
  server = createServer((request, response) => {
    const { pathname } = new URL(request.url ?? "/", "http://here");
    const own = hostile[pathname];
    if (own !== undefined)
      return void response
        .writeHead(200, { "content-type": "text/html", "x-frame-options": "DENY" })
        .end(`<!doctype html>${own}`);
    const file = normalize(join(pagesRoot, decodeURIComponent(pathname)));
    if (!file.startsWith(pagesRoot) || !existsSync(file) || !statSync(file).isFile())
      return void response.writeHead(404).end();
    response.writeHead(200, { "content-type": types[extname(file)] ?? "application/octet-stream" });
    createReadStream(file).pipe(response);
  });
  await new Promise<void>((ready) => server.listen(0, "127.0.0.1", ready));
  origin = `http://whole-pages.localhost:${(server.address() as AddressInfo).port}`;
});
plain.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, `whole-${new URL(origin).port}`, "Whole pages");
  await removeSite(request, "away", "Away");
});

/** Nothing leaves this machine: what pages load from elsewhere is missing, by itself as in the mirror. */
const stayHere = (context: BrowserContext) =>
  context.route(
    (url) => !/(^|\.)localhost$/.test(url.hostname),
    (route) => route.abort(),
  );

/** The site of those pages, which is made by whoever asks first. @returns its id */
async function siteOfPages(page: Page): Promise<string> {
  const id = `whole-${new URL(origin).port}`;
  await page.request.post("/act/makeSite", {
    headers: { origin: `http://localhost:${port}` },
    data: [{ name: "Whole pages", id, origin, zone: "UTC", currency: "EUR", language: "en", copyOf: "" }],
  });
  return id;
}

/** Films stand at their first picture: how far two have come differs from run to run. */
const standStill = () =>
  Promise.all(
    [...document.querySelectorAll("video")].map(async (video) => {
      video.pause();
      if (video.currentTime === 0 || video.readyState === 0) return;
      const there = new Promise((done) => video.addEventListener("seeked", done, { once: true }));
      video.currentTime = 0;
      await there;
    }),
  );

/** What share of what is seen of a page differs from what the frame at the upper left shows. */
async function difference(itself: Page, page: Page): Promise<number> {
  await itself.evaluate(standStill);
  await page.frame({ name: "whole" })?.evaluate(standStill);
  const [one, two] = await Promise.all([
    itself.screenshot({ animations: "disabled", caret: "hide" }),
    page.screenshot({ animations: "disabled", caret: "hide", clip: { x: 0, y: 0, width: 1280, height: 720 } }),
  ]);
  return await itself.evaluate(
    async (pictures) => {
      const [a, b] = await Promise.all(
        pictures.map(async (picture) => {
          const image = new Image();
          image.src = picture;
          await image.decode();
          const canvas = Object.assign(document.createElement("canvas"), { width: 1280, height: 720 });
          const drawing = canvas.getContext("2d")!;
          drawing.drawImage(image, 0, 0);
          return drawing.getImageData(0, 0, 1280, 720).data;
        }),
      );
      let count = 0;
      for (let at = 0; at < a!.length; at += 4)
        if ([0, 1, 2].some((part) => Math.abs(a![at + part]! - b![at + part]!) > 40)) count += 1;
      return count / (a!.length / 4);
    },
    [one, two].map((picture) => `data:image/png;base64,${picture.toString("base64")}`),
  );
}

test("whole pages run and look as they do by themselves", async ({ page, context, browser }) => {
  test.setTimeout(300_000);
  const id = await siteOfPages(page);
  await stayHere(context);
  const alone = await browser.newContext({
    viewport: { width: 1280, height: 720 },
    storageState: { cookies: [], origins: [] },
  });
  await stayHere(alone);
  const itself = await alone.newPage();
  await page.goto(`/s/${id}/pages`);
  await expect(page.getByText("The mirror", { exact: true })).toBeVisible({ timeout: 20_000 });
  await expect(site(page).locator("body")).toBeAttached();
  const mirror = await page.evaluate(() => new URL(document.querySelector("iframe")!.src).origin);
  await page.evaluate(() => {
    const frame = document.createElement("iframe");
    frame.name = "whole";
    frame.sandbox.add("allow-scripts", "allow-same-origin", "allow-forms");
    frame.style.cssText = "position:fixed;left:0;top:0;width:1280px;height:720px;border:0;z-index:9999;background:#fff";
    document.body.append(frame);
  });

  const wrong: string[] = [];
  let most = 0;
  const pages = wholePages();
  for (const { path } of pages) {
    const errors = { itself: [] as string[], mirrored: [] as string[] };
    const note = (list: string[]) => (error: Error) => list.push(error.message.replaceAll(mirror, origin));
    const [hearItself, hearMirrored] = [note(errors.itself), note(errors.mirrored)];
    itself.on("pageerror", hearItself);
    page.on("pageerror", hearMirrored);
    await itself.goto(`${origin}${path}`);
    await page.evaluate(
      (src) =>
        new Promise<void>((done) => {
          const frame = document.querySelector<HTMLIFrameElement>("iframe[name=whole]")!;
          frame.onload = () => done();
          frame.src = src;
        }),
      `${mirror}${path}#mirada-look`,
    );
    await page.waitForTimeout(150);
    itself.off("pageerror", hearItself);
    page.off("pageerror", hearMirrored);
    const fresh = errors.mirrored.filter((message) => !errors.itself.includes(message));
    if (fresh.length > 0) wrong.push(`${path}: ${fresh.join(" | ")}`);
    let differs = await difference(itself, page);
    // A page that is still drawing itself is looked at once more, on a slow machine more often.
    for (let tries = 0; differs > 0.01 && tries < 5; tries++) {
      await page.waitForTimeout(2000);
      differs = await difference(itself, page);
    }
    most = Math.max(most, differs);
    if (differs > 0.01) wrong.push(`${path}: ${(differs * 100).toFixed(1)} % of its picture differs`);
  }
  console.log(`${pages.length} pages in the mirror; at most ${(most * 100).toFixed(2)} % of a picture differs`);
  await alone.close();
  expect(pages.length).toBeGreaterThanOrEqual(30);
  expect(wrong).toEqual([]);
});

// What such pages are refused is said in the browser's console.
plain(
  "pages that forge messages, leave, frame themselves or go in circles leave the workbench whole",
  async ({ page, context }) => {
    await stayHere(context);
    const id = await siteOfPages(page);
    const errors: string[] = [];
    const dialogs: string[] = [];
    page.on("pageerror", (error) => errors.push(error.message));
    page.on("dialog", (dialog) => (dialogs.push(dialog.message()), void dialog.dismiss()));
    for (const [path, heading] of [
      ["/forges", "Forged"],
      ["/leaves", "Leaves"],
      ["/itself", "Itself"],
      ["/circle", /^Circle/],
      ["/worker", "Worker"],
    ] as const) {
      await page.goto(`/s/${id}/pages?page=${encodeURIComponent(path)}`);
      await expect(site(page).locator("h1").first()).toHaveText(heading, { timeout: 20_000 });
      await expect(page.getByRole("button", { name: "Publish" })).toBeVisible();
      await page.getByRole("button", { name: "Phone", exact: true }).click();
      await expect(page.getByRole("button", { name: "Phone", exact: true })).toHaveAttribute("aria-pressed", "true");
    }
    expect(dialogs).toEqual([]);
    expect(context.pages()).toHaveLength(1);
    expect(
      errors.filter((message) => !/whole-pages|mirror\.localhost/.test(message) && !/top|sandbox/i.test(message)),
    ).toEqual([]);
  },
);

test("a page that neither browser nor server can reach: why, and what would help", async ({ page }) => {
  await makeSite(page.request, "away", "Away", "https://no-such-host.invalid");
  await page.goto("/s/away/pages");
  await expect(page.getByText("The page cannot be fetched: There is no host no-such-host.invalid.")).toBeVisible({
    timeout: 20_000,
  });
  await expect(page.getByText("Once the page carries the tag and may be framed by this workbench")).toBeVisible();
  await page.getByRole("link", { name: "How to connect it" }).click();
  await expect(page.getByRole("heading", { name: "Connect", exact: true })).toBeVisible();
});
