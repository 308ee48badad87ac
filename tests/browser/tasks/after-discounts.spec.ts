import { openWorkbench } from "../support";
import { addCondition, compare, expectShop, fillIn, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

const words = "A hand of moss comes along";
const cart = (cookie: string) => ({ cookie: `cart=${cookie}` });

test("only for carts between €120 and €200, after what offers take off", async ({ page, clicks }) => {
  await openWorkbench(page);
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/cart");
  await page.keyboard.press("Enter");
  await makeVariant(page, /Cart note/, "Moss for larger carts", "Blank");
  await fillIn(page, { Headline: words });
  await addCondition(page, "cart.total");
  await compare(page, "is between");
  await page.getByLabel("From", { exact: true }).first().fill("120.00");
  await page.getByLabel("To", { exact: true }).first().fill("200.00");
  await page.keyboard.press("Tab");
  await switchOn(page);
  await putLive(page);
  tell("only between €120 and €200 after discounts", clicks(), 17);
  // Ten ferns at €12.95 are €129.50; ten per cent less, €116.55.
  await expectShop("/cart", cart("fern-01~10"), words, false);
  // Eleven: €142.45, less ten per cent €128.20.
  await expectShop("/cart", cart("fern-01~11"), words);
  // Eighteen: €233.10, €209.79 after the offer. Seventeen: €198.13.
  await expectShop("/cart", cart("fern-01~18"), words, false);
  await expectShop("/cart", cart("fern-01~17"), words);
});
