import { expect } from "@playwright/test";
import { openWorkbench, row, site } from "../support";
import { tell, test } from "./task";

test("why it is not shown: from the empty place to the condition, and to a visitor who sees it", async ({
  page,
  clicks,
}) => {
  await openWorkbench(page);
  await site(page).locator('[data-mirada-slot="home-quiz"]').click();
  const why = page.getByRole("region", { name: "Why nothing is shown here" });
  await expect(why).toContainText("because: no parameter “choice”");
  await why.getByRole("button", { name: "Smallest change to show something" }).click();
  await expect(row(page, "Came from the quiz").locator(".verdict")).toHaveText("Shown");
  tell("why not shown", clicks() + 1, 5);
  // What the visitor of the lens gets is what a visitor with that link gets.
  await expect(site(page).locator('[data-mirada-slot="home-quiz"]')).toContainText("a plant for");
});
