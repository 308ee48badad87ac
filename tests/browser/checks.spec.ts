import { expect } from "@playwright/test";
import { openScreen, openWorkbench, row, test } from "./support";

test("a check is kept in one click, fails when the draft breaks it, opens just there, and the live site is asked itself", async ({
  page,
}) => {
  await openWorkbench(page);
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Keep as a check that this visitor sees Repotting clinic" }).click();
  await expect(page.getByText("Checks 1 of 1")).toBeVisible();
  // The draft breaks it: the pill tells, and the check says what came instead.
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Switch Repotting clinic off" }).click();
  await expect(page.getByText("Checks 0 of 1")).toBeVisible();
  await page.getByText("Checks 0 of 1").click();
  const check = page.locator("[data-check]").first();
  await expect(check).toContainText("Home hero shows “Repotting clinic”");
  await expect(check).toContainText("Draft: shows the fallback");
  await expect(check).toContainText("✓ Live");
  // A real request to the running site, compared with what the engine says.
  await page.getByRole("button", { name: "Ask the live site" }).click();
  await expect(check).toContainText("✓ Site");
  await check.getByRole("button", { name: "Look through it" }).click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByText("Checks 1 of 1")).toBeVisible();
  // One for every variant and fallback that someone can see.
  await openScreen(page, "Proof", "Checks");
  await page.getByRole("button", { name: "One for every variant" }).click();
  await expect.poll(() => page.locator("[data-check]").count()).toBeGreaterThan(15);
  await expect(page.getByRole("status").filter({ hasText: "pass on the draft" })).toHaveText(/^(\d+) of \1 pass/);
  await page.getByRole("button", { name: "Ask the live site" }).click();
  await expect(page.locator("[data-check]").last()).toContainText("✓ Site", { timeout: 40_000 });
  await expect(page.getByText("✗ Site")).toHaveCount(0);
  while ((await page.locator("[data-check]").count()) > 0) {
    const before = await page.locator("[data-check]").count();
    await page
      .getByRole("button", { name: /^Delete the check/ })
      .first()
      .click();
    await expect(page.locator("[data-check]")).toHaveCount(before - 1);
  }
});
