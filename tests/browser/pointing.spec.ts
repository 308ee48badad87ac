/**
 * The whole outcome on sites that know nothing of the product: a part is pointed at, what stands there is copied and changed, it is
 * said who sees it, and it goes live. On static pages with the tag by mouse; on pages that are drawn in the browser, refuse frames
 * and carry no tag yet by keyboard alone, through the mirror.
 */
import { expect, type Page } from "@playwright/test";
import { goLive, hearHappened, makeKey, makeSite, openScreen, port, removeSite, site, spot, test } from "./support";

const blog = `http://stone-and-moss.localhost:${port + 20}`;
const hotel = `http://lantern-quay.localhost:${port + 20}`;

const aimed = (page: Page) => page.locator(".aimed");
const aVisitor = { storageState: { cookies: [], origins: [] } };

test("by mouse on static pages with the tag: pointed at, changed, shown to some, live", async ({ page, browser }) => {
  await page.goto("/s/stone-and-moss/pages");
  await expect(site(page).locator("[data-mirada-mark]").first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "Add a slot" }).click();
  const line = "main > p";
  await page.mouse.move(...(await spot(page, line)));
  await expect(aimed(page)).toContainText("Text “Lift one side, wait, and look.");
  await page.mouse.click(...(await spot(page, line)));
  await expect(page.getByText("Found once on 2 pages")).toBeVisible();
  // Wider by the line of what it lies in; the place of a slot is not taken twice.
  await page.getByRole("group", { name: "What it lies in" }).getByRole("button").first().click();
  await expect(aimed(page)).toContainText("Main part with “Moving a stone”");
  await page.getByRole("button", { name: "Point at another part" }).click();
  await page.mouse.click(...(await spot(page, "h1")));
  await expect(page.getByText("This is the place of the slot “The heading of stones” already.")).toBeVisible();
  await page.getByRole("button", { name: "Point at another part" }).click();
  await page.mouse.click(...(await spot(page, line)));
  await page.getByLabel("Name of the slot").fill("The line below the heading");
  await page.getByRole("combobox", { name: "On which pages" }).click();
  await page.getByRole("option", { name: "Only /stones" }).click();
  await page.getByRole("button", { name: "Copy what stands there" }).click();

  // What stands there is filled in; what is typed is on the page.
  const words = page.getByRole("textbox", { name: "Words" });
  await expect(words).toContainText("Lift one side, wait, and look.");
  await words.fill("Two hands, and nobody below.");
  await expect(site(page).locator(line)).toHaveText("Two hands, and nobody below.");
  await page.getByRole("button", { name: "Add a condition" }).click();
  await page.getByRole("combobox", { name: "What it depends on" }).fill("utm_source");
  await page.getByRole("option", { name: "Campaign source", exact: true }).click();
  await page.getByLabel("Value", { exact: true }).fill("walkers");
  await page.keyboard.press("Tab");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Publish" }).click();
  await goLive(page);

  const context = await browser.newContext(aVisitor);
  const visitor = await context.newPage();
  // On a slow machine an answer may come too late for a reader: then the page's own content stands.
  await expect(async () => {
    await visitor.goto(`${blog}/stones?utm_source=walkers`);
    await expect(visitor.locator(line)).toHaveText("Two hands, and nobody below.", { timeout: 2000 });
  }).toPass();
  await visitor.goto(`${blog}/stones`);
  await expect(visitor.locator("[data-mirada-filled]").first()).toBeAttached();
  await expect(visitor.locator(line)).toContainText("Lift one side");
  // The page has changed under the version: its own content stands.
  await visitor.addInitScript(() =>
    document.addEventListener("DOMContentLoaded", () => {
      document.querySelector("main > p")!.textContent = "Lift two sides";
    }),
  );
  // The page tells so once; the workbench says since when, and how many got the original.
  let tells = 0;
  visitor.on("request", (request) => request.url().endsWith("/v1/drift") && (tells += 1));
  await expect(async () => {
    await visitor.goto(`${blog}/stones?utm_source=walkers`);
    await expect(visitor.locator(line)).toContainText("Lift two sides");
    await expect.poll(() => tells, { timeout: 6000 }).toBe(1);
  }).toPass();
  await visitor.reload();
  await expect(visitor.locator("[data-mirada-filled]").first()).toBeAttached();
  await context.close();
  await openScreen(page, "Proof", "Findings");
  const told = page.getByRole("region", { name: "The site’s pages" });
  await expect(told).toContainText("“A changed copy” in “The line below the heading” on /stones");
  await expect(told).toContainText("1 visitor got the page’s own content instead");
  await told.getByRole("button", { name: "Look now" }).click();
  await expect(told).toContainText("looked at");
  await told.getByRole("button", { name: "Mended" }).click();
  await expect(told).toContainText("Every slot that was pointed at, and every changed copy, fits the pages");
});

