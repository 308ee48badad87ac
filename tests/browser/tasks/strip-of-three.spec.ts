import { expect } from "@playwright/test";
import { openWorkbench, row, site, visitShop } from "../support";
import { done, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

test("a strip of three from the library, by label and price, the dearest first", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Offer strip/, "Dearest", "Blank");
  await page.getByRole("button", { name: "Texts …" }).click();
  await page.getByRole("menuitem", { name: "Pick a block of the library" }).click();
  const labels = page.getByRole("combobox", { name: "Required labels" });
  for (let count = 0; count < 3; count++) await labels.press("Backspace");
  await labels.fill("offer");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await page.getByRole("combobox", { name: "Order by" }).click();
  await page.getByRole("option", { name: "Price" }).click();
  await page.getByRole("combobox", { name: "Direction" }).click();
  await page.getByRole("option", { name: "largest first" }).click();
  await switchOn(page);
  for (const [name, number] of [
    ["Third", "3"],
    ["Second", "2"],
  ] as const) {
    await row(page, "Dearest").hover();
    await page.getByRole("button", { name: "Copy Dearest" }).click();
    await page.getByLabel("Name", { exact: true }).fill(name);
    await page.getByLabel("Position").fill(number);
    await page.keyboard.press("Tab");
    await page.getByRole("switch").first().check();
    await done(page);
  }
  const heads = site(page).locator('[data-mirada-slot="home-strip"] h3');
  await expect(heads).toHaveText(["Tray of forty", "Windowsill trio", "Kitchen seed box"]);
  await putLive(page);
  tell("strip of three by label and price", clicks(), 33);
  await expect
    .poll(async () =>
      [...(await visitShop("/")).matchAll(/<section class="offer-card"><h3>([^<]*)/g)].map(([, name]) => name),
    )
    .toEqual(["Tray of forty", "Windowsill trio", "Kitchen seed box"]);
  // Growers still get theirs first.
  expect(await visitShop("/?utm_content=growers")).toMatch(
    /<section class="offer-card"><h3>(Tray of forty|Winter fleece)/,
  );
});
