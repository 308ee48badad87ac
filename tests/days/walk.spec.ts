/** One walk through the demo, whatever day it is: main screen, results, releases, put live. */
import { expect } from "@playwright/test";
import {
  at,
  dayWords,
  demoDay,
  goLive,
  openScreen,
  openWorkbench,
  row,
  site,
  test,
  visitShop,
} from "../browser/support";

test("the demo fits the day", async ({ page }) => {
  test.setTimeout(120_000);
  await openWorkbench(page);
  // The first lens is there while something interesting is shown, and Now is one press away.
  await expect(page.locator(".sentence p")).toContainText(`${dayWords(demoDay(0)).split(" ")[0]!.slice(0, 3)}`);
  await expect(site(page).locator("h1")).toHaveText("The repotting clinic is open now");
  await expect(row(page, "Repotting clinic").locator(".verdict")).toHaveText("Shown");
  await expect(page.getByText("Checks 8 of 8")).toBeVisible();
  await page.getByRole("region", { name: "Who wins when" }).getByRole("button", { name: "Now" }).click();
  await expect(page.locator(".sentence [data-part=time]")).not.toContainText("10:15");

  await openScreen(page, "Live", "Results");
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  const told = page.locator("main");
  await expect(told).toContainText("Promise on products");
  await expect(told).not.toContainText("Nothing was");

  await openScreen(page, "Live", "Releases");
  for (const number of [1, 2, 3])
    await expect(page.getByText(`Release ${number}`, { exact: false }).first()).toBeVisible();

  await page.goto(at("/pages?slot=site-bar&variant="));
  await page.getByRole("textbox", { name: "Text", exact: true }).fill("Packed by hand, whatever the day");
  await page.getByRole("button", { name: "Publish", exact: true }).click();
  await goLive(page);
  await expect.poll(async () => (await visitShop()).includes("Packed by hand, whatever the day")).toBe(true);
});
