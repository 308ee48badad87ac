import { expect } from "@playwright/test";
import { openWorkbench, test } from "./support";

test("the whole of a rule is built with the keyboard alone", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: "Add a variant" }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter"); // Blank
  await page.getByRole("button", { name: "Add a condition" }).focus();
  await page.keyboard.press("Enter");
  // The new condition has the focus.
  await page.keyboard.type("campaign medium");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.getByLabel("Value", { exact: true }).focus();
  await page.keyboard.type("email");
  await page.keyboard.press("Tab");
  await expect(page.locator(".editor .rule")).toHaveText("when the campaign medium is “email”");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Done" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-variant=new-variant]")).toBeVisible();
  for (let count = 0; count < 12 && (await page.locator("[data-variant=new-variant]").count()) > 0; count++) {
    await page.keyboard.press("Control+z");
    await page.waitForTimeout(200);
  }
  await expect(page.locator("[data-variant=new-variant]")).toHaveCount(0);
});
