/** The page script on the partner's static page: filled, without a shift, and whatever the server does. */
import { expect, type Page } from "@playwright/test";
import { gzipSync } from "node:zlib";
import { port, test } from "./support";

const partner = `http://stone-and-moss.localhost:${port + 20}/`;
const delivery = `http://localhost:${port + 1}`;
const bar = (page: Page) => page.locator("[data-mirada-slot=site-bar]");
const card = (page: Page) => page.locator("[data-mirada-slot=footer-help]");
const own = "A corner in the shade?";
/** The sum of all layout shifts so far (Layout Instability API). */
const shifts = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        let sum = 0;
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries()) sum += (entry as PerformanceEntry & { value: number }).value;
        }).observe({ type: "layout-shift", buffered: true });
        setTimeout(() => resolve(sum), 300);
      }),
  );

test("it fills the slots of a static page, moves nothing, and tells what happened", async ({ page, request }) => {
  const taken = async () =>
    Number(/^mirada_events_taken (\d+)/m.exec(await (await request.get(`${delivery}/metrics`)).text())?.[1]);
  const before = await taken();
  const answer = await page.goto(partner);
  await expect(card(page)).toHaveAttribute("data-mirada-filled", "");
  await expect(card(page)).not.toContainText(own);
  // By day the advice line is open, at night and at weekends it is not.
  await expect(card(page).locator("strong")).toHaveText(/advice line is open|Ask us anything/);
  await expect(bar(page)).not.toContainText("Written on a walk");
  expect(await shifts(page)).toBe(0);
  expect((await card(page).boundingBox())?.height).toBe(200);
  await expect.poll(async () => (await taken()) - before).toBeGreaterThanOrEqual(2);
  // Without consent the browser keeps nothing.
  expect(await page.evaluate(() => Object.keys(localStorage))).toEqual([]);
  expect(answer?.headers()["cache-control"]).toBe("public, max-age=600");
});

test("it is small", async ({ request }) => {
  const answer = await request.get(`${delivery}/v1/page.js`);
  expect(answer.headers()["content-type"]).toContain("text/javascript");
  expect(gzipSync(await answer.body(), { level: 9 }).length).toBeLessThan(6144);
  const again = await request.get(`${delivery}/v1/page.js`, {
    headers: { "if-none-match": answer.headers().etag ?? "" },
  });
  expect(again.status()).toBe(304);
});

const broken: [string, (page: Page) => Promise<unknown>][] = [
  ["the server is away", (page) => page.route(`${delivery}/**`, (route) => route.abort("connectionrefused"))],
  ["the script never comes", (page) => page.route(`${delivery}/v1/page.js*`, () => undefined)],
  ["the answer never comes", (page) => page.route(`${delivery}/v1/page`, () => undefined)],
  [
    "the answer is an error",
    (page) => page.route(`${delivery}/v1/page`, (route) => route.fulfill({ status: 500, body: "no" })),
  ],
  [
    "the answer is nonsense",
    (page) =>
      page.route(`${delivery}/v1/page`, (route) =>
        route.fulfill({ status: 200, headers: { "access-control-allow-origin": "*" }, body: "<html>" }),
      ),
  ],
  [
    "the answer is JSON of another kind",
    (page) =>
      page.route(`${delivery}/v1/page`, (route) =>
        route.fulfill({
          status: 200,
          headers: { "access-control-allow-origin": "*" },
          body: '{"slots":{"footer-help":"x"},"kinds":{}}',
        }),
      ),
  ],
];
for (const [name, breakIt] of broken)
  test(`where ${name}, the page’s own content soon stands`, async ({ page }) => {
    await breakIt(page);
    await page.goto(partner, { waitUntil: "domcontentloaded" });
    await expect(card(page)).toBeVisible();
    await expect(card(page)).toContainText(own);
    await page.waitForTimeout(700);
    await expect(card(page)).toContainText(own);
    expect(await page.evaluate(() => document.documentElement.hasAttribute("data-mirada-wait"))).toBe(false);
    expect(await shifts(page)).toBe(0);
  });

test("an answer that comes too late changes nothing that is being read", async ({ page }) => {
  // Later than any page waits: 400 ms, or 3 s in tests.
  await page.route(`${delivery}/v1/page`, async (route) => {
    await new Promise((next) => setTimeout(next, 4000));
    await route.continue().catch(() => undefined);
  });
  await page.goto(partner);
  await page.waitForTimeout(4600);
  await expect(card(page)).toContainText(own);
});

test("with consent it remembers in the page’s own storage, and forgets when consent is gone", async ({ page }) => {
  await page.addInitScript(() => {
    const consent = !location.search.includes("no");
    Object.defineProperty(window, "mirada", { configurable: true, get: () => ({ consent }), set: () => undefined });
  });
  await page.goto(partner);
  await expect.poll(() => page.evaluate(() => localStorage.getItem("mirada"))).toMatch(/^v-/);
  const first = await page.evaluate(() => localStorage.getItem("mirada")?.split(".")[0]);
  await page.goto(partner);
  await expect(card(page)).toHaveAttribute("data-mirada-filled", "");
  expect(await page.evaluate(() => localStorage.getItem("mirada")?.split(".")[0])).toBe(first);
  await page.goto(`${partner}?no`);
  await expect(card(page)).toHaveAttribute("data-mirada-filled", "");
  expect(await page.evaluate(() => localStorage.getItem("mirada"))).toBeNull();
});
