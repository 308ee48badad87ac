import { openWorkbench, typeInto } from "../support";
import { addCondition, expectShop, fillIn, from, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

test("three countries are each greeted in their own way, and everybody else as before", async ({ page, clicks }) => {
  await openWorkbench(page);
  for (const [country, words] of [
    ["France", "Bonjour from the hills"],
    ["Germany", "Guten Tag from the hills"],
    ["Portugal", "Bom dia from the hills"],
  ] as const) {
    await makeVariant(page, /Site bar/, `In ${country}`);
    await fillIn(page, { Text: words });
    await addCondition(page, "Location");
    await typeInto(page, "Places", [country]);
    await switchOn(page);
  }
  await putLive(page);
  tell("three countries with fallback", clicks(), 39);
  await expectShop("/", from.paris, "Bonjour from the hills");
  await expectShop("/", from.berlin, "Guten Tag from the hills");
  await expectShop("/", from.porto, "Bom dia from the hills");
  await expectShop("/", from.madrid, "Plants packed by hand in Portugal");
});
