import { openWorkbench, typeInto } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

test("the header speaks one more language, to those whose first choice it is", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Header/, "Italiano");
  await fillIn(page, { "Word for ferns": "Felci", "Word for cart": "Carrello" });
  await addCondition(page, "language");
  await typeInto(page, "Languages", ["Italian"]);
  await switchOn(page);
  await putLive(page);
  tell("header by language", clicks(), 20);
  const reads = (language: string) => ({ "accept-language": language });
  await expectShop("/", reads("it-IT,it;q=0.9,fr;q=0.5"), "Felci");
  await expectShop("/", reads("fr,it;q=0.5"), "Felci", false);
  await expectShop("/", reads("pt-PT"), "Fetos");
});
