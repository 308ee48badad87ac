import { expect } from "@playwright/test";
import { openWorkbench, site, travel } from "../support";
import { coming, dayIn, weekdayName } from "./days";
import { done, expectShop, fillIn, makeVariant, openVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const words = "The bench is open for questions";

test("a window of two hours, every week", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Open bench");
  await fillIn(page, { Text: words });
  await page.getByRole("button", { name: "Give it a schedule" }).click();
  const days = page.getByRole("group", { name: "Weekdays" });
  // Of the working days that stand there first, Wednesday stays.
  for (const day of ["Mon", "Tue", "Thu", "Fri"]) await days.getByRole("button", { name: day }).click();
  await page.getByLabel("From", { exact: true }).fill("14:00");
  await page.getByLabel("To", { exact: true }).fill("16:00");
  await page.keyboard.press("Tab");
  await switchOn(page);
  const bar = site(page).locator("[data-mirada-slot=site-bar]");
  const wednesday = coming(3);
  const before = clicks();
  for (const [time, there] of [
    ["13:59", false],
    ["14:00", true],
    ["15:59", true],
    ["16:00", false],
  ] as const) {
    await travel(page, `${wednesday}T${time}`);
    if (there) await expect(bar).toContainText(words);
    else await expect(bar).not.toContainText(words);
  }
  const looking = clicks() - before;
  await putLive(page);
  tell("weekly window", clicks() - looking, 13);

  // On the shop, with the days that are now, and with others.
  await openVariant(page, "Open bench");
  await page.getByRole("button", { name: "Change the schedule" }).click();
  await page.getByLabel("From", { exact: true }).fill("00:00");
  await page.getByLabel("To", { exact: true }).fill("24:00");
  await page.keyboard.press("Tab");
  const set = async (wanted: string[]) => {
    for (const day of ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]) {
      const button = days.getByRole("button", { name: day });
      const pressed = (await button.getAttribute("aria-pressed")) === "true";
      if (pressed !== wanted.includes(day)) await button.click();
    }
  };
  await set([weekdayName(dayIn(0)), weekdayName(dayIn(1))]);
  await done(page);
  await putLive(page);
  await expectShop("/", {}, words);
  await openVariant(page, "Open bench");
  await page.getByRole("button", { name: "Change the schedule" }).click();
  await set([weekdayName(dayIn(3)), weekdayName(dayIn(4))]);
  await done(page);
  await putLive(page);
  await expectShop("/", {}, words, false);
});
