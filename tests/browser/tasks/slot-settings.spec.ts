import { expect } from "@playwright/test";
import { dependOn, openWorkbench, site } from "../support";
import { test } from "./task";

test("on which pages a slot is can be said step by step: what is being edited stays open", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Home hero/ }).click();
  await page.getByRole("button", { name: "The slot’s settings" }).click();
  const settings = page.getByRole("region", { name: "The slot’s settings" });
  await settings.getByRole("button", { name: "Condition", exact: true }).click();
  // Unfinished it is on no page, and its settings are there all the same.
  await expect(page.getByText("The slot “Home hero” is not on this page")).toBeVisible();
  await dependOn(page, "Device");
  await page.getByRole("combobox", { name: "Value" }).click();
  await page.getByRole("option", { name: "phone", exact: true }).click();
  await expect(settings).toBeVisible();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await expect(site(page).locator('[data-mirada-slot="home-hero"]')).toHaveCount(0);
  // Going to another page leaves it open, too, until it is closed.
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/ferns");
  await page.keyboard.press("Enter");
  await expect(page.locator(".sentence [data-part=page]")).not.toContainText("the home page");
  await expect(settings).toBeVisible();
  await page.getByRole("button", { name: "Close the slot’s settings" }).click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toHaveCount(0);
});
