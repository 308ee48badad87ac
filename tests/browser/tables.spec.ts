/** Tables of many rows: slots, variants and links, searched, filtered and sorted, several at a time, by mouse and by keyboard. */
import { expect, type Page } from "@playwright/test";
import { at, openWorkbench, test } from "./support";

const rowOf = (page: Page, id: string) => page.locator(`tr[data-row="${id}"]`);
const named = (page: Page, name: string) => page.locator("tr[data-row]").filter({ hasText: name });
const cells = (page: Page, column: number) => page.locator(`tr[data-row] > td:nth-child(${column})`);
async function takeBack(page: Page): Promise<void> {
  await page.locator(".topline").getByRole("button", { name: "Undo" }).click();
}

test("slots of all pages are found, and lead to a page that has them", async ({ page }) => {
  await openWorkbench(page);
  await page.goto(at("/slots"));
  await expect(rowOf(page, "category-note")).toContainText("and 19 more");
  await expect(rowOf(page, "home-hero")).toContainText("5, all on");
  await expect(rowOf(page, "home-hero")).toContainText("As live");
  await page.getByLabel("Search slots").fill("note cat");
  await expect(page.locator("tr[data-row]")).toHaveCount(1);
  // The address keeps it.
  await expect(page).toHaveURL(/find=note/);
  await page.reload();
  await expect(page.getByLabel("Search slots")).toHaveValue("note cat");
  await expect(page.locator("tr[data-row]")).toHaveCount(1);
  await page.getByRole("button", { name: "/ferns", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Category note" })).toBeVisible();
  await expect(page.locator(".sentence [data-part=page]")).toContainText(/Ferns/i);
});

test("variants are sorted and filtered, and several are switched, moved, copied and deleted, each as one step", async ({
  page,
}) => {
  await openWorkbench(page);
  await page.goto(at("/slots?show=variants"));
  // By keyboard: the head of a column sorts.
  await page.getByRole("button", { name: "Variant", exact: true }).press("Enter");
  await expect(page.locator("th[aria-sort=ascending]")).toHaveText("Variant");
  const names = await cells(page, 2).locator("b").allTextContents();
  expect(names).toEqual([...names].sort(new Intl.Collator("en", { numeric: true }).compare));
  await page.getByLabel("Slot", { exact: true }).click();
  await page.getByRole("option", { name: /^Home hero/ }).click();
  await expect(page.locator("tr[data-row]")).toHaveCount(5);
  await expect(page).toHaveURL(/only-slot=Home\+hero/);

  await page.getByLabel("Choose Shade ferns of Home hero").check();
  await page.getByLabel("Choose Frost warning of Home hero").check();
  const several = page.getByRole("toolbar", { name: "The variants that are chosen" });
  await expect(several).toContainText("2 chosen");
  await several.getByRole("button", { name: "Switch off" }).click();
  await expect(page.getByText("2 variants switched off.")).toBeVisible();
  await expect(named(page, "Shade ferns")).toContainText("Off");
  await expect(named(page, "Frost warning")).toContainText("Changed");
  await takeBack(page);
  await expect(named(page, "Shade ferns")).toContainText("On");
  await expect(named(page, "Frost warning")).toContainText("As live");

  // To another slot, by keyboard, and back in one step.
  await several.getByRole("button", { name: "Move to …" }).press("Enter");
  await page.getByRole("combobox", { name: "To which slot" }).fill("footer");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText("2 variants moved to Footer help.")).toBeVisible();
  await expect(page.locator("tr[data-row]")).toHaveCount(3);
  await takeBack(page);
  await expect(page.locator("tr[data-row]")).toHaveCount(5);

  // Copies for another place are pasted from here.
  await page.getByLabel("Choose Shade ferns of Home hero").check();
  await several.getByRole("button", { name: "Copy for another site" }).click();
  await page.getByRole("button", { name: "Paste 1 variant …" }).click();
  await page.getByRole("combobox", { name: "To which slot" }).fill("hero");
  await page.getByRole("option", { name: "Home hero" }).click();
  await expect(page.getByText(/1 variant pasted into Home hero/)).toBeVisible();
  await expect(page.locator("tr[data-row]")).toHaveCount(6);
  await takeBack(page);

  await page.getByLabel("Choose all variants shown").check();
  await expect(several).toContainText("5 chosen");
  await several.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByText("No variants are like that.")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).last().click();
  await expect(page.locator("tr[data-row]")).toHaveCount(5);
  // A column is left out, and comes back.
  await page.getByRole("button", { name: "Columns" }).click();
  await page.getByRole("menuitemcheckbox", { name: "Findings" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("columnheader", { name: "Findings" })).toHaveCount(0);
});

test("links are compared in a table; what is deleted is brought back", async ({ page }) => {
  await openWorkbench(page);
  await page.goto(at("/links"));
  await page.getByRole("button", { name: "Table" }).click();
  await expect(page.locator("tr[data-row]").first()).toBeVisible();
  const count = await page.locator("tr[data-row]").count();
  await page.getByLabel("Choose all links shown").check();
  const several = page.getByRole("toolbar", { name: "The links that are chosen" });
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    several.getByRole("button", { name: "Export CSV" }).click(),
  ]);
  expect(file.suggestedFilename()).toBe("links.csv");
  await several.getByRole("button", { name: "Choose none" }).click();
  await page.locator("tr[data-row] input[type=checkbox]").first().check();
  await page.locator("tr[data-row] input[type=checkbox]").nth(1).check();
  await several.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByText("2 links are deleted")).toBeVisible();
  await expect(page.locator("tr[data-row]")).toHaveCount(count - 2);
  await page.getByRole("button", { name: "Bring back" }).click();
  await expect(page.locator("tr[data-row]")).toHaveCount(count);
});

