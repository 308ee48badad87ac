import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";
import { allScreens } from "../../src/workbench/parts/desk/screens";
import { at, openWorkbench, test } from "./support";

/** What of the page that is open now keeps people out, as axe judges it (WCAG 2.2, A and AA, and its own serious rules). */
async function serious(page: Page, rules?: string[]): Promise<string[]> {
  // The pages in frames are the sites’ own, and are not looked into.
  const axe = new AxeBuilder({ page }).exclude("iframe").setLegacyMode();
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  return violations
    .filter((item) => item.impact === "serious" || item.impact === "critical")
    .map(
      (item) =>
        `${item.id}: ${item.nodes
          .map((node) => node.target.join(" "))
          .slice(0, 4)
          .join(" | ")}`,
    );
}

for (const scheme of ["light", "dark"] as const) {
  test(`no serious accessibility finding on the main screen, its editor, menus and dialogs, ${scheme}`, async ({
    page,
  }) => {
    await page.emulateMedia({ colorScheme: scheme });
    await openWorkbench(page);
    expect(await serious(page)).toEqual([]);
    await page.getByRole("button", { name: "Repotting clinic", exact: true }).click();
    expect(await serious(page)).toEqual([]);
    const opened: [string, () => Promise<unknown>][] = [
      ["publish", () => page.getByRole("button", { name: "Publish", exact: true }).click()],
      ["go anywhere", () => page.keyboard.press("Control+k")],
      ["shortcuts", () => page.keyboard.press("?")],
      ["screens", () => page.getByRole("button", { name: /^Content/ }).click()],
      ["oneself", () => page.getByRole("button", { name: /^You are/ }).click()],
      ["lenses", () => page.getByRole("button", { name: /^Lens:/ }).click()],
      ["location", () => page.locator(".sentence [data-part=place]").click()],
    ];
    for (const [what, open] of opened) {
      await page.locator(".topline .mark").focus();
      await open();
      await page.waitForTimeout(300);
      expect(await serious(page), what).toEqual([]);
      // A list that is open in a field is closed first.
      await expect(async () => {
        await page.keyboard.press("Escape");
        await expect(page.locator(".MuiPopover-root, [role=dialog]")).toHaveCount(0, { timeout: 1000 });
      }).toPass();
    }
  });

  // What differs in the dark are the colours.
  test(`no serious accessibility finding on any screen, ${scheme}`, async ({ page }) => {
    test.setTimeout(240_000);
    await page.emulateMedia({ colorScheme: scheme });
    const found: string[] = [];
    const more = ["/slots?show=variants", "/links?show=table", "/lenses?open=porto-returns"];
    for (const path of [...allScreens.map((screen) => screen.path), ...more]) {
      await page.goto(at(path));
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeAttached();
      await page.waitForTimeout(300);
      for (const one of await serious(page, scheme === "dark" ? ["color-contrast"] : undefined))
        found.push(`${path}: ${one}`);
    }
    expect(found).toEqual([]);
  });
}

test("the whole of a rule is built with the keyboard alone", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: "Add a variant" }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter"); // Blank
  await page.getByRole("button", { name: "Add a condition" }).focus();
  await page.keyboard.press("Enter");
  // The new condition has the focus.
  await page.keyboard.type("campaign medium");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.getByLabel("Value", { exact: true }).focus();
  await page.keyboard.type("email");
  await page.keyboard.press("Tab");
  await expect(page.locator(".editor .rule")).toHaveText("when the campaign medium is “email”");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Done" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-variant=new-variant]")).toBeVisible();
  for (let count = 0; count < 12 && (await page.locator("[data-variant=new-variant]").count()) > 0; count++) {
    await page.keyboard.press("Control+z");
    await page.waitForTimeout(200);
  }
  await expect(page.locator("[data-variant=new-variant]")).toHaveCount(0);
});
