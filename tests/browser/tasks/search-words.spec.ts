import { expect } from "@playwright/test";
import { openWorkbench, typeInto } from "../support";
import { addCondition, expectShop, fillIn, from, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const search = (words: string) => ({ referer: `https://quarry.example/search?q=${encodeURIComponent(words)}` });

test("search words against region: the order decides who wins, and it is changed by keyboard", async ({
  page,
  clicks,
}) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "In the north of Portugal");
  await fillIn(page, { Text: "Rain enough for every fern" });
  await addCondition(page, "Location");
  await typeInto(page, "Places", ["Porto"]);
  await switchOn(page);
  await makeVariant(page, /Site bar/, "Searched for gifts");
  await fillIn(page, { Text: "A fern is a gift that stays" });
  await addCondition(page, "search.words");
  await typeInto(page, "Words", ["gift"]);
  await switchOn(page);
  await putLive(page);
  const both = { ...search("gift fern"), ...from.porto };
  const gift = "A fern is a gift that stays";
  const rain = "Rain enough for every fern";
  // What was made last stands first.
  await expectShop("/", both, gift);
  await expectShop("/", { ...search("fern"), ...from.porto }, rain);
  await expectShop("/", { ...search("gift fern"), ...from.berlin }, gift);
  await expectShop("/", { ...search("giftware"), ...from.berlin }, gift, false);

  // The other way round: taken up, moved below, put down.
  await page.getByRole("button", { name: /^Move Searched for gifts/ }).focus();
  for (const key of ["Space", "ArrowDown", "Space"]) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
  }
  await expect(page.locator("[data-variant]").nth(1)).toContainText("Searched for gifts");
  await putLive(page);
  tell("search words against region, and order", clicks(), 22);
  await expectShop("/", both, rain);
});
