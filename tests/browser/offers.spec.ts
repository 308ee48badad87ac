import { expect } from "@playwright/test";
import { shopPort, goLive, openScreen, openWorkbench, test } from "./support";

const shop = `http://brackenfold.localhost:${shopPort}`;

test("an offer and its messages are made in one place, live, and the cart keeps what the message promised", async ({
  page,
  browser,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Offers");
  await page.locator(".listhead").getByRole("button", { name: "New offer" }).click();
  const form = page.locator(".opened");
  await form.getByLabel("Name", { exact: true }).fill("Tool days");
  await form.getByLabel("Label, as visitors read it in the cart").fill("5 € off tools");
  await form.getByRole("combobox", { name: "Gives" }).click();
  await page.getByRole("option", { name: "Amount off" }).click();
  await form.getByLabel("Amount", { exact: true }).fill("-5");
  await expect(form.getByText("An amount above 0, such as 5.00, in EUR")).toBeVisible();
  await form.getByLabel("Amount", { exact: true }).fill("5.00");
  await form.getByLabel("Minimum cart value").fill("40.00");
  await form.getByRole("combobox", { name: "Applies to" }).fill("tools");
  await page.getByRole("option", { name: "tools", exact: true }).click();
  await page.keyboard.press("Escape");
  await form.getByRole("switch").first().click();
  await form.getByRole("button", { name: "Make the messages" }).click();
  await expect(form.getByText("“Nearly” begins at 50 % of the threshold.")).toBeVisible();
  // Another threshold is taken up by the messages.
  await form.getByLabel("Minimum cart value").fill("60.00");
  await expect(form.locator(".row.line", { hasText: "nearly" })).toContainText("€30.00");
  const account = form.getByRole("table", { name: "How the total comes about" });
  await expect(account).toContainText("nothing of what is in scope (tools) is left to take from");
  await form.getByRole("combobox", { name: "Add to cart" }).fill("Secateurs");
  await page.getByRole("option", { name: /Secateurs/ }).click();
  await expect(account).toContainText("€42.00: €18.00 are missing");
  await expect(page.getByText("is on").first()).toBeHidden();

  // The message on the page, through the lens, in the frame: and a click in the shop changes the lens's cart only.
  await page.locator(".sentence [data-part=page]").click();
  await page.getByRole("combobox", { name: "Page" }).fill("the cart");
  await page.getByRole("option", { name: /^the cart/ }).click();
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  const frame = page.frameLocator(".stage iframe");
  await expect(frame.locator("[data-mirada-slot=cart-note]")).toContainText("Only €18.00 to go: 5 € off tools");
  await frame.getByLabel("Quantity of Secateurs").fill("2");
  await frame.getByLabel("Quantity of Secateurs").press("Enter");
  await expect(frame.locator("[data-mirada-slot=cart-note]")).toContainText("5 € off tools: it is yours");
  await expect(frame.locator("[data-offer=tool-days], [data-offer=new-offer]")).toContainText("−€5.00");

  await page.getByRole("button", { name: "Publish" }).click();
  const dialog = page.getByRole("dialog", { name: "Publish" });
  await expect(dialog).toContainText("Tool days");
  await goLive(page);

  // An offer that is switched off leaves its messages without anything behind them: that is said before it goes live.
  await openScreen(page, "Content", "Offers");
  await page.locator(".listrow", { hasText: "Tool days" }).locator(".name").click();
  await form.getByRole("switch").first().click();
  await expect(page.locator(".topline .count")).toBeVisible({ timeout: 15_000 });
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(dialog.getByRole("note", { name: "Checks and findings" })).toContainText(
    "which is switched off: no visitor gets it",
  );
  await expect(dialog.getByRole("button", { name: "Publish anyway" })).toBeVisible();
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await form.getByRole("switch").first().click();

  // A visitor: add until it is reached, and take away again; without JavaScript.
  const visitor = await browser.newContext({ javaScriptEnabled: false });
  const other = await visitor.newPage();
  const note = other.locator(".note");
  await other.goto(`${shop}/tools/secateurs`);
  await other.getByRole("button", { name: "Add to cart" }).click();
  await expect(note).toContainText("Only €18.00 to go: 5 € off tools");
  await expect(other.locator("tfoot")).toContainText("€42.00");
  await other.getByLabel("Quantity of Secateurs").fill("2");
  await other.getByRole("button", { name: "Change" }).click();
  await expect(note).toContainText("5 € off tools: it is yours");
  await expect(other.locator("tfoot")).toContainText("−€5.00");
  await expect(other.locator("tr.total")).toContainText("€79.00");
  await other.getByRole("link", { name: "To the checkout" }).click();
  await expect(other.locator("tr.total")).toContainText("€79.00");
  await other.goBack();
  // A price or a quantity that a visitor makes up counts for nothing.
  await visitor.request
    .post(`${shop}/cart-change`, { form: { sku: "tool-01", do: "set", quantity: "-3", price: "1" }, maxRedirects: 0 })
    .catch(() => undefined);
  await other.getByRole("button", { name: "Remove" }).click();
  await expect(other.locator(".lead")).toContainText("It is empty");
  await visitor.close();
});

test("from what does not show to whoever sees it, and to the smallest change", async ({ page }) => {
  await openWorkbench(page);
  const row = page.locator("[data-variant=winter-light]");
  await expect(row.locator(".verdict")).toHaveText("Not shown");
  await row.getByRole("button", { name: "Smallest change to show it" }).click();
  await expect(page.getByText(/things changed: .*winter-light/)).toBeVisible();
  await expect(row.locator(".verdict")).toHaveText("Shown");
  await expect(page.locator(".sentence [data-part=place]")).toHaveText("Lisbon, Portugal");
  await page.locator("[data-variant=frost]").getByRole("button", { name: "Find a visitor who sees this" }).click();
  await expect(page.locator("[data-variant=frost] .verdict")).toHaveText("Shown");
  await openScreen(page, "Proof", "Findings");
  await expect(page.getByRole("status").filter({ hasText: "remarks" })).toBeVisible();
  const gap = page.locator("[data-kind=gap]").first();
  await gap.getByRole("button", { name: "View as this visitor" }).click();
  await expect(page.locator("[data-mirada-slot]").or(page.locator(".slotside"))).toBeVisible();
});