test("a place that the page marks is found by itself, and made a slot; a part is hidden", async ({ page }) => {
  await page.goto("/s/stone-and-moss/pages");
  await expect(page.getByText("1 place on this page has no slot yet:")).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "Make Footer help" }).click();
  await expect(page.getByRole("heading", { name: "Footer help" })).toBeVisible();
  await expect(page.getByText("has no slot yet")).toBeHidden();
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: "A copy of what stands there" }).click();
  const part = page.getByRole("region", { name: /A corner in the shade/ });
  await part.getByRole("button", { name: "Hide" }).click();
  const strong = site(page).locator("[data-mirada-slot=footer-help] strong");
  await expect(strong).toBeHidden();
  await part.getByRole("button", { name: "Show it again" }).click();
  await expect(strong).toBeVisible();
  await page.getByRole("combobox", { name: "Kind of block" }).click();
  await page.getByRole("option", { name: "Nothing" }).click();
  await expect(site(page).locator("[data-mirada-slot=footer-help]")).toBeHidden();
  for (let step = 0; step < 5; step++) await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("1 place on this page has no slot yet:")).toBeVisible();
});

test.afterAll(({ request }) => removeSite(request, "lantern-quay", "Lantern Quay"));

test("by keyboard alone in the mirror: drawn in the browser, refusing frames, without a tag", async ({
  page,
  browser,
}) => {
  await makeSite(page.request, "lantern-quay", "Lantern Quay", hotel);
  await page.goto("/s/lantern-quay/pages");
  await expect(page.getByText("since the page does not carry the tag yet")).toBeVisible({ timeout: 20_000 });
  await expect(site(page).locator("h1")).toHaveText("Rooms with a view of the water");
  await page.getByRole("button", { name: "Add a slot" }).first().focus();
  await page.keyboard.press("Enter");
  await expect(aimed(page)).toContainText("Heading “Rooms with a view of the water”");
  // In the page itself: to the line below, past the button, up to what holds all of it, and down again.
  await site(page).locator("body").press("ArrowRight");
  await expect(aimed(page)).toContainText("Text “Seven rooms");
  await page.keyboard.press("ArrowUp");
  await expect(aimed(page)).toContainText("Section with “Rooms with a view of the water”");
  await page.keyboard.press("Enter");
  await expect(page.getByText("This page is drawn in the browser")).toBeVisible();
  await page.getByRole("button", { name: "Copy what stands there" }).press("Enter");

  const heading = page.getByRole("region", { name: "Heading “Rooms with a view of the water”" });
  await heading.getByRole("textbox", { name: "Words" }).focus();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("Rooms by the water");
  await expect(site(page).locator("h1")).toHaveText("Rooms by the water");
  const button = page.getByRole("region", { name: "Button “Book a room”" });
  await button.getByRole("textbox", { name: "Leads to" }).focus();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("/contact");
  await expect(site(page).locator(".hero a.cta")).toHaveAttribute("href", "/contact");
  const on = page.getByRole("switch").first();
  await on.focus();
  await page.keyboard.press("Space");
  await page.getByRole("button", { name: "Done" }).press("Enter");
  await expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();
  // Links of the page lead on within the mirror; another page has its own words.
  await page.mouse.click(...(await spot(page, "a[href='/boats']")));
  await expect(site(page).locator("h1")).toHaveText("Out before breakfast");
  await expect(page.locator(".sentence [data-part=page]")).toContainText("/boats");
  // A slot of no pages in particular is missing nowhere: /rooms has no such part, and nothing is said.
  await page.mouse.click(...(await spot(page, "a[href='/rooms']")));
  await expect(site(page).locator("h1")).toHaveText("Rooms");
  await page.waitForTimeout(1500);
  await expect(page.getByText("its place was not found")).toHaveCount(0);
  await page.getByRole("button", { name: "Publish" }).press("Enter");
  await expect(page.getByText("Nothing was heard from the tag on this site’s pages yet")).toBeVisible();
  await goLive(page);

  // Everything else shows it, too: the contact sheet, and a shared lens, whose links lead on.
  await page.goto("/s/lantern-quay/sheet");
  await expect(page.frameLocator(".sitecell iframe").first().locator("h1")).toHaveText("Rooms by the water", {
    timeout: 20_000,
  });
  await page.goto("/s/lantern-quay/lenses");
  await page.getByRole("button", { name: "Share A first-time visitor" }).click();
  await page.getByRole("button", { name: "Create link" }).click();
  const link = (await page.getByRole("link", { name: "Open it" }).getAttribute("href")) as string;
  const away = await browser.newContext(aVisitor);
  const guest = await away.newPage();
  await guest.goto(`http://localhost:${port}${new URL(link).pathname}`);
  const inside = guest.frameLocator("iframe");
  await expect(inside.locator("h1")).toHaveText("Rooms by the water");
  await inside.getByRole("link", { name: "Boats" }).click();
  await expect(inside.locator("h1")).toHaveText("Out before breakfast");
  await away.close();

  // The tag comes into its pages: visitors get it, also where the page becomes another without loading.
  const key = await makeKey(page.request, "lantern-quay");
  const context = await browser.newContext({ ...aVisitor, bypassCSP: true });
  const visitor = await context.newPage();
  await visitor.addInitScript(
    ([src, key]) => {
      document.addEventListener("DOMContentLoaded", () => {
        const tag = document.createElement("script");
        Object.assign(tag, { src });
        Object.assign(tag.dataset, { key, wait: "3000" });
        document.head.append(tag);
      });
    },
    [`http://localhost:${port + 1}/v1/page.js`, key],
  );
  const views: { url: string; referrer?: string }[] = [];
  const happened = await hearHappened(visitor);
  visitor.on("request", (request) => {
    if (request.url().endsWith("/v1/page")) views.push(JSON.parse(request.postData() ?? "{}") as (typeof views)[0]);
  });
  await visitor.goto(`${hotel}/boats`);
  await expect(visitor.locator("h1")).toHaveText("Out before breakfast");
  await visitor.getByRole("link", { name: "Home" }).click();
  await expect(visitor.locator("h1")).toHaveText("Rooms by the water");
  await visitor.getByRole("link", { name: "Rooms", exact: true }).click();
  await expect(visitor.locator("h1")).toHaveText("Rooms");
  await visitor.goBack();
  await expect(visitor.locator("h1")).toHaveText("Rooms by the water");
  await expect(visitor.locator(".hero a.cta")).toHaveAttribute("href", "/contact");
  // Each change is one page view, with the page before as its referrer, and what was seen is told once for each.
  expect(views.map(({ url, referrer = "" }) => `${referrer.replace(hotel, "")} > ${url.replace(hotel, "")}`)).toEqual([
    " > /boats",
    "/boats > /",
    "/ > /rooms",
    "/rooms > /",
  ]);
  await expect
    .poll(() => happened.filter(({ kind, variant }) => `${kind} ${variant}` === "exposure a-changed-copy").length)
    .toBe(2);
  await context.close();
});
