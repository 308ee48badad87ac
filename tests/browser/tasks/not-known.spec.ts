import { expect } from "@playwright/test";
import { dependOn, openWorkbench, row, site, typeInto } from "../support";
import { test } from "./task";

test("a condition holds for whoever it is not known of, if that is said, and the sentence says so", async ({
  page,
}) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Home hero/ }).click();
  await row(page, "Repotting clinic").getByRole("button", { name: "Copy Repotting clinic" }).click();
  await page.getByLabel("Name", { exact: true }).fill("For those at home");
  await expect(page.getByText("The copy is switched off until you switch it on")).toBeVisible();
  await page.getByRole("button", { name: "Condition", exact: true }).first().click();
  await dependOn(page, "Location");
  await typeInto(page, "Places", ["Spain"]);
  await page.getByLabel("If unknown, it").click();
  await page.getByRole("option", { name: "matches", exact: true }).click();
  await expect(page.getByText("Of some addresses no country is known.")).toBeVisible();
  await expect(page.locator(".editor .rule").first()).toContainText("the visitor is in Spain (or it is not known)");
  await page.getByRole("button", { name: "Done" }).click();
  // Below the one that was copied.
  await expect(page.locator("[data-variant]").nth(1)).toContainText("For those at home");
});

test("a second page begins at the sentence, and links go on as a visitor does", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: /^Lens:/ }).click();
  await page.getByRole("menuitem", { name: "Porto, keeps returning to ferns" }).click();
  await page.locator(".sentence [data-part=next]").click();
  await page.getByRole("combobox", { name: "Then the page" }).fill("Succulents");
  await page.getByRole("option").first().click();
  await expect(page.locator(".sentence [data-part=arrival]")).toContainText("from another page of the site");
  // The history moves: each page counts.
  const visitor = page.locator(".sentence [data-part=visitor]");
  await expect(visitor).toContainText("on page 2 of the visit");
  await expect(site(page).getByRole("heading", { name: "Succulents" })).toBeVisible();
  await site(page).getByRole("link", { name: "Echeveria" }).first().click();
  await expect(visitor).toContainText("on page 3 of the visit");
  await expect(page.locator(".sentence [data-part=page]")).toContainText("Echeveria");
});
