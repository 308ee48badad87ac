/** A site that knows nothing of the product but the tag in its static pages, looked at through lenses and served to visitors. */
import { expect, type Page } from "@playwright/test";
import { port, site, test } from "./support";

const blog = `http://stone-and-moss.localhost:${port + 20}`;
const delivery = `http://localhost:${port + 1}`;
const at = (screen: string) => `/s/stone-and-moss${screen}`;
const bar = "[data-mirada-slot=site-bar]";

async function openBlog(page: Page): Promise<void> {
  await page.goto(at("/pages"));
  await expect(site(page).locator(`${bar}[data-mirada-mark]`)).toBeVisible({ timeout: 20_000 });
}
/** Presses a part of the framed page with the mouse, where it stands on the screen: the frame is shown smaller than it is. */
async function press(page: Page, selector: string): Promise<void> {
  const frame = page.locator('iframe[title="The page as this visitor sees it"]');
  const box = (await frame.boundingBox())!;
  const inner = await site(page)
    .locator(selector)
    .evaluate((element) => {
      const { x, y, width, height } = element.getBoundingClientRect();
      return { x: x + width / 2, y: y + height / 2, wide: window.innerWidth };
    });
  const scale = box.width / inner.wide;
  await page.mouse.click(box.x + inner.x * scale, box.y + inner.y * scale);
}
const paste = async (page: Page, link: string) => {
  await page.getByLabel(/^Paste a link/).fill(link);
  await page.getByLabel(/^Paste a link/).press("Enter");
};

test("its pages stand in the frame, outlined, and change with the lens, without a pass in any address", async ({
  page,
}) => {
  const asked: string[] = [];
  page.on("request", (request) => asked.push(request.url()));
  await openBlog(page);
  await expect(site(page).locator("h1")).toHaveText("Moving a stone");
  await expect(site(page).locator(bar)).toHaveText("Written on a walk, read by the fire.");
  await paste(page, `${blog}/stones?utm_source=letter`);
  await expect(site(page).locator(bar)).toHaveText("Good to see a reader of the letter");
  // Another visitor again: what the page itself has stands there as it was.
  await paste(page, `${blog}/stones`);
  await expect(site(page).locator(bar)).toHaveText("Written on a walk, read by the fire.");
  const own = asked.filter((url) => url.startsWith(blog));
  expect(own.length).toBeGreaterThan(0);
  expect(own.filter((url) => /look=|pass=|[?&]shared=/.test(url))).toEqual([]);
  // A look is neither a visit nor an exposure.
  expect(asked.filter((url) => url === `${delivery}/v1/page` || url === `${delivery}/v1/events`)).toEqual([]);
});

test("clicks in the page choose slots, links lead on, and a part that was pointed at is a slot like others", async ({
  page,
}) => {
  await openBlog(page);
  await press(page, "h1");
  await expect(
    page.locator(".slothead, .slotside").getByRole("heading", { name: "The heading of stones" }),
  ).toBeVisible();
  // Where no version wins, the page's own content stands: the workbench does not call that nothing.
  await expect(page.getByText("The page’s own content stands here for this visitor.")).toBeVisible();
  await press(page, "a[href='/about']");
  await expect(site(page).locator("h1")).toHaveText("About Stone & Moss");
  await expect(page.locator(".sentence [data-part=page]")).toContainText("About");
});

test("a variant that changes what stands there is seen on its page, pinned, and gone again", async ({ page }) => {
  await openBlog(page);
  await press(page, "h1");
  await page.getByRole("button", { name: "Pin Short, on phones" }).click();
  await expect(site(page).locator("h1")).toHaveText("Stones, gently");
  await page.getByRole("button", { name: "Unpin" }).first().click();
  await expect(site(page).locator("h1")).toHaveText("Moving a stone");
});

test("visitors get what was decided, and never load what lenses need", async ({ browser }) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const asked: string[] = [];
  page.on("request", (request) => asked.push(request.url()));
  await page.goto(`${blog}/stones?utm_source=letter`);
  await expect(page.locator(bar)).toHaveText("Good to see a reader of the letter");
  await expect(page.locator("h1")).toHaveText("Moving a stone");
  // The mark of lenses means nothing outside the workbench's frame.
  await page.goto(`${blog}/about#mirada-look`);
  await expect(page.locator("[data-mirada-filled]").first()).toBeVisible();
  expect(asked.filter((url) => url.includes("look.js"))).toEqual([]);
  await context.close();
  const phone = await browser.newContext({
    storageState: { cookies: [], origins: [] },
    userAgent:
      "Mozilla/5.0 (Linux; Android 14; Pixel 8) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0.0.0 Mobile Safari/537.36",
  });
  const small = await phone.newPage();
  await small.goto(`${blog}/stones`);
  await expect(small.locator("h1")).toHaveText("Stones, gently");
  await phone.close();
});

test("contact sheet and shared lens show it, too", async ({ page, browser }) => {
  await page.goto(at("/sheet"));
  const cell = page.frameLocator(".sitecell iframe").first();
  await expect(cell.locator("h1").first()).toBeVisible({ timeout: 20_000 });
  await page.goto(at("/lenses"));
  // A press before the page’s scripts are there is none.
  const make = page.getByRole("button", { name: "Create link" });
  await expect(async () => {
    await page.getByRole("button", { name: "Share A first-time visitor" }).click();
    await expect(make).toBeVisible({ timeout: 3000 });
  }).toPass({ timeout: 60_000 });
  await make.click();
  const link = (await page.getByRole("link", { name: "Open it" }).getAttribute("href")) as string;
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const guest = await context.newPage();
  await guest.goto(`http://localhost:${port}${new URL(link).pathname}`);
  const inside = guest.frameLocator("iframe");
  await expect(inside.locator("h1")).toHaveText("Moving a stone");
  await inside.getByRole("link", { name: "About" }).click();
  await expect(inside.locator("h1")).toHaveText("About Stone & Moss");
  await context.close();
});

test("a page that forges messages, or never answers, leaves the workbench whole and is said to", async ({ page }) => {
  // The page of another kind stands where the site's would: it sends nonsense, and tries to leave its frame.
  await page.route(`${blog}/stones*`, (route) =>
    route.fulfill({
      contentType: "text/html",
      body: `<h1>Not what you think</h1><script>
        for (const data of [1, null, {}, { mirada: "ready" }, { mirada: "slot", id: { a: 1 } }, { mirada: "go", href: 7 },
          { mirada: "form", action: "//evil.example", fields: 1 }, { mirada: "launch" }]) parent.postMessage(data, "*");
        try { top.location = "http://evil.example/"; } catch {}
      </script>`,
    }),
  );
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  await page.goto(at("/pages"));
  await expect(site(page).locator("h1")).toHaveText("Not what you think");
  await expect(page.getByText("The page has not answered.")).toBeVisible({ timeout: 15_000 });
  await page.getByRole("link", { name: "How to connect it" }).click();
  await expect(page.getByRole("heading", { name: "Connect", exact: true })).toBeVisible();
  expect(errors).toEqual([]);
});
