/**
 * What pages tell, on sites that know nothing of the product: pointed at and by open standards, looked at through a lens, and asked
 * for by rules when visitors come.
 */
import { expect, type Page } from "@playwright/test";
import { goLive, makeSite, port, removeSite, site, spot } from "./support";
import { test } from "./tasks/task";

const blog = `http://stone-and-moss.localhost:${port + 20}`;
const hotel = `http://lantern-quay.localhost:${port + 20}`;

test.use({ keeps: "stone-and-moss" });

async function pointAt(page: Page, selector: string): Promise<void> {
  await expect(page.locator(".aimed")).not.toHaveText("Nothing is pointed at yet.");
  await page.mouse.click(...(await spot(page, selector)));
}
const saved = (page: Page) => expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();

test("the cart’s value is pointed at and the category found by open standards; rules ask for both", async ({
  page,
  browser,
}) => {
  await page.goto("/s/stone-and-moss/settings");
  const section = page.getByRole("region", { name: "What pages tell" });
  await section.getByRole("button", { name: "Look for what the pages tell by open standards" }).click();
  const found = section.locator(".line").filter({ hasText: "article:section" });
  await expect(found).toContainText("Page category");
  await found.getByRole("button", { name: "Read it" }).click();
  await expect(section.locator(".line").first()).toContainText("stones on /stones");
  await saved(page);
  // The page list has it at once.
  await expect(
    page
      .getByRole("region", { name: "Pages", exact: true })
      .getByRole("row", { name: /Moving a stone · Stone & Moss/ }),
  ).toContainText("stones");
  // By hand: what is wrong is said where it was typed.
  await section.getByText("Say by hand where a value stands").click();
  await section.getByLabel("Name of the list").fill("site data");
  await section.getByLabel("Key in it").fill("cart.value");
  await section.getByRole("button", { name: "Read it", exact: true }).last().click();
  await expect(section).toContainText("must be the name of a list such as siteData");

  await section.getByRole("link", { name: "Point at a value on the page" }).click();
  await expect(page.getByRole("heading", { name: "A value on the page" })).toBeVisible({ timeout: 20_000 });
  await pointAt(page, ".prints b");
  await expect(page.getByRole("status", { name: "How it is read" })).toHaveText("It says “€24.00”, read as €24.00");
  await expect(page.getByText("€24.00 on /stones")).toBeVisible();
  await page.getByRole("button", { name: "Read it from the page" }).click();
  const line = page.getByRole("status", { name: "From the page" });
  await expect(line).toContainText("Page category stones · Cart value €24.00");
  await line.getByRole("button", { name: "Use for this visitor" }).click();
  await expect(page.locator(".sentence")).toContainText("€24.00 in the cart");

  // A version for carts above twenty in that category, with what the page tells in it.
  await page.getByRole("tab", { name: "1 The line on top" }).click();
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page
    .getByRole("menuitem", { name: /^(Empty|A blank|Blank|New)/ })
    .first()
    .click();
  const variantUrl = new URL(page.url());
  const variant = variantUrl.searchParams.get("variant")!;
  expect(variant).not.toBe("");
  const condition = async (signal: string, how: string, value: string) => {
    await page
      .getByRole("button", { name: /^(Add a condition|And another condition|Condition)$/ })
      .first()
      .click();
    await page.getByRole("combobox", { name: "What it depends on" }).fill(signal);
    await page.getByRole("option").first().click();
    await page.getByRole("combobox", { name: "How it is compared" }).click();
    await page.getByRole("option", { name: how, exact: true }).click();
    await page.getByLabel(/^(Value|Number)$/).fill(value);
    await page.keyboard.press("Tab");
  };
  await condition("cart.subtotal", "is at least", "20");
  await condition("page.category", "is", "stones");
  await page.getByLabel("Text", { exact: true }).fill("Two prints go further together");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await expect(site(page).locator("[data-mirada-slot=site-bar]")).toContainText("Two prints go further together");
  await saved(page);
  await page.getByRole("button", { name: "Publish" }).click();
  await goLive(page);

  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const visitor = await context.newPage();
  const asked: { page?: object; cart?: object }[] = [];
  visitor.on("request", (request) => {
    if (request.url().endsWith("/v1/page")) asked.push(JSON.parse(request.postData() ?? "{}") as (typeof asked)[0]);
  });
  await expect(async () => {
    await visitor.goto(`${blog}/stones`);
    await expect(visitor.locator("[data-mirada-slot=site-bar]")).toHaveText("Two prints go further together", {
      timeout: 4000,
    });
  }).toPass();
  // What the page tells outright stands beside what was read from it.
  expect(asked.at(-1)).toMatchObject({
    page: { id: "moving-a-stone", category: "stones" },
    cart: { lines: [{ quantity: 1, unitPrice: 2400 }] },
  });
  await visitor.goto(`${blog}/about`);
  await expect(visitor.locator("[data-mirada-filled]").first()).toBeAttached();
  await expect(visitor.locator("[data-mirada-slot=site-bar]")).toHaveText("Written on a walk, read by the fire.");
  await context.close();
});

test.afterAll(({ request }) => removeSite(request, "lantern-stay", "Lantern Stay"));

test("drawn in the browser, in the mirror: read where it stands once it is drawn, page by page", async ({ page }) => {
  await makeSite(page.request, "lantern-stay", "Lantern Stay", hotel);
  await page.goto("/s/lantern-stay/pages?page=%2Frooms%2Fattic&point=value");
  await expect(page.getByRole("heading", { name: "A value on the page" })).toBeVisible({ timeout: 20_000 });
  await expect(site(page).locator(".stay b")).toHaveText("192,00 €", { timeout: 20_000 });
  await pointAt(page, ".stay b");
  // How numbers are written is guessed by what stands there.
  await expect(page.getByRole("combobox", { name: "Numbers are written" })).toContainText("1.234,50");
  await expect(page.getByRole("status", { name: "How it is read" })).toContainText("read as €192.00");
  await page.getByRole("button", { name: "Read it from the page" }).click();
  const line = page.getByRole("status", { name: "From the page" });
  await expect(line).toContainText("Cart value €192.00");
  // On another page nothing of it stands: nothing is told.
  await page.goto("/s/lantern-stay/pages?page=%2Fboats");
  await expect(site(page).locator("h1")).toHaveText("Out before breakfast", { timeout: 20_000 });
  await expect(line).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
});
