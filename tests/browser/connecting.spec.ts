/**
 * From an address to a first part that is live, on a site that knows nothing of the product: the four steps of Connect, each with what
 * can be amiss, and what becomes of it when the page loses its tag.
 */
import { expect, type Browser, type Page, type Request } from "@playwright/test";
import { createHash } from "node:crypto";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { goLive, openScreen, removeSite, site, spot, test } from "./support";

const name = "Slate Roofers";
const id = "slate-roofers";
/** What stands in the head of its pages, and under which policy they are served. */
const head = { tag: "", policy: "" };
let title = "Roofs that outlive us";
/** A page that throws out every script and style as soon as it can, the tag's own with them. */
const careless = "document.querySelectorAll('script, style').forEach((one) => one.remove())";
let server: http.Server;
let origin: string;
test.beforeAll(async () => {
  server = http.createServer((request, response) => {
    const { pathname } = new URL(request.url ?? "/", "http://localhost");
    if (pathname === "/sitemap.xml") {
      response.setHeader("content-type", "application/xml");
      const pages = ["/", "/roofs", "/careless"].map((path) => `<url><loc>${origin}${path}</loc></url>`);
      return void response.end(
        `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${pages.join("")}</urlset>`,
      );
    }
    response.setHeader("content-type", "text/html; charset=utf-8");
    if (head.policy) response.setHeader("content-security-policy", head.policy);
    const more = pathname === "/careless" ? `<script>${careless}</script>` : "";
    response.end(`<!doctype html><html lang="en"><head><title>Slate Roofers</title>${head.tag}${more}</head>
      <body><main><h1>${title}</h1><p>${"Laid by hand, one slate after the other, since the quarry opened. ".repeat(3)}</p></main></body></html>`);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  origin = `http://slate-roofers.localhost:${(server.address() as AddressInfo).port}`;
});
test.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, id, name);
});

/** What a plain visitor reads as the heading, once the tag has its answer, and that nothing of the page is hidden. */
async function headingFor(browser: Browser, address: string): Promise<string> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  // A page that throws its scripts out may never ask; of all others the tag asks, and has an answer, if only a refusal.
  const asks = head.tag !== "" && !address.endsWith("/careless");
  const answered = new Promise<void>((done) => {
    const look = (request: Request) => request.url().endsWith("/v1/page") && done();
    page.on("response", (answer) => look(answer.request())).on("requestfailed", look);
  });
  await page.goto(address);
  if (asks) await answered;
  await page.waitForTimeout(900);
  const heading = page.locator("h1");
  await expect(heading).toBeVisible();
  const text = (await heading.textContent()) ?? "";
  await context.close();
  return text;
}
/** A visitor whose answer comes too late keeps the page's own content, as is meant; on a slow machine the next one is asked. */
const visitorsRead = (browser: Browser, address: string, text: string): Promise<void> =>
  expect.poll(() => headingFor(browser, address), { timeout: 60_000 }).toBe(text);
const steps = (page: Page) => page.getByRole("region", { name: "Connecting" });
const step = (page: Page, which: string) =>
  steps(page)
    .getByRole("listitem")
    .filter({ has: page.getByRole("heading", { name: which }) });
const lookAgain = (page: Page) => page.getByRole("button", { name: "Run again" }).click();

