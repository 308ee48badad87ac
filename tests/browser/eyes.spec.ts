/** Through any eyes: why a place is empty, lenses with steps, shared by link, a contact sheet, checks that fail and are mended. */
import { expect, type Page } from "@playwright/test";
import http from "node:http";
import { at, openScreen, openWorkbench, port, row, shopPort, site, test } from "./support";

async function look(page: Page, address: string): Promise<void> {
  await page.getByLabel(/^Paste a link/).fill(address);
  await page.keyboard.press("Enter");
}

/** Keeps the scripts of a port's pages from coming. @returns what lets them */
async function holdScripts(page: Page, of: number): Promise<() => void> {
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(
    (url) => url.port === String(of) && url.pathname.endsWith(".js"),
    async (route) => {
      await held;
      await route.continue();
    },
  );
  return release;
}

test("why don't I see it? From a click on an empty place to the condition, and to the smallest change that shows it", async ({
  page,
}) => {
  await openWorkbench(page);
  await site(page).locator('[data-mirada-slot="home-quiz"]').click();
  const why = page.getByRole("region", { name: "Why nothing is shown here" });
  await expect(why).toContainText("A Came from the quiz: because: no parameter “choice”");
  await expect(why).toContainText("There is no fallback.");
  await why.getByRole("button", { name: "Smallest change to show something" }).click();
  await expect(row(page, "Came from the quiz").locator(".verdict")).toHaveText("Shown");
  await expect(why).toHaveCount(0);
  await expect(page.locator(".sentence p")).toContainText("a link with a parameter");
});

test("a check fails after a change, says what was changed, opens there, and passes once it is mended", async ({
  page,
}) => {
  await openWorkbench(page);
  await look(page, "https://brackenfold.example/");
  await page.getByRole("tab", { name: "Home hero" }).click();
  // What is on screen is kept: the variant, a text, the total, and where a visitor is sent.
  const keep = async (name: RegExp) => {
    await page.getByRole("button", { name: "Save as check", exact: true }).click();
    await page.getByRole("menuitem", { name }).click();
    await expect(page.getByText(/^Saved as a check/).last()).toBeVisible();
  };
  await keep(/Home hero shows “Repotting clinic”/);
  await keep(/Home hero says “The repotting clinic is open now”/);
  await keep(/pays €44.40/);
  await look(page, "https://brackenfold.example/catalogue/x");
  await keep(/is sent to https:\/\/brackenfold.example\/ferns/);
  await look(page, "https://brackenfold.example/");
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Switch Repotting clinic off" }).click();

  await openScreen(page, "Proof", "Checks");
  const failing = page.locator("tr[data-row^=check-]").filter({ hasText: "Home hero shows “Repotting clinic”" });
  await expect(failing).toContainText("✗ Draft");
  await expect(failing).toContainText("✓ Live");
  await expect(failing).toContainText("Changed since it was live: Home hero, Repotting clinic is switched off");
  await expect(page.locator("tr[data-row]").filter({ hasText: "pays €44.40" })).toContainText("✓ Draft");
  // A real request for each, through the same door: also where a visitor is sent and what they pay.
  await page.getByRole("button", { name: "Test live site" }).click();
  await expect(page.getByText("✓ Site")).toHaveCount(8 + 4, { timeout: 40_000 });
  await failing.getByRole("button", { name: "View as this visitor" }).click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Switch Repotting clinic on" }).click();
  await openScreen(page, "Proof", "Checks");
  await expect(failing).toContainText("✓ Draft");
  for (let left = 12; left > 8; left--) {
    await expect(page.locator("tr[data-row]")).toHaveCount(left);
    await page
      .getByRole("button", { name: /^Delete the check/ })
      .last()
      .click();
  }
});

