import { openWorkbench, typeInto } from "../support";
import { addCondition, chooseValue, done, expectShop, fillIn, from, makeVariant, openVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const firefox = { "user-agent": "Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0" };
const edge = {
  "user-agent":
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36 Edg/142.0.0.0",
};
const words = "For readers of one of two kinds";

test("one browser or one country, then one browser and one country", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Firefox or Spain");
  await fillIn(page, { Text: words });
  await addCondition(page, "device.browser");
  await chooseValue(page, "firefox");
  await addCondition(page, "Location");
  await typeInto(page, "Places", ["Spain"]);
  await page.getByRole("combobox", { name: "How the conditions go together" }).click();
  await page.getByRole("option", { name: /^Any/ }).click();
  await switchOn(page);
  await putLive(page);
  await expectShop("/", { ...firefox, ...from.berlin }, words);
  await expectShop("/", { ...edge, ...from.madrid }, words);
  await expectShop("/", { ...edge, ...from.berlin }, words, false);

  await openVariant(page, "Firefox or Spain");
  await page.getByRole("combobox", { name: "How the conditions go together" }).click();
  await page.getByRole("option", { name: /^All/ }).click();
  await done(page);
  await putLive(page);
  tell("one browser or one country, then both", clicks(), 22);
  await expectShop("/", { ...firefox, ...from.madrid }, words);
  await expectShop("/", { ...firefox, ...from.berlin }, words, false);
  await expectShop("/", { ...edge, ...from.madrid }, words, false);
});