test("a site is connected in four steps, a first part is live, and the page loses its tag", async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000);
  await page.goto("/sites");
  await page.getByRole("button", { name: "New site" }).click();
  await page.getByRole("textbox", { name: "Name of the site" }).fill(name);
  await page.getByRole("textbox", { name: "Address of the site" }).fill(origin);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(`/s/${id}/connect`);

  // The address was looked at by itself; pages, tag and visitors are still to come.
  await expect(step(page, "Address")).toContainText("Slate Roofers");
  await expect(step(page, "Address")).toContainText("Written in English");
  await expect(step(page, "Tag")).toContainText("you can go on");
  await step(page, "Pages").getByRole("button", { name: "Import sitemap" }).click();
  await expect(step(page, "Pages")).toContainText("3 pages are known");
  await step(page, "Tag").getByRole("button", { name: "Create tag" }).click();
  const code = step(page, "Tag").locator("pre").first();
  await expect(code).toContainText("<script>");
  // The tag’s last number is how long a page waits: on a slow machine more than the usual 400 ms.
  const tag = ((await code.textContent()) ?? "").replace(/,400\)/, ",5000)");
  expect(tag).toContain(",5000)");

  // A policy that keeps it out is told with what to add, before a visitor comes.
  head.tag = tag;
  head.policy = "default-src 'self'; style-src 'self' 'unsafe-inline'";
  await lookAgain(page);
  await expect(step(page, "Tag")).toContainText("3 pages carry it");
  await expect(step(page, "Tag")).toContainText("own policy keeps the tag from working on /, /roofs, /careless");
  const missing = await step(page, "Tag").locator("p.error code").allTextContents();
  const added = missing.filter((text) => /^(script|connect)-src /.test(text));
  expect(added).toHaveLength(3);
  const scripts = added.filter((text) => text.startsWith("script-src")).map((text) => text.slice("script-src ".length));
  head.policy = `default-src 'self'; style-src 'self' 'unsafe-inline'; script-src ${scripts.join(" ")} 'sha256-${createHash("sha256").update(careless).digest("base64")}'; ${added.find((text) => text.startsWith("connect-src"))}`;
  await lookAgain(page);
  await expect(step(page, "Tag").locator("p.error")).toHaveCount(0);

  // The first visitor's page is heard at once.
  await expect(step(page, "Seen")).toContainText("Nothing was heard from the tag yet");
  // On a slow machine the tag may have given up before it was heard: then the next visitor is the first.
  await expect(async () => {
    expect(await headingFor(browser, `${origin}/?from=a-friend`)).toBe("Roofs that outlive us");
    await expect(step(page, "Seen")).toContainText("on /;", { timeout: 8000 });
  }).toPass({ timeout: 60_000 });
  // The same pages under another address may not ask until somebody says so.
  const other = origin.replace("slate-roofers.", "www.slate-roofers.");
  await expect(async () => {
    await headingFor(browser, other);
    await expect(step(page, "Seen")).toContainText("www.slate-roofers", { timeout: 8000 });
  }).toPass({ timeout: 60_000 });
  await step(page, "Seen").getByRole("button", { name: "Allow this origin" }).click();
  await expect(step(page, "Seen").locator("p.error")).toHaveCount(0);
  await expect(page.getByRole("region", { name: "Origins" })).toContainText("www.slate-roofers");

  // A first part: pointed at, copied, changed, on for everyone, live.
  await page.getByRole("link", { name: "Point at a first part" }).click();
  await expect(page.getByRole("heading", { name: "A new slot" })).toBeVisible();
  await expect(site(page).locator("h1")).toHaveText("Roofs that outlive us");
  await page.mouse.click(...(await spot(page, "h1")));
  await page.getByLabel("Name of the slot").fill("Heading");
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await page.getByRole("textbox", { name: "Words" }).fill("A roof for your grandchildren");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByRole("dialog")).toContainText("Heading is a new slot");
  await expect(page.getByText("Nothing was heard from the tag")).toHaveCount(0);
  await goLive(page);
  await visitorsRead(browser, `${origin}/roofs`, "A roof for your grandchildren");
  await visitorsRead(browser, other, "A roof for your grandchildren");
  // A page that throws its scripts out: whatever comes of it, nothing stays hidden and nothing is broken.
  expect(["A roof for your grandchildren", "Roofs that outlive us"]).toContain(
    await headingFor(browser, `${origin}/careless`),
  );

  // The tag is taken out again: visitors have the page's own content, lenses go by the mirror, and it is said.
  head.tag = "";
  expect(await headingFor(browser, `${origin}/roofs`)).toBe("Roofs that outlive us");
  await page.goto(`/s/${id}/pages`);
  await expect(page.getByText("since the page does not carry the tag any more")).toBeVisible();
  await expect(site(page).locator("h1")).toHaveText("A roof for your grandchildren");
  await openScreen(page, "Settings", "Connect");
  await expect(step(page, "Tag")).toContainText("served without it and were heard from today");
  head.tag = tag;
  await lookAgain(page);
  await expect(step(page, "Tag")).not.toContainText("without it");
  await expect(step(page, "Tag")).toContainText("3 pages carry it");
  await visitorsRead(browser, `${origin}/roofs`, "A roof for your grandchildren");

  // The page says something else: looked for now, it is found now.
  await openScreen(page, "Proof", "Findings");
  await page.getByRole("button", { name: "Look now" }).click();
  await expect(page.getByText("fits the pages")).toBeVisible();
  title = "Roofs for a hundred winters";
  await page.getByRole("button", { name: "Look now" }).click();
  await expect(
    page.getByText("it says “Roofs for a hundred winters” where it said “Roofs that outlive us”"),
  ).toBeVisible();
  expect(await headingFor(browser, `${origin}/roofs`)).toBe("Roofs for a hundred winters");
});
