import { expect } from "@playwright/test";
import { openScreen, openWorkbench, typeDate } from "../support";
import { dayIn } from "./days";
import { addCondition, fillIn, lastBar, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const words = "Still thinking of succulents?";

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
  await page.getByLabel("Lasts (days)").fill("1");
  await typeDate(page, "Set only from", `${dayIn(-1)}T00:00`);
  await typeDate(page, "Set only until", `${dayIn(20)}T00:00`);
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
  await typeDate(page, "Set only from", `${dayIn(10)}T00:00`);
  await page.keyboard.press("Tab");
  await putLive(page);
  await expect.poll(() => lastBar(browser, ["/succulents", "/contact"])).not.toBe(words);
});
