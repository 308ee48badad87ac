/** Goals without code, on pages that know nothing of them; what results tell of them, note, and show to whoever has a link. */
import { expect, type Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { goLive, openScreen, port, site, spot, test } from "./support";

const blog = `http://stone-and-moss.localhost:${port + 20}`;
const at = (screen: string) => `/s/stone-and-moss${screen}`;

type Told = { kind: string; name: string; value: number; slot: string; arm: string; receipt?: string };
/** What a visitor’s pages tell, from the next one on. */
async function hear(visitor: Page): Promise<Told[]> {
  const told: Told[] = [];
  await visitor.addInitScript(() => Object.assign(navigator, { sendBeacon: () => false }));
  visitor.on("request", (request) => {
    if (!request.url().endsWith("/v1/events")) return;
    told.push(...((JSON.parse(request.postData() ?? "{}") as { events?: Told[] }).events ?? []));
  });
  return told;
}
/** Opens a page, and waits until it has told what was seen. */
async function open(visitor: Page, told: Told[], path: string): Promise<void> {
  const before = told.length;
  // An answer that comes too late leaves the page's own content, and tells nothing: then it is asked once more.
  await expect(async () => {
    await visitor.goto(`${blog}${path}`);
    const isSeen = () => told.slice(before).some(({ kind }) => kind === "exposure");
    await expect.poll(isSeen, { timeout: 3000 }).toBe(true);
  }).toPass();
}

test("a link that is pointed at becomes a goal; a page does by a rule; both count for what was seen", async ({
  page,
  browser,
}) => {
  await page.goto(at("/goals"));
  await expect(page.getByText("A goal is what you hope visitors do")).toBeVisible();
  // A page, by a rule; it is counted by the id that it was made with.
  await page.getByRole("button", { name: "New goal" }).click();
  const name = page.getByRole("textbox", { name: "Name", exact: true });
  await name.fill("Read about us");
  await name.blur();
  await expect(page.locator(".listrow").first()).toContainText("Not finished");
  await page
    .getByRole("combobox", { name: /Path|Value|is/ })
    .last()
    .fill("/about");
  await page.keyboard.press("Enter");
  await expect(page.locator(".listrow").first()).toContainText("Not on this page");
  const worth = page.getByRole("textbox", { name: "What each is worth" });
  await worth.fill("2.505");
  await expect(page.getByText("An amount above 0, such as 60.00, in EUR")).toBeVisible();
  await worth.fill("2.50");
  await worth.blur();

  // A part of the page, by pointing.
  await page.goto(`${at("/pages")}?page=%2Fstones&point=goal`);
  await expect(page.getByRole("heading", { name: "A goal on the page" })).toBeVisible();
  await expect(site(page).locator("[data-mirada-pointer]").first()).toBeAttached({ timeout: 20_000 });
  await page.mouse.click(...(await spot(page, "nav a[href='/']")));
  await expect(page.getByRole("textbox", { name: "Name of the goal" })).toBeVisible();
  await page.getByRole("textbox", { name: "Name of the goal" }).fill("Went to the moss");
  await page.getByRole("button", { name: "Make the goal" }).click();
  await expect(page).toHaveURL(/\/goals\?open=went-to-the-moss/);
  await expect(page.locator(".listrow").filter({ hasText: "Went to the moss" })).toContainText("Can be reached here");
  // What it is worth, by pointing at what says it.
  await page.getByRole("link", { name: "Point at what says it" }).click();
  await expect(page.getByRole("heading", { name: "What a goal is worth" })).toBeVisible();
  await expect(site(page).locator("[data-mirada-pointer]").first()).toBeAttached({ timeout: 20_000 });
  await page.mouse.click(...(await spot(page, ".prints b")));
  await expect(page.getByRole("status", { name: "How it is read" })).toContainText("read as €24.00");
  await page.getByRole("button", { name: "Use it for “Went to the moss" }).click();
  await expect(page).toHaveURL(/\/goals\?open=went-to-the-moss/);
  await expect(page.getByText(/It is read from .*, when the goal is reached/)).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Worth where the page does not say it" })).toBeVisible();

  // The holdout goes live with them.
  await page.goto(at("/settings"));
  const holdout = page.getByRole("textbox", { name: /^Holdout/ });
  await holdout.fill("60");
  await expect(page.getByText("A number above 0, up to 50; nothing for none")).toBeVisible();
  await holdout.fill("50");
  await holdout.blur();
  await expect(page.getByRole("status").filter({ hasText: "Saved" }).first()).toBeVisible();
  await page.getByRole("button", { name: "Publish" }).click();
  await goLive(page);

  // A browser without a window counts as a crawler, and apart.
  const userAgent =
    "Mozilla/5.0 (X11; Linux x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
  const context = await browser.newContext({ userAgent, storageState: { cookies: [], origins: [] } });
  await context.addInitScript(() => {
    // The page sets the same name afterwards: what it says comes on top.
    let said: object = { consent: true };
    Object.defineProperty(window, "mirada", {
      get: () => said,
      set: (more: object) => (said = { ...more, consent: true }),
    });
  });
  const visitor = await context.newPage();
  const told = await hear(visitor);
  await open(visitor, told, "/stones?utm_source=letter");
  expect(told.filter(({ slot }) => slot === "site:holdout")).toHaveLength(1);
  expect(told.every(({ receipt }) => receipt !== undefined)).toBe(true);
  await visitor.getByRole("link", { name: "Moss", exact: true }).click();
  const reached = (goal: string) => told.filter(({ kind, name: of }) => kind === "conversion" && of === goal);
  await expect.poll(() => reached("went-to-the-moss").map(({ slot }) => slot)).toContain("site:holdout");
  expect(reached("went-to-the-moss").map(({ value }) => value)).toContain(2400);
  await open(visitor, told, "/about");
  await expect.poll(() => reached("new-goal").map(({ slot }) => slot)).toContain("site:holdout");
  // It counts once a visit.
  const before = reached("new-goal").length;
  await open(visitor, told, "/about?again");
  expect(reached("new-goal")).toHaveLength(before);
  await context.close();

  // Results tell of them, by the names that they were given.
  await page.goto(at("/results"));
  await expect(page.getByRole("button", { name: /^All of it together/ })).toBeVisible();
  const byVariant = page.getByRole("region", { name: "By variant" });
  await expect(async () => {
    await page.reload();
    await page.getByRole("button", { name: /^All of it together/ }).click();
    await expect(byVariant).toContainText(/Sees them|Held out/, { timeout: 3000 });
  }).toPass({ timeout: 30_000 });
  await page.getByRole("combobox", { name: "Goal" }).click();
  await expect(page.getByRole("option")).toHaveText(["Read about us", "Went to the moss"]);
  await page.getByRole("option", { name: "Went to the moss" }).click();
  await expect(byVariant).toContainText("Conversions: Went to the moss");
});

test("what happened is noted, a slot is read by its own goal first, and results are shown to whoever has the link", async ({
  page,
  browser,
}) => {
  // What an earlier try has left is another's.
  const happened = `The radio spoke of ferns, ${randomUUID()}`;
  await page.goto("/s/brackenfold/pages");
  await openScreen(page, "Live", "Results");
  await page.getByRole("button", { name: /^Promise test/ }).click();
  const over = page.getByRole("region", { name: "Over time" });
  await over.getByRole("button", { name: "Note what happened" }).click();
  await over.getByRole("textbox", { name: "What happened" }).fill(happened);
  await page.keyboard.press("Enter");
  const noted = page.getByRole("list", { name: "What happened" });
  await expect(noted).toContainText(happened);

  const tested = page.getByRole("region", { name: "Test: Promise on products" });
  // Of this slot it was said by which goal it is read: by another it has to allow for both.
  await expect(tested).toContainText("Bonferroni for several arms)");
  await page.getByRole("combobox", { name: "Goal" }).click();
  await page.getByRole("option", { name: "Looked into the cart" }).click();
  await expect(tested).toContainText("Bonferroni for several arms and 3 readings)");
  await page.getByRole("button", { name: "Read by it first" }).click();
  await expect(tested).toContainText("Bonferroni for several arms)");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(tested).toContainText("Bonferroni for several arms and 3 readings)");
  await page.getByText("What a test could tell here").click();
  await expect(page.getByRole("row", { name: /^8 weeks/ })).toContainText("%");

  await page.getByRole("button", { name: "Share" }).click();
  const dialog = page.getByRole("dialog", { name: "Share the results of “Promise”" });
  await dialog.getByRole("button", { name: "Create link" }).click();
  const link = await dialog.getByRole("textbox", { name: "Link" }).inputValue();
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const guest = await context.newPage();
  await guest.goto(link);
  await expect(guest.getByRole("heading", { name: "Results of Promise, Brackenfold" })).toBeVisible();
  await expect(guest.getByRole("region", { name: "Test: Promise on products" })).toContainText("Arm b");
  await expect(guest.getByText(happened)).toBeVisible();
  for (const what of ["Note what happened", "Read by it first", "Share", "Export by hour"])
    await expect(guest.getByRole("button", { name: what })).toHaveCount(0);
  await dialog.getByRole("button", { name: "End link" }).first().click();
  await expect(page.getByText("The link is ended")).toBeVisible();
  await guest.reload();
  await expect(guest.getByText("This link has ended, or never was one.")).toBeVisible();
  await context.close();
  await dialog.getByRole("button", { name: "Close" }).click();
  await noted.getByRole("button", { name: new RegExp(`^Delete the note .*${happened}`) }).click();
  await expect(page.getByText(happened)).toHaveCount(0);
});
