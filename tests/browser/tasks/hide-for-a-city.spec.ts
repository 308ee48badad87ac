import { openWorkbench, typeInto } from "../support";
import { expectShop, from, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const bar = 'data-mirada-slot="site-bar"';

test("the site bar is hidden for one city, and not for its country", async ({ page, clicks }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Site bar/ }).click();
  await page.getByRole("button", { name: "Hide for …" }).click();
  await page.getByRole("menuitem", { name: "visitors of a place …" }).click();
  await typeInto(page, "Places", ["Porto"]);
  await switchOn(page);
  await putLive(page);
  tell("hide for a city", clicks(), 9);
  await expectShop("/", from.porto, bar, false);
  await expectShop("/", from.lisbon, bar);
});
