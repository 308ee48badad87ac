import { openWorkbench } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

test("whoever comes from a partner's pages is welcomed as such", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "From the garden radio");
  await fillIn(page, { Text: "Heard us on the garden radio?" });
  await addCondition(page, "referrer.host");
  await value(page, "garden-radio.example");
  await switchOn(page);
  await putLive(page);
  tell("a partner's visitors", clicks(), 10);
  const words = "Heard us on the garden radio?";
  await expectShop("/", { referer: "https://www.garden-radio.example/shows/12" }, words);
  await expectShop("/", { referer: "https://garden-radio.example.other.example/" }, words, false);
  await expectShop("/", {}, words, false);
});
