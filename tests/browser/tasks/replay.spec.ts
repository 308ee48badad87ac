import { expect } from "@playwright/test";
import { openScreen, openWorkbench } from "../support";
import { tell, test } from "./task";

test("a log is replayed: what the draft would have shown to yesterday's visitors", async ({ page, clicks }) => {
  await openWorkbench(page);
  await openScreen(page, "Proof", "Traffic");
  await page.getByRole("button", { name: /made-up log of 200,000/ }).click();
  await expect(page.getByRole("region", { name: "What would change" })).toContainText("200,000", { timeout: 120_000 });
  tell("replay", clicks(), 4);
});
