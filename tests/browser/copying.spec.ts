/** Slots and variants go to other slots, other sites, and come out of files. */
import { expect } from "@playwright/test";
import { site, test } from "./support";

test("a version is pasted into a slot of another site, a slot too, and slots are read from a table", async ({
  page,
}) => {
  await page.goto("/s/stone-and-moss/pages?slot=heading&variant=phones");
  await expect(site(page).locator("[data-mirada-mark]").first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "Copy for another slot or site" }).click();
  await expect(page.getByText("“Short, on phones” can be pasted")).toBeVisible();
  await page.goto("/s/brackenfold/pages");
  await expect(site(page).locator("[data-mirada-mark]").first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: "Paste “Short, on phones”" }).click();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Short, on phones");
  await expect(page.locator(".editor .rule")).toContainText("on a phone");
  await expect(page.getByRole("switch").first()).not.toBeChecked();
  await page.getByRole("button", { name: "Undo" }).click();

  await page.goto("/s/stone-and-moss/pages?slot=heading");
  await page.getByRole("button", { name: "The slot’s settings" }).click();
  await page.getByRole("button", { name: "Copy the slot for another site" }).click();
  await page.goto("/s/brackenfold/settings");
  const slots = page.locator("section", { has: page.getByRole("heading", { name: "Slots", exact: true }) });
  await slots.getByRole("button", { name: "Paste “The heading of stones”" }).click();
  await expect(slots.getByRole("link", { name: "The heading of stones" })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(slots.getByRole("link", { name: "The heading of stones" })).toBeHidden();

  const read = (text: string) =>
    page
      .getByLabel("File of slots")
      .setInputFiles({ name: "slots.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await read("name,selector,how\nNote,main >,\nOther,main,inside\n");
  await expect(slots.getByRole("alert")).toHaveCount(2);
  await expect(slots.getByRole("alert").first()).toContainText("line 2, column selector");
  await read("name,selector,how,path\nNote,main,first,/\nThe very end,footer,,\n");
  await expect(slots.getByRole("alert")).toHaveCount(0);
  await expect(slots.getByRole("link", { name: "The very end" })).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(slots.getByRole("link", { name: "The very end" })).toBeHidden();
});
