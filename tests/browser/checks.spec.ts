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
  const check = page.locator("tr[data-row]").last();
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
  const table = page.getByRole("table", { name: "Checks" });
  await expect.poll(async () => Number(await table.getAttribute("aria-rowcount"))).toBeGreaterThan(16);
  await expect(page.getByRole("status").filter({ hasText: "pass on the draft" })).toHaveText(/^(\d+) of \1 pass/);
  await page.getByRole("button", { name: "Test live site" }).click();
  await expect(page.getByText(/^Asking the site/)).toBeVisible();
  await expect(page.getByText(/^Asking the site/)).toBeHidden({ timeout: 60_000 });
  await expect(page.locator("tr[data-row=fern-friend]")).toContainText("3 days later /ferns");
  await expect(page.locator("tr[data-row=fern-friend]")).toContainText("✓ Site");
  await page.getByLabel("Search checks").fill("fails on the site");
  await expect(page.getByText("No checks are like that.")).toBeVisible();
  await page.getByLabel("Search checks").fill("");
  // All that were made are deleted at once.
  await page.getByLabel("Choose all checks shown").check();
  for (let kept = 0; kept < 8; kept++) await page.locator("tr[data-row] input[type=checkbox]").nth(kept).uncheck();
  const several = page.getByRole("toolbar", { name: "The checks that are chosen" });
  await several.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByText(/^\d+ checks are deleted/)).toBeVisible();
  await expect(table).toHaveAttribute("aria-rowcount", "9");
});