test("a lens goes on from page to page with all that is remembered, and is kept with a picture of what it sees", async ({
  page,
}) => {
  // The server takes its time: what was changed meanwhile is built upon all the same.
  await page.route(/\/act\/keepLenses$/, async (route) => {
    await new Promise((go) => setTimeout(go, 1500));
    await route.continue();
  });
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Lenses");
  const card = page.locator("[data-lens=porto-returns]");
  await expect(card.locator(".sitecell[data-ready]")).toBeVisible({ timeout: 20_000 });
  // What is remembered leans on having agreed to it.
  await page.locator(".sentence [data-part=visitor]").click();
  await page.getByRole("switch", { name: "Consent given" }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Save lens" }).click();
  const mine = page.locator("[data-lens]").last();
  await expect(mine).toContainText("A new lens");
  await mine.locator(".name").click();
  const open = page.getByRole("region", { name: "A new lens" });
  const step = (number: number) => open.getByRole("region", { name: `Step ${number}` });
  await open.getByRole("button", { name: "Add page" }).click();
  await step(2).getByLabel("Next page").fill("/ferns");
  await step(2).getByLabel("Next page").press("Tab");
  await expect(step(2)).toContainText("2 /ferns");
  await expect(step(2)).toContainText("pop-up: Winter letter");
  await open.getByRole("button", { name: "Add page" }).click();
  await step(3).getByLabel("Unit").click();
  await page.getByRole("option", { name: "days" }).click();
  // The second look at ferns gains the marker, on that very page; the pop-up had its turn.
  await expect(step(3)).toContainText("gains the marker “Fern friend”");
  await expect(step(3)).toContainText("held back: its cap is reached: 1 of 1 ever");
  await step(3).getByLabel("Next page").fill("not a path");
  await expect(step(3).getByText(/A path of the site, from \/ on/)).toBeVisible();
  await step(3).getByRole("button", { name: "View this step" }).click();
  await expect(page.locator(".sentence p")).toContainText("here for the second time");
  await openScreen(page, "Visitors", "Lenses");
  await page.getByRole("button", { name: "Use this browser" }).click();
  await expect(page.locator("[data-lens]").last()).toContainText("This browser, now");
  for (const name of ["This browser, now", "A new lens"])
    await page.getByRole("button", { name: `Delete ${name}` }).click();
  await expect(page.locator("[data-lens]").filter({ hasText: "A new lens" })).toHaveCount(0);
});

test("a shared lens is seen on a phone, says what is made up, changes nothing, and ends", async ({ page, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Lenses");
  await page.getByRole("button", { name: "Share Berlin, searching for shade" }).click();
  await page.getByRole("button", { name: "Create link" }).click();
  await expect(page.getByRole("img", { name: /^QR code of http/ }).locator("svg")).toBeVisible();
  const link = (await page.getByRole("link", { name: "Open it" }).getAttribute("href")) as string;
  const own = new URL(link);
  const phone = await browser.newPage({ viewport: { width: 390, height: 780 } });
  await phone.goto(`http://localhost:${own.port}${own.pathname}`);
  await expect(phone.getByText("A draft: not live yet.")).toBeVisible();
  const inside = phone.frameLocator("iframe");
  await expect(inside.getByRole("heading", { name: "Ferns that love the dark" })).toBeVisible();
  await phone.getByRole("button", { name: "About this preview" }).click();
  await expect(
    phone.getByText(/You look as a visitor without consent, on a phone with Android, in Berlin, Germany/),
  ).toBeVisible();
  await inside.getByRole("link", { name: "Farne" }).click();
  await expect(inside.getByRole("heading", { name: "Ferns", exact: true })).toBeVisible();
  await inside.getByRole("link", { name: "Maidenhair" }).click();
  await inside.getByRole("button", { name: "Add to cart" }).click();
  await expect(phone.getByRole("status")).toContainText("Nothing is sent from here");
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  // The network sees shared links and nothing else.
  expect((await phone.request.get(`http://localhost:${own.port}/`)).status()).toBe(404);
  expect((await phone.request.get(`http://localhost:${port}/shared/${"x".repeat(24)}/site/`)).status()).toBe(404);
  const raw = (path: string, method = "GET") =>
    new Promise<number | undefined>((resolve, reject) => {
      const asked = http.request({ host: "127.0.0.1", port: own.port, path, method }, (answer) => {
        answer.resume();
        resolve(answer.statusCode);
      });
      asked.on("error", reject).end();
    });
  for (const path of [
    "/_next/static/../../audiences",
    "/shared/%2e%2e/audiences",
    "/brackenfold/..\\..\\offers",
    "//audiences",
    "/place-files",
  ])
    expect(await raw(path)).toBe(404);
  expect(await raw(own.pathname, "POST")).toBe(404);
  expect(await raw(own.pathname)).toBe(200);
  // It stands among those that are open, and is ended from there as well as where it was made.
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "Share lens" }).click();
  const open = page.getByRole("region", { name: "Open links" });
  const ending = open.getByRole("button", { name: "End the link of Berlin, searching for shade" });
  // The list is asked for when the dialog opens.
  await expect(ending.first()).toBeVisible();
  const before = await ending.count();
  await ending.last().click();
  await expect(ending).toHaveCount(before - 1);
  await page.getByRole("button", { name: "Close" }).click();
  await phone.reload();
  await expect(phone.getByText("This link has expired")).toBeVisible();
  await phone.close();
});

