import { expect } from "@playwright/test";
import { openScreen, openWorkbench, row } from "../support";
import { tell, test } from "./task";

test("everything that was tried is taken back at once: the draft like what is live, and back again", async ({
  page,
  clicks,
}) => {
  await openWorkbench(page);
  const pill = page.locator(".topline span.pill.draft");
  await page.getByRole("tab", { name: /Home hero/ }).click();
  await row(page, "Repotting clinic").getByRole("button", { name: "Switch Repotting clinic off" }).click();
  await row(page, "Shade ferns").hover();
  await row(page, "Shade ferns").getByRole("button", { name: "Delete Shade ferns" }).click();
  await expect(pill).toContainText(/\d changes/);
  const before = clicks();
  await openScreen(page, "Live", "Releases");
  await page.getByRole("button", { name: "Make the draft like what is live" }).click();
  await expect(page.getByText("The draft is like what is live now")).toBeVisible();
  await expect(pill).toHaveText("Draft · no changes");
  tell("undo everything", clicks() - before, 9);
  await page.getByRole("button", { name: "Undo", exact: true }).last().click();
  await expect(pill).toContainText(/\d changes/);
});
