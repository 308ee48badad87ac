import { expect } from "@playwright/test";
import { openWorkbench, site, travel, visitShop } from "../support";
import { coming, dayIn, minutesNow, weekday } from "./days";
import { fillIn, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const words = "Somebody is at the desk";

test("office hours: on working days from nine to six", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Office hours");
  await fillIn(page, { Text: words });
  await page.getByRole("button", { name: "Give it a schedule" }).click();
  await switchOn(page);
  await putLive(page);
  tell("office hours", clicks(), 10);
  const bar = site(page).locator("[data-mirada-slot=site-bar]");
  await travel(page, `${coming(1)}T09:00`);
  await expect(bar).toContainText(words);
  await travel(page, `${coming(1)}T18:00`);
  await expect(bar).not.toContainText(words);
  await travel(page, `${coming(0)}T11:00`);
  await expect(bar).not.toContainText(words);
  // The shop goes by the clock as it is.
  await expect
    .poll(async () => {
      const open = () => [1, 2, 3, 4, 5].includes(weekday(dayIn(0))) && minutesNow() >= 540 && minutesNow() < 1080;
      const before = open();
      const seen = (await visitShop("/")).includes(words);
      return before === open() && seen === before;
    })
    .toBe(true);
});