test("a link that is pressed before the page's scripts are there leads on once they are", async ({ page }) => {
  const release = await holdScripts(page, shopPort);
  await page.goto(at("/pages?page=/advice"));
  // The page stands as the server has made it; nothing listens on it yet.
  await site(page).getByRole("link", { name: "Fetos" }).press("Enter");
  await expect(page.locator(".pagebar .where")).toContainText("/advice");
  release();
  await expect(page.locator(".pagebar .where")).toHaveText("brackenfold.example/ferns");
  await expect(site(page).getByRole("heading", { name: "Ferns", exact: true })).toBeVisible();
});

test("what is pressed in the workbench before its scripts are there is done once they are", async ({ page }) => {
  const release = await holdScripts(page, port);
  await page.goto(at("/lenses"), { waitUntil: "commit" });
  await page.getByRole("button", { name: "Share Berlin, searching for shade" }).click();
  await expect(page.getByRole("button", { name: "Create link" })).toHaveCount(0);
  release();
  await expect(page.getByRole("button", { name: "Create link" })).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
});

test("a contact sheet puts pages side by side, marks what differs, tells a variant's reach, and becomes a picture", async ({
  page,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Proof", "Contact sheet");
  const cells = page.locator("[data-cell]");
  await expect(cells).toHaveCount(12);
  await expect(cells.first().locator(".sitecell[data-ready]")).toBeVisible({ timeout: 20_000 });
  await cells.first().getByRole("button", { name: "Compare with this" }).click();
  await expect(cells.nth(3)).toContainText("differs: Site bar, Header, Home hero");
  await page.getByLabel("Reach of a variant").click();
  await page.getByRole("option", { name: "Home hero: C Shade ferns" }).click();
  await expect(page.getByText("Shown in 1 of 12 cells.")).toBeVisible();
  await page.getByRole("button", { name: "One lens × widths" }).click();
  await expect(cells).toHaveCount(3);
  await page.getByRole("button", { name: "Lenses × times" }).click();
  await expect(cells).toHaveCount(12);
  await page.getByRole("button", { name: "One lens × widths" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download", { timeout: 50_000 }),
    page.getByRole("button", { name: "Download PNG" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("brackenfold-sheet.png");
});

test("the ribbon zooms by dragging and by keyboard, and a heat map tells which hours", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: "Footer help" }).click();
  const line = page.locator(".ribbon .days");
  const box = (await line.boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 7, box.y + 5, { steps: 5 });
  await page.mouse.up();
  await expect(line).toContainText("06:00");
  await page.getByRole("button", { name: "Zoom in" }).click();
  await page.getByRole("button", { name: "Week", exact: true }).click();
  await page.getByRole("button", { name: "Month", exact: true }).click();
  await page.getByRole("button", { name: "Heat map" }).click();
  const heat = page.getByRole("table", { name: "Share of lenses by weekday and hour" });
  await page.getByLabel("Share of lenses that see").click();
  await page.getByRole("option", { name: "B Advice line open" }).click();
  await expect(heat.getByTitle("Tuesday 10:00: 2 of 6 lenses")).toBeVisible();
  await expect(heat.getByTitle("Sunday 10:00: 0 of 6 lenses")).toBeVisible();
});
