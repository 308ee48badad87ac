import { expect } from "@playwright/test";
import { openScreen, openWorkbench, row } from "../support";
import { tell, test } from "./task";

test("five things are kept as checks, a change breaks one, and what broke it is said", async ({ page, clicks }) => {
  await openWorkbench(page);
  // What stands on the page for this visitor is kept where it is listed.
  for (const slot of [/Home hero/, /Site bar/, /Header/, /Offer strip/, /Footer help/]) {
    await page.getByRole("tab", { name: slot }).click();
    const shown = page.locator("[data-variant].win").first();
    await shown.hover();
    await shown.getByRole("button", { name: /^Save as check that/ }).click();
    await expect(page.getByText(/^Saved as a check/).last()).toBeVisible();
  }
  await page.getByRole("tab", { name: /Home hero/ }).click();
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Switch Repotting clinic off" }).click();
  const took = clicks();
  await openScreen(page, "Proof", "Checks");
  const mine = page.locator("tr[data-row^=check-]");
  await expect(mine).toHaveCount(5);
  await expect(mine.filter({ hasText: "✗ Draft" })).toHaveCount(1);
  await expect(mine.filter({ hasText: "✗ Draft" })).toContainText("Repotting clinic is switched off");
  tell("five checks, one breaks", took, 12);
});
