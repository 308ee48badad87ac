import { openScreen, openWorkbench } from "../support";
import { addCondition, compare, expectShop, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const words = "Two euros off small parcels";
const cart = (cookie: string) => ({ cookie: `cart=${cookie}` });

test("a message for carts below €30, with the discount that it promises", async ({ page, clicks }) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Offers");
  await page.locator(".listhead").getByRole("button", { name: "New offer" }).click();
  const form = page.locator(".opened");
  await form.getByLabel("Name", { exact: true }).fill("Small parcels");
  await form.getByLabel("Label, as visitors read it in the cart").fill("Small parcel");
  await form.getByRole("combobox", { name: "Gives" }).click();
  await page.getByRole("option", { name: "Amount off" }).click();
  await form.getByLabel("Amount", { exact: true }).fill("2.00");
  // It is no threshold offer: whoever is below gets it.
  await form.getByLabel("Minimum cart value").fill("");
  await addCondition(page, "cart.subtotal");
  await compare(page, "is less than");
  await value(page, "30.00");
  await form.getByRole("switch").first().check();
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/cart");
  await page.keyboard.press("Enter");
  await makeVariant(page, /Cart note/, "Small parcels", "Blank");
  await fillIn(page, { Headline: words });
  await addCondition(page, "cart.subtotal");
  await compare(page, "is between");
  await page.getByLabel("From", { exact: true }).first().fill("0.01");
  await page.getByLabel("To", { exact: true }).first().fill("29.99");
  await page.keyboard.press("Tab");
  await switchOn(page);
  await putLive(page);
  tell("message below €30 with its discount", clicks(), 22);
  await expectShop("/cart", cart("fern-01~2"), words);
  await expectShop("/cart", cart("fern-01~2"), "Small parcel");
  // €25.90 less €2.00.
  await expectShop("/cart", cart("fern-01~2"), "€23.90");
  await expectShop("/cart", cart("fern-01~3"), words, false);
  await expectShop("/cart", cart("fern-01~3"), "Small parcel", false);
});
