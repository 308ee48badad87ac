import { expect } from "@playwright/test";
import { openWorkbench, shopPort } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const shop = `http://brackenfold.localhost:${shopPort}`;
const words = "Found us by the ad? Your first letter is free";

test("whoever came by the search ad keeps its words for 30 days, if they agreed to be remembered", async ({
  page,
  clicks,
  browser,
}) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Search ad");
  await fillIn(page, { Text: words });
  await addCondition(page, "campaign.name");
  await value(page, "shade-ad");
  await page.getByLabel("Keep showing it to the same visitor, in days").fill("30");
  await page.keyboard.press("Tab");
  await switchOn(page);
  await putLive(page);
  tell("search-ad link, kept 30 days", clicks(), 22);
  await expectShop("/?utm_campaign=shade-ad", {}, words);
  await expectShop("/", {}, words, false);
  for (const agreed of [true, false]) {
    const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
    if (agreed) await context.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
    const visitor = await context.newPage();
    const bar = visitor.locator("[data-mirada-slot=site-bar]");
    await visitor.goto(`${shop}/?utm_campaign=shade-ad`);
    await expect(bar).toContainText(words);
    await visitor.goto(`${shop}/ferns`);
    if (agreed) await expect(bar).toContainText(words);
    else await expect(bar).not.toContainText(words);
    await context.close();
  }
});
