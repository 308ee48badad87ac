import { openWorkbench } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

test("what the site itself tells of a page is asked for: plants that are in season", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "In season");
  await fillIn(page, { Text: "This one is in season now" });
  await addCondition(page, "inSeason");
  await switchOn(page);
  await putLive(page);
  tell("the page's own field", clicks(), 10);
  // The catalogue says so of these two kinds of pages.
  await expectShop("/ferns/harts-tongue", {}, "This one is in season now");
  await expectShop("/tools/secateurs", {}, "This one is in season now", false);
  await expectShop("/contact", {}, "This one is in season now", false);
});