test("the slot’s part is as wide as one likes, by mouse and by keyboard, and stays so", async ({ page }) => {
  await openWorkbench(page);
  const edge = page.getByRole("separator", { name: "Width of the slot’s part" });
  const part = page.getByRole("complementary", { name: "The slot" });
  const width = async () => Math.round((await part.boundingBox())?.width ?? 0);
  expect(await width()).toBe(408);
  await edge.press("ArrowLeft");
  await expect.poll(width).toBe(432);
  const box = await edge.boundingBox();
  if (!box) throw new Error("There is no edge.");
  await page.mouse.move(box.x + 4, box.y + 300);
  await page.mouse.down();
  await page.mouse.move(box.x + 4 - 100, box.y + 300, { steps: 5 });
  await page.mouse.up();
  await expect.poll(width).toBe(532);
  // It comes so with the page, before any script.
  await page.reload();
  await expect(part).toBeVisible();
  expect(await width()).toBe(532);
  await edge.dblclick();
  await expect.poll(width).toBe(408);
});

test("several things of a list are switched and deleted at once; what is used elsewhere stays", async ({ page }) => {
  await openWorkbench(page);
  await page.goto(at("/redirects"));
  const rows = page.locator(".listrow");
  await expect(rows.first()).toBeVisible();
  const count = await rows.count();
  const off = await page.locator(".listrow.dim").count();
  await page.getByRole("button", { name: "Choose several" }).click();
  await page.getByRole("button", { name: "Choose all" }).click();
  await page.getByRole("button", { name: "Switch off" }).click();
  await expect(page.locator(".listrow.dim")).toHaveCount(count);
  await takeBack(page);
  await expect(page.locator(".listrow.dim")).toHaveCount(off);

  await page.goto(at("/audiences"));
  await expect(rows.first()).toBeVisible();
  const all = await rows.count();
  await page.getByRole("button", { name: "Choose several" }).press("Enter");
  await page.getByLabel("Choose Newsletter readers").check();
  await page
    .getByRole("toolbar", { name: "What is chosen of Audiences" })
    .getByRole("button", { name: "Delete" })
    .click();
  await expect(page.getByText("“Newsletter readers” is used elsewhere and stays.")).toBeVisible();
  await expect(rows).toHaveCount(all);
});
