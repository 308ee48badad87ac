/** Whether all is well: what runs is seen by developers, and by them alone. */
import { expect } from "@playwright/test";
import { at, openScreen, openWorkbench, signIn, test } from "./support";

test("what runs is told, and what failed; not to everybody", async ({ page, browser }) => {
  await openWorkbench(page);
  await openScreen(page, "Settings", "Health");
  const runs = page.getByRole("region", { name: "What runs" });
  for (const process of ["Delivery server", "Mirror", "Workbench and the site’s own application"]) {
    const row = runs.getByRole("row").filter({ hasText: process });
    await expect(row.first()).toContainText("Answers");
  }
  await expect(page.getByRole("region", { name: "What failed" })).toBeVisible();
  const author = await browser.newContext({ storageState: { cookies: [await signIn("Author")], origins: [] } });
  const theirs = await author.newPage();
  await theirs.goto(`http://localhost:${process.env.PORT ?? "4300"}${at("/health")}`);
  await expect(theirs.getByText("is looked at by developers of the site")).toBeVisible();
  await author.close();
});
