import { expect } from "@playwright/test";
import { openWorkbench, shopPort, site } from "../support";
import { addCondition, compare, expectShop, makeVariant, switchOn } from "./steps";
import { putLive, tell, test } from "./task";

test("first name and colour from the link stand in the text, with words for whoever tells neither", async ({
  page,
  clicks,
}) => {
  await openWorkbench(page);
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/?first_name=Wren&colour=green");
  await page.keyboard.press("Enter");
  await makeVariant(page, /Site bar/, "By name and colour");
  const text = page.getByRole("textbox", { name: "Text", exact: true });
  await text.fill("Something ");
  const put = async (parameter: string, instead: string) => {
    await page.keyboard.press("Control+End");
    await page.getByRole("button", { name: "Insert a value into Text" }).click();
    const form = page.getByRole("form", { name: "A value of the visit" });
    await form.getByLabel("Value to insert").fill("Parameter of the link");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    const name = form.getByRole("combobox", { name: "Name of the parameter" });
    await name.fill(parameter);
    await page.keyboard.press("Tab");
    await form.getByLabel("Shown instead").fill(instead);
    await form.getByRole("button", { name: "Insert" }).click();
  };
  await text.focus();
  await put("colour", "green");
  await text.focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(" for ");
  await put("first_name", "you");
  await addCondition(page, "Parameter of the link");
  await page.getByRole("combobox", { name: "Name of the parameter" }).fill("colour");
  await page.keyboard.press("Tab");
  await compare(page, "has a value");
  await switchOn(page);
  await expect(site(page).locator("[data-mirada-slot=site-bar]")).toContainText("Something green for Wren");
  await putLive(page);
  tell("first name and colour from the link", clicks(), 35);
  await expectShop("/?first_name=Ada&colour=blue", {}, "Something blue for Ada");
  await expectShop("/?first_name=&colour=%20", {}, "Something green for you");
  await expectShop("/?first_name=Ada", {}, "for Ada", false);

  // Through the quiz the answers come along in the link.
  const visitor = await page.context().newPage();
  await visitor.goto(`http://quiz.localhost:${shopPort}/`);
  await visitor.getByLabel("What may we call you?").fill("Robin");
  await visitor.getByLabel("A windy balcony").check();
  await visitor.getByLabel("How many pots have you room for?").fill("1");
  await visitor.getByRole("button", { name: "Show me my plant" }).click();
  await expect(visitor.locator('[data-mirada-slot="home-quiz"]')).toContainText(
    "Hello Robin, a plant for a windy balcony",
  );
});
