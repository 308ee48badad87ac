import { expect } from "@playwright/test";
import { openScreen, openWorkbench, row, test } from "./support";

test("a check is kept in one click, fails when the draft breaks it, opens just there, and the live site is asked itself", async ({
  page,
}) => {
  await openWorkbench(page);
  // What the shop promises is checked from the first day on, a visitor of several steps among it.
  await expect(page.getByText("Checks 8 of 8")).toBeVisible();
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Save as check that this visitor sees Repotting clinic" }).click();
  await expect(page.getByText("Checks 9 of 9")).toBeVisible();
  // The draft breaks it, and a promise of the shop with it: the pill tells, and the check says what came instead.
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Switch Repotting clinic off" }).click();
  await expect(page.getByText("Checks 7 of 9")).toBeVisible();
  await page.getByText("Checks 7 of 9").click();
  const check = page.locator("[data-check]").last();
  await expect(check).toContainText("Home hero shows “Repotting clinic”");
  await expect(check).toContainText("Draft: shows the fallback");
  await expect(check).toContainText("✓ Live");
  // A real request to the running site, compared with what the engine says.
  await page.getByRole("button", { name: "Test live site" }).click();
  await expect(check).toContainText("✓ Site");
  await check.getByRole("button", { name: "View as this visitor" }).click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByText("Checks 9 of 9")).toBeVisible();
  // Create for every variant and fallback that someone can see.
  await openScreen(page, "Proof", "Checks");
  await page.getByRole("button", { name: "Create for every variant" }).click();
  await expect.poll(() => page.locator("[data-check]").count()).toBeGreaterThan(15);
  await expect(page.getByRole("status").filter({ hasText: "pass on the draft" })).toHaveText(/^(\d+) of \1 pass/);
  await page.getByRole("button", { name: "Test live site" }).click();
  await expect(page.locator("[data-check]").last()).toContainText("✓ Site", { timeout: 40_000 });
  await expect(page.getByText("✗ Site")).toHaveCount(0);
  await expect(page.locator("[data-check=fern-friend]")).toContainText("3 days later /ferns");
  await expect(page.locator("[data-check=fern-friend]")).toContainText("✓ Site");
  while ((await page.locator("[data-check]").count()) > 8) {
    const before = await page.locator("[data-check]").count();
    await page
      .getByRole("button", { name: /^Delete the check/ })
      .last()
      .click();
    await expect(page.locator("[data-check]")).toHaveCount(before - 1);
  }
});
