import { expect } from "@playwright/test";
import { openScreen, openWorkbench } from "../support";
import { tell, test } from "./task";

test("a lens is shared to a phone by a code, and shows there what it shows here", async ({ page, clicks, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Lenses");
  await page.getByRole("button", { name: "Share Berlin, searching for shade" }).click();
  await page.getByRole("button", { name: "Create link" }).click();
  await expect(page.getByRole("img", { name: /^QR code of http/ }).locator("svg")).toBeVisible();
  tell("share to a phone", clicks(), 5);
  const own = new URL((await page.getByRole("link", { name: "Open it" }).getAttribute("href")) as string);
  const phone = await browser.newPage({ viewport: { width: 390, height: 780 } });
  await phone.goto(`http://localhost:${own.port}${own.pathname}`);
  await expect(phone.frameLocator("iframe").getByRole("heading", { name: "Ferns that love the dark" })).toBeVisible();
  await phone.close();
});
