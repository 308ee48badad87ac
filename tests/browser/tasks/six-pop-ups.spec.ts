import { expect } from "@playwright/test";
import { openScreen, openWorkbench, shopPort } from "../support";
import { fillIn } from "./steps";
import { putLive, tell, test } from "./task";

const shop = `http://brackenfold.localhost:${shopPort}`;

test("six pop-ups, each with its moment: the first whose rule holds opens, and no other", async ({
  page,
  clicks,
  browser,
}) => {
  test.setTimeout(300_000);
  await openWorkbench(page);
  await openScreen(page, "Content", "Pop-ups");
  for (const [name, moment, unit, number] of [
    ["At once", undefined, "Seconds", "0"],
    ["After a while", undefined, "Seconds", "20"],
    ["Half way down", /scroll/, /percent|%/i, "50"],
    ["Far down", /scroll/, /percent|%/i, "90"],
    ["When leaving", /leaves/, undefined, ""],
    ["When idle", /idle|nothing/i, "Seconds", "30"],
  ] as const) {
    await page.getByRole("button", { name: "New pop-up" }).click();
    const region = page.locator(".opened");
    await region.getByLabel("Name", { exact: true }).fill(name);
    await fillIn(page, { Headline: `${name}, a word` });
    if (moment) {
      await page.getByLabel("Trigger").click();
      await page.getByRole("option", { name: moment }).click();
    }
    if (unit) {
      const field = region.getByLabel(unit).first();
      await field.fill(number);
      await field.press("Tab");
    }
    await region.getByRole("switch").first().check();
  }
  await putLive(page);
  tell("six pop-ups", clicks(), 76);
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  await context.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
  const visitor = await context.newPage();
  await visitor.goto(`${shop}/contact`);
  await expect(visitor.locator("dialog[open]")).toHaveCount(1);
  await expect(visitor.locator("dialog[data-mirada-popup]")).toHaveCount(1);
  await context.close();
});
