import { expect, type Browser } from "@playwright/test";
import { openScreen, openWorkbench, shopPort } from "../support";
import { dayIn } from "./days";
import { addCondition, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const shop = `http://brackenfold.localhost:${shopPort}`;
const words = "Still thinking of succulents?";

/** What the site bar of a visitor who agreed says on the last of some pages. */
async function lastBar(browser: Browser, paths: string[]): Promise<string> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  await context.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
  const visitor = await context.newPage();
  for (const path of paths) await visitor.goto(`${shop}${path}`);
  const says = await visitor.locator("[data-mirada-slot=site-bar]").innerText();
  await context.close();
  return says;
}

test("a marker by category, for one day, gained between two dates", async ({ page, clicks, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Markers");
  await page.locator(".listhead").getByRole("button", { name: "New marker" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Looked at succulents");
  const box = page.getByRole("combobox", { name: "What it depends on" });
  await box.fill("page.category");
  await expect(page.getByRole("option").first()).toBeVisible();
  await page.keyboard.press("Enter");
  await value(page, "succulents");
  await page.getByLabel("Held for how many days").fill("1");
  await page.getByLabel("Gained only from").fill(`${dayIn(-1)}T00:00`);
  await page.getByLabel("Gained only until").fill(`${dayIn(20)}T00:00`);
  await page.keyboard.press("Tab");
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  await makeVariant(page, /Site bar/, "Succulents again");
  await fillIn(page, { Text: words });
  await addCondition(page, "Looked at succulents");
  await switchOn(page);
  await putLive(page);
  tell("marker by category, one day, between two dates", clicks(), 37);
  await expect.poll(() => lastBar(browser, ["/succulents", "/contact"])).toBe(words);
  expect(await lastBar(browser, ["/tools", "/contact"])).not.toBe(words);

  // Between two dates that are still to come, nobody gains it.
  await openScreen(page, "Visitors", "Markers");
  await page.locator(".listrow", { hasText: "Looked at succulents" }).locator(".name").click();
  await page.getByLabel("Gained only from").fill(`${dayIn(10)}T00:00`);
  await page.keyboard.press("Tab");
  await putLive(page);
  await expect.poll(() => lastBar(browser, ["/succulents", "/contact"])).not.toBe(words);
});

test("a marker is gained, and lost at once", async ({ page, clicks, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Markers");
  await page.locator(".listhead").getByRole("button", { name: "New marker" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Wants tools");
  const box = page.getByRole("combobox", { name: "What it depends on" });
  await box.fill("page.path");
  await expect(page.getByRole("option").first()).toBeVisible();
  await page.keyboard.press("Enter");
  await value(page, "/tools");
  await page.getByRole("button", { name: "Add a condition" }).last().click();
  await box.last().fill("page.path");
  await expect(page.getByRole("option").first()).toBeVisible();
  await page.keyboard.press("Enter");
  await page.getByLabel("Value", { exact: true }).last().fill("/contact");
  await page.keyboard.press("Tab");
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  await makeVariant(page, /Site bar/, "For those who want tools");
  await fillIn(page, { Text: "A tool for every root" });
  await addCondition(page, "Wants tools");
  await switchOn(page);
  await putLive(page);
  tell("trait gained and lost", clicks(), 31);
  await expect.poll(() => lastBar(browser, ["/tools", "/ferns"])).toBe("A tool for every root");
  expect(await lastBar(browser, ["/tools", "/contact", "/ferns"])).not.toBe("A tool for every root");
});
