import { expect } from "@playwright/test";
import { openWorkbench, site, visitShop } from "../support";
import { putLive, tell, test } from "./task";

const phone =
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 Version/26.1 Mobile/15E148 Safari/604.1";
const tablet =
  "Mozilla/5.0 (iPad; CPU OS 18_7 like Mac OS X) AppleWebKit/605.1.15 Version/26.1 Mobile/15E148 Safari/604.1";
const desk = "Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0";
const bar = 'data-mirada-slot="site-bar"';

test("the site bar is hidden on phones and tablets", async ({ page, clicks }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Site bar/ }).click();
  for (const who of ["visitors on phones", "visitors on tablets"]) {
    await page.getByRole("button", { name: "Hide for …" }).click();
    await page.getByRole("menuitem", { name: who }).click();
    await expect(page.locator("[data-variant]").filter({ hasText: `Nothing for ${who}` })).toBeVisible();
  }
  // The visitor of the lens goes along to the phone, and does not see it.
  await page.getByRole("button", { name: "Phone", exact: true }).click();
  await page.getByRole("button", { name: "And as a visitor on a phone" }).click();
  await expect(page.locator(".sentence [data-part=device]")).toContainText("phone");
  await expect(page.locator("[data-variant]").first()).toContainText("Not shown");
  await expect(page.locator("[data-variant]").nth(1)).toContainText("Shown");
  await expect(site(page).locator(`[${bar}]`)).toHaveAttribute("data-mirada-empty", "");
  await putLive(page);
  tell("hide on phones and tablets", clicks(), 38);

  expect(await visitShop("/", { "user-agent": phone })).not.toContain(bar);
  expect(await visitShop("/", { "user-agent": tablet })).not.toContain(bar);
  expect(await visitShop("/", { "user-agent": desk })).toContain(bar);
});
