/** Tables of many rows: slots, variants, links, results, people, pages and the audit trail, searched, filtered and sorted, several at a time, by mouse and by keyboard. */
import { expect, type Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { act } from "./as-before";
import { at, makeSite, openWorkbench, removeSite, signIn, test, typeDate } from "./support";

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

test("results of all slots stand side by side, for the days that are typed or chosen from a calendar", async ({
  page,
}) => {
  await page.goto(at("/results"));
  await page.getByRole("button", { name: "Table", exact: true }).click();
  await expect(page).toHaveURL(/show=table/);
  await expect(named(page, "Home hero")).toContainText(/\d %/);
  await page.getByRole("button", { name: "Exposures", exact: true }).click();
  const seen = async () => (await cells(page, 4).allTextContents()).map((text) => Number(text.replaceAll(",", "")));
  // The most first.
  const down = await seen();
  expect(down).toEqual([...down].sort((a, b) => b - a));
  expect(down[0]).toBeGreaterThan(0);
  // A day on which nobody came: by the calendar, with the keyboard, from the first of the month to the one before.
  await typeDate(page, "From", "2025-03-01");
  await expect(page.getByText("Up to 400 days, the first before the last")).toBeVisible();
  await typeDate(page, "To", "2025-03-15");
  await page
    .getByRole("group", { name: "To", exact: true })
    .getByRole("button", { name: /^Choose date/ })
    .click();
  await expect(page.getByRole("gridcell", { name: "15", selected: true })).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: "To", exact: true })).toContainText("14/03/2025");
  await expect(cells(page, 4).first()).toHaveText("0");
  await page.getByRole("button", { name: "28 days" }).click();
  await page.getByLabel("Choose Home hero").check();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export CSV" }).click(),
  ]);
  const lines = readFileSync(await file.path(), "utf8")
    .trim()
    .split("\r\n");
  expect(lines).toHaveLength(2);
  expect(lines[1]).toMatch(/^home-hero,\d+,\d+,\d+,/);
  await named(page, "Home hero").getByRole("link").click();
  await expect(page.getByRole("heading", { name: "Home hero", exact: true })).toBeVisible();
});

test("the audit trail is searched by the server, by words, person and kind, and comes as it is scrolled", async ({
  page,
  request,
}) => {
  // More lines than are told at once, of a word that no other run has left there.
  const word = `w${crypto.randomUUID().slice(0, 8)}`;
  for (let index = 0; index < 120; index++)
    await act(request, "brackenfold", "keepLenses", [
      { id: "audit-lens", name: `${word} ${index}`, visit: { at: "2026-01-01T00:00:00Z", url: "http://x.example/" } },
    ]);
  await act(request, "brackenfold", "dropLens", "audit-lens");
  await page.goto(at("/audit"));
  await page.getByLabel("Search lines").fill(word.toUpperCase());
  await expect(page.locator("tr[data-row]").first()).toContainText(word);
  const table = page.locator(".tablescroll");
  await table.evaluate((it) => it.scrollTo(0, it.scrollHeight));
  // The first of them is on the second portion.
  await expect(async () => {
    await table.evaluate((it) => it.scrollTo(0, it.scrollHeight));
    await expect(page.locator("tr[data-row]").last()).toContainText(`${word} 0`, { timeout: 500 });
  }).toPass();
  await page.getByLabel("Search lines").fill(`117 ${word}`);
  await expect(page.locator("tr[data-row]")).toHaveCount(1);
  await page.getByRole("combobox", { name: "Kind" }).click();
  await page.getByRole("option", { name: "Releases" }).click();
  await expect(page.getByText("No lines are like that.")).toBeVisible();
  await expect(page).toHaveURL(/only-kind=release/);
  await page.getByRole("button", { name: "Show all" }).click();
  await expect(page.locator("tr[data-row]").first()).toBeVisible();
});

test("several pages are taken off the list, and sessions of one person are ended, at once", async ({
  page,
  request,
}) => {
  const origin = "http://pages-of-mine.localhost:9";
  await makeSite(request, "pages-of-mine", "Pages of mine", origin);
  const urls = ["oak", "ash", "elm", "oak/old"].map((path) => `<url><loc>${origin}/${path}</loc></url>`).join("");
  await act(
    request,
    "pages-of-mine",
    "readPageList",
    `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${urls}</urlset>`,
  );
  await page.goto("/s/pages-of-mine/settings");
  const pages = page.getByRole("region", { name: "Pages", exact: true });
  await pages.getByLabel("Search pages").fill("oak");
  await expect(pages.locator("tr[data-row]")).toHaveCount(2);
  await pages.getByLabel("Choose all pages shown").check();
  await pages.getByRole("button", { name: "Remove from the list" }).click();
  await pages.getByLabel("Search pages").fill("");
  // Of the two that are left beside the home page, one by itself.
  await expect(pages.locator("tr[data-row]")).toHaveCount(3);
  await pages.getByRole("button", { name: "Remove /elm" }).click();
  await expect(pages.locator("tr[data-row]")).toHaveCount(2);
  await removeSite(request, "pages-of-mine", "Pages of mine");

  await signIn("Author");
  await page.goto(at("/people"));
  const sessions = page.getByRole("region", { name: "Sessions", exact: true });
  await sessions.getByRole("combobox", { name: "Person" }).click();
  await page.getByRole("option", { name: /^Author/ }).click();
  await sessions.getByLabel("Choose all sessions shown").check();
  await sessions.getByRole("button", { name: "End sessions" }).click();
  await expect(sessions.getByText("No sessions are like that.")).toBeVisible();
});

test("what a form lacks is said at its place, and nothing that was typed is lost", async ({ page }) => {
  await page.goto(at("/people"));
  await page.getByRole("button", { name: "Create invitation" }).click();
  const name = page.getByLabel("Name of the person to invite");
  await expect(name).toBeFocused();
  await expect(page.getByText("Say whom")).toBeVisible();
  await name.fill("A colleague");
  await expect(page.getByText("Say whom")).toHaveCount(0);
  await page.getByLabel("Current password").fill("not the right one at all");
  await page.getByLabel("New password").fill("short");
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await expect(page.getByText(/^At least 10 characters, please/)).toBeVisible();
  await page.getByLabel("New password").fill("long enough for a sentence");
  await page.getByRole("button", { name: "Change", exact: true }).click();
  await expect(page.getByText("This is not your current password.")).toBeVisible();
  await expect(page.getByLabel("Current password")).toHaveValue("not the right one at all");
  await expect(name).toHaveValue("A colleague");
});
