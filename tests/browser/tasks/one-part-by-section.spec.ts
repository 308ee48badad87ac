import { openWorkbench } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

test("a parameter of the link chooses one part: ?section=pests", async ({ page, clicks }) => {
  await openWorkbench(page);
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/advice?section=pests");
  await page.keyboard.press("Enter");
  await makeVariant(page, /Advice by topic/, "Pests");
  await fillIn(page, { Headline: "Pests, gently" });
  await addCondition(page, "Parameter of the link");
  await page.getByRole("combobox", { name: "Name of the parameter" }).fill("section");
  await page.keyboard.press("Tab");
  await value(page, "pests");
  await switchOn(page);
  await putLive(page);
  tell("one part by ?section=", clicks(), 36);
  await expectShop("/advice?section=pests", {}, "Pests, gently");
  await expectShop("/advice?section=water", {}, "Pests, gently", false);
  await expectShop("/advice", {}, "Which plant for which window");
});
