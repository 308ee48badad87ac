/** Several sites in one workbench: made, switched between, shared with people, laid aside and deleted; each with addresses of its own. */
import { expect, type Page } from "@playwright/test";
import { randomInt } from "node:crypto";
import { at, port, test } from "./support";

const mark = randomInt(1_000_000);
const name = `Lantern Quay ${mark}`;
const id = `lantern-quay-${mark}`;

const field = (page: Page, label: string) => page.getByRole("dialog").getByLabel(label);

test.describe.configure({ mode: "serial" });

test("a site is made by its name and address; what is wrong is said at its field", async ({ page }) => {
  await page.goto("/sites");
  await page.getByRole("button", { name: "New site" }).click();
  await field(page, "Name of the site").fill(name);
  await field(page, "Address of the site").fill("lantern-quay");
  await page.getByRole("button", { name: "Make the site" }).click();
  await expect(page.getByRole("dialog").getByText("An origin is written https://")).toBeVisible();
  await field(page, "Address of the site").fill("https://brackenfold.example");
  await page.getByRole("button", { name: "Make the site" }).click();
  await expect(page.getByRole("dialog").getByText("belongs to another site here already")).toBeVisible();
  // What was typed is still there.
  await expect(field(page, "Name of the site")).toHaveValue(name);
  await field(page, "Address of the site").fill(`https://lantern-quay-${mark}.example/`);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(`/s/${id}/connect`);
  await expect(page.getByRole("heading", { name: "Connect", exact: true })).toBeVisible();
  await expect(page.getByText("Nothing live yet")).toBeVisible();
  // With nothing made yet the main screen says what comes first.
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  await expect(page.getByText("This site has no slots yet.")).toBeVisible();
  await page.locator(".slotside").getByRole("button", { name: "Add a slot" }).click();
  await expect(page.getByRole("heading", { name: "A new slot" })).toBeVisible();
});

test("one goes from site to site by the name at the top, to the same screen, and back", async ({ page }) => {
  await page.goto(at("/audiences"));
  await page.getByRole("button", { name: "Site: Brackenfold" }).click();
  await page.getByRole("menuitem", { name }).click();
  await expect(page).toHaveURL(`/s/${id}/audiences`);
  await expect(page.getByRole("button", { name: `Site: ${name}` })).toBeVisible();
  // By keyboard, and back.
  await page.getByRole("button", { name: `Site: ${name}` }).press("Enter");
  await page.getByRole("menuitem", { name: "Brackenfold" }).press("Enter");
  await expect(page).toHaveURL(at("/audiences"));
  await page.goBack();
  await expect(page).toHaveURL(`/s/${id}/audiences`);
});

test("an address of before there were several sites leads to a list to choose from", async ({ page }) => {
  await page.goto("/library");
  await expect(page).toHaveURL("/sites");
  await page.getByRole("link", { name: "Brackenfold", exact: true }).click();
  await expect(page).toHaveURL(at("/pages"));
});

test("somebody is invited to two sites by one link, and has on each what was given", async ({ page, browser }) => {
  await page.goto(at("/people"));
  await page.getByLabel("Name of the person to invite").fill("Finch");
  await page.getByRole("combobox", { name: "Also for" }).click();
  await page.getByRole("option", { name }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Create invitation" }).click();
  const link = await page.getByRole("status").locator("code").filter({ hasText: "/join/" }).innerText();
  await expect(page.getByRole("status").filter({ hasText: "/join/" })).toContainText(`for ${name}, too`);
  await expect(page.getByRole("combobox", { name: "Also for" })).not.toContainText(name);
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const guest = await context.newPage();
  await guest.goto(new URL(link).pathname);
  await expect(guest.getByText(`You are invited to ${name} as author`)).toBeVisible();
  await expect(guest.getByText("You are invited to Brackenfold as author")).toBeVisible();
  await guest.getByLabel("E-mail address").fill(`finch-${mark}@post.example`);
  await guest.getByLabel("Password").fill("a sentence of a finch");
  await guest.getByRole("button", { name: "Join" }).click();
  await expect(guest.getByRole("heading", { name: "Sites" })).toBeVisible();
  await expect(guest.getByRole("listitem")).toHaveCount(2);
  // A list for those who make sites alone.
  await expect(guest.getByRole("button", { name: "New site" })).toHaveCount(0);
  await guest.getByRole("link", { name }).click();
  await expect(guest.getByRole("button", { name: `Site: ${name}` })).toBeVisible();
  // Whoever is none of a site's people finds nothing there.
  const other = await guest.goto("/s/somewhere-else/pages");
  expect(other?.status()).toBe(404);
  await context.close();
});

test("its pages may be looked at under another address", async ({ page }) => {
  await page.goto(`/s/${id}/settings`);
  const part = page.getByRole("region", { name: "Addresses" });
  const hotel = `http://lantern-quay.localhost:${port + 20}`;
  await part.getByLabel("Another address").fill(hotel);
  await part.getByLabel("Another address").press("Enter");
  await expect(part.getByText(hotel, { exact: true }).first()).toBeVisible();
  await part.getByLabel("Pages are looked at on").click();
  await page.getByRole("option", { name: hotel }).click();
  await page.reload();
  await expect(page.getByLabel("Pages are looked at on")).toContainText(hotel);
  // From there its pages are read.
  await page
    .getByRole("button", { name: /sitemap/i })
    .first()
    .click();
  await expect(page.getByText("/rooms/attic")).toBeVisible();
});

test("an archived site is deleted only after its archive and its name", async ({ page }) => {
  await page.goto("/sites");
  const row = page.getByRole("listitem").filter({ hasText: name });
  await row.getByRole("button", { name: `Archive ${name}` }).click();
  await expect(row.getByText("Archived", { exact: true })).toBeVisible();
  await row.getByRole("button", { name: `Delete ${name}` }).click();
  const remove = page.getByRole("button", { name: "Delete permanently" });
  await field(page, `Type ${name} to delete it`).fill("something else");
  await expect(remove).toBeDisabled();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: `Export archive of ${name}` }).click();
  expect((await download).suggestedFilename()).toContain(id);
  await remove.click();
  await expect(page.getByRole("dialog").getByText("This is not its name")).toBeVisible();
  await field(page, `Type ${name} to delete it`).fill(name);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("listitem").filter({ hasText: name })).toHaveCount(0);
});
