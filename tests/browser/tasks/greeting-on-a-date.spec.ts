import { expect } from "@playwright/test";
import { openWorkbench, site, travel } from "../support";
import { coming, dayIn } from "./days";
import { done, expectShop, fillIn, makeVariant, openVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const words = "Today the nursery is a year older";

test("a greeting on one date of every year", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Birthday");
  await fillIn(page, { Text: words });
  await page.getByRole("button", { name: "Give it a schedule" }).click();
  for (const day of ["Mon", "Tue", "Wed", "Thu", "Fri"])
    await page.getByRole("group", { name: "Weekdays" }).getByRole("button", { name: day }).click();
  await page.getByRole("button", { name: /^Remove the hours/ }).click();
  await page.getByRole("button", { name: "Dates and repeats" }).click();
  const far = coming(3);
  await page.getByLabel("Only on these dates").fill(far.slice(5));
  await page.keyboard.press("Tab");
  await switchOn(page);
  const bar = site(page).locator("[data-mirada-slot=site-bar]");
  const before = clicks();
  await travel(page, `${far}T00:00`);
  await expect(bar).toContainText(words);
  await travel(page, `${Number(far.slice(0, 4)) + 2}${far.slice(4)}T23:59`);
  if (far.slice(5) !== "02-29") await expect(bar).toContainText(words);
  await travel(page, `${far.slice(0, 8)}${far.endsWith("01") ? "03" : "01"}T12:00`);
  await expect(bar).not.toContainText(words);
  const looking = clicks() - before;
  await putLive(page);
  tell("greeting on a date", clicks() - looking, 20);
  await openVariant(page, "Birthday");
  await page.getByRole("button", { name: "Change the schedule" }).click();
  const dates = page.getByLabel("Only on these dates");
  if (!(await dates.isVisible())) await page.getByRole("button", { name: "Dates and repeats" }).click();
  await dates.fill(`${dayIn(0)}, ${dayIn(1).slice(5)}`);
  await page.keyboard.press("Tab");
  await done(page);
  await putLive(page);
  await expectShop("/", {}, words);
});
