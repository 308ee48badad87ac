/** Steps that many tasks have in common, as a person takes them on the main screen. */
import { expect, type Browser, type Page } from "@playwright/test";
import { shopPort, visitShop } from "../support";

const shop = `http://brackenfold.localhost:${shopPort}`;

/** Addresses of the demo's made-up places. */
export const from = {
  lisbon: { "x-forwarded-for": "203.0.113.24" },
  porto: { "x-forwarded-for": "192.0.2.70" },
  madrid: { "x-forwarded-for": "192.0.2.140" },
  paris: { "x-forwarded-for": "192.0.2.200" },
  berlin: { "x-forwarded-for": "198.51.100.4" },
  oslo: { "x-forwarded-for": "198.51.100.70" },
} as const;

/** Makes a variant in a slot of the page, and opens it. */
export async function makeVariant(
  page: Page,
  slot: RegExp,
  name: string,
  how = "A copy of the fallback",
): Promise<void> {
  await page.getByRole("tab", { name: slot }).click();
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: how, exact: true }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
}

/** Adds a condition to the rule that is open, and says what it depends on. */
export async function addCondition(page: Page, signal: string): Promise<void> {
  await page
    .getByRole("button", { name: /^(Add a condition|Condition)$/ })
    .first()
    .click();
  const box = page.getByRole("combobox", { name: "What it depends on" });
  await box.fill(signal);
  // The first that fits is chosen by keyboard.
  await expect(page.getByRole("option").first()).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("combobox", { name: "How it is compared" })).toBeVisible();
}
export async function compare(page: Page, how: string): Promise<void> {
  await page.getByRole("combobox", { name: "How it is compared" }).click();
  await page.getByRole("option", { name: how, exact: true }).click();
}
/** Gives the condition at hand its value. */
export async function value(page: Page, text: string): Promise<void> {
  const box = page.getByLabel(/^(Value|Number)$/);
  await box.fill(text);
  await page.keyboard.press("Tab");
}
/** Chooses one of a closed list as the value of the condition at hand. */
export async function chooseValue(page: Page, name: string): Promise<void> {
  await page.getByRole("combobox", { name: "Value" }).click();
  await page.getByRole("option", { name, exact: true }).click();
}

export async function fillIn(page: Page, fields: Record<string, string>): Promise<void> {
  for (const [label, text] of Object.entries(fields)) {
    await page.getByRole("textbox", { name: label, exact: true }).fill(text);
    await page.keyboard.press("Tab");
  }
}

/** Switches the open variant on, closes it, and waits until it is kept. */
export async function switchOn(page: Page): Promise<void> {
  await page.getByRole("switch").first().check();
  await done(page);
}
export async function done(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();
}
/** Opens a variant of the slot at hand. */
export const openVariant = (page: Page, name: string): Promise<void> =>
  page.getByRole("button", { name, exact: true }).click();

/** What a plain visitor's page has of some words, once the release has reached the shop. */
export const expectShop = (path: string, headers: Record<string, string>, words: string, there = true): Promise<void> =>
  expect
    .poll(async () => (await visitShop(path, headers)).includes(words), {
      message: `${there ? "" : "not "}“${words}” on ${path} with ${JSON.stringify(headers)}`,
    })
    .toBe(there);

/** What the site bar of a visitor who agreed says on the last of some pages. */
export async function lastBar(browser: Browser, paths: string[]): Promise<string> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  await context.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
  const visitor = await context.newPage();
  for (const path of paths) await visitor.goto(`${shop}${path}`);
  const says = await visitor.locator("[data-mirada-slot=site-bar]").innerText();
  await context.close();
  return says;
}
