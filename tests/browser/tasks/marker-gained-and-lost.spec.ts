import { expect } from "@playwright/test";
import { openScreen, openWorkbench } from "../support";
import { addCondition, fillIn, lastBar, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

test("a marker is gained, and lost at once", async ({ page, clicks, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Markers");
  await page.locator(".listhead").getByRole("button", { name: "New marker" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Wants tools");
  const box = page.getByRole("combobox", { name: "What it depends on" });
  // What a new marker begins with is the category: the path is chosen in its place, which is seen before a value is given.
  await box.fill("page.path");
  await page.getByRole("option", { name: "Path", exact: true }).click();
  await expect(box).toHaveValue("Path");
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
