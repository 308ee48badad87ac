import { expect } from "@playwright/test";
import { hearHappened, openWorkbench, shopPort } from "../support";
import { putLive, tell, test } from "./task";

test("a test of 40, 40 and 20 is made, and visitors are shared out so", async ({ page, clicks, browser }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Footer help/ }).click();
  await page.getByRole("button", { name: "Edit the fallback" }).waitFor();
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: "A copy of the fallback" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Three ways to say it");
  await page.getByRole("button", { name: "Test it against another" }).click();
  await page.getByRole("menuitem", { name: "A copy of this text, to change" }).click();
  await page.getByRole("button", { name: "Add an arm" }).click();
  await page.getByRole("menuitem", { name: /A control/ }).click();
  const share = (name: string) => page.getByLabel(`Share of ${name} in percent`);
  await share("A").fill("40");
  await share("A").press("Tab");
  await share("B").fill("40");
  await share("B").press("Tab");
  // What was typed stays, and who is left has the rest.
  await expect(share("A")).toHaveValue("40");
  await expect(share("Control")).toHaveValue("20");
  await share("Control").fill("10");
  await share("Control").press("Tab");
  await expect(page.getByText("10 % are missing to 100")).toBeVisible();
  await expect(page.getByText("1 unfinished")).toBeVisible();
  await page.getByRole("button", { name: "Share out the rest" }).click();
  await expect(page.getByText("% are missing")).toHaveCount(0);
  await share("A").fill("40");
  await share("A").press("Tab");
  await share("B").fill("40");
  await share("B").press("Tab");
  await share("Control").fill("20");
  await share("Control").press("Tab");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await putLive(page);
  tell("test 40/40/20", clicks(), 24);

  // Each visitor who agreed keeps an arm, over several pages.
  for (let count = 0; count < 3; count++) {
    const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
    await context.addCookies([
      { name: "mirada-consent", value: "yes", url: `http://brackenfold.localhost:${shopPort}` },
    ]);
    const visitor = await context.newPage();
    const happened = await hearHappened(visitor);
    const exposures = () => happened.filter(({ kind, slot }) => kind === "exposure" && slot === "footer-help");
    for (const [index, path] of ["/", "/contact"].entries()) {
      await visitor.goto(`http://brackenfold.localhost:${shopPort}${path}`);
      // Whoever leaves a page before it is told has not seen it.
      await expect.poll(() => exposures().length).toBe(index + 1);
    }
    const seen = exposures();
    const arms = new Set(seen.map(({ variant, arm }) => `${variant}/${arm}`));
    expect(arms.size).toBe(1);
    for (const arm of arms) expect(arm).toMatch(/^fallback-copy\/(a|b|control)$/);
    await context.close();
  }
});
