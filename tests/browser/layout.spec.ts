/**
 * Every screen, and everything that opens above one, at several widths – also as one that is enlarged to 200 % (640 px) and to 400 %
 * (320 px), and in the dark: nothing scrolls sideways, nothing is cut off or pushed out of the window, no text is under 12 px, no
 * target under 24 px (WCAG 2.2, 1.4.10 and 2.5.8; inline links in a text are exempt there), axe finds nothing serious, and each screen
 * has one main part, one heading of the first level and a title of its own.
 */
import { expect, type Locator, type Page } from "@playwright/test";
import { allScreens } from "../../src/workbench/parts/desk/screens";
import { replaceDraft } from "@/core/draft/replace";
import { amiss } from "./amiss";
import { act, now } from "./as-before";
import { everythingOpened } from "./opened";
import { seriousInBoth } from "./serious";
import { at, openWorkbench, row, test } from "./support";

const widths = [1920, 1440, 1280, 1024, 640, 320];

async function look(page: Page, what: string, at: readonly number[] = widths): Promise<string[]> {
  const found: string[] = [];
  for (const width of at) {
    await page.setViewportSize({ width, height: width <= 640 ? width * 0.625 : 800 });
    // Charts, frames and what floats follow a moment later.
    await page.waitForTimeout(200);
    for (const one of await amiss(page)) found.push(`${what} at ${width}: ${one}`);
  }
  return found;
}

test("every screen at every width, in both themes", async ({ page }) => {
  test.setTimeout(600_000);
  const found: string[] = [];
  const titles = new Set<string>();
  const more = ["/slots?show=variants", "/links?show=table", "/results?show=table", "/lenses?open=porto-returns"];
  for (const path of [...allScreens.map((screen) => screen.path), ...more]) {
    await page.goto(at(path));
    await expect(page.locator("main")).toHaveCount(1);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeAttached();
    await page.waitForTimeout(400);
    titles.add(await page.title());
    for (const one of await seriousInBoth(page)) found.push(`${path}: ${one}`);
    found.push(...(await look(page, path, widths)));
    await page.emulateMedia({ colorScheme: "dark" });
    found.push(...(await look(page, `${path}, dark,`, [1280])));
    await page.emulateMedia({ colorScheme: "light" });
  }
  expect(titles.size).toBe(allScreens.length);
  console.log(`  ${allScreens.length * (widths.length + 1)} looks at ${allScreens.length} screens`);
  expect(found).toEqual([]);
});

test("the line at the top, when most stands in it", async ({ page, request }) => {
  // What checks count on is gone, and something is unfinished: both are counted.
  const { draft } = await now(request, "brackenfold");
  if (!draft) throw new Error("The demo has no draft.");
  const bare = { ...draft.ruleset, slots: draft.ruleset.slots.map((slot) => ({ ...slot, variants: [] })) };
  await act(request, "brackenfold", "change", "Bare", replaceDraft(draft.ruleset, bare), crypto.randomUUID());
  await openWorkbench(page);
  await expect(page.getByRole("link", { name: /^Checks \d of \d/ })).toHaveClass(/problem/);
  expect(await look(page, "the line at the top", [1920, 1400, 1280, 1200, 1120, 1024, 640])).toEqual([]);
  await act(request, "brackenfold", "change", "Back", replaceDraft(bare, draft.ruleset), crypto.randomUUID());
});

for (const { address, where, before, opened } of everythingOpened)
  test(`what opens above a screen, at every width, in both themes: ${where}`, async ({ page }) => {
    test.setTimeout(300_000);
    await page.goto(address);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeAttached();
    await before?.(page);
    const found = await look(page, where, [1280, 1024, 640]);
    for (const one of await seriousInBoth(page)) found.push(`${where}: ${one}`);
    await page.setViewportSize({ width: 1280, height: 800 });
    for (const { what, open } of opened) {
      await open(page);
      await expect(
        page.locator("[role=dialog], [role=menu], [role=presentation].MuiModal-root").first(),
        what,
      ).toBeVisible();
      await page.waitForTimeout(300);
      for (const one of await seriousInBoth(page)) found.push(`${what}: ${one}`);
      found.push(...(await look(page, what, [1280, 1024, 640])));
      await page.setViewportSize({ width: 1280, height: 800 });
      // The list of a field is closed before what it stands in.
      await expect(async () => {
        await page.keyboard.press("Escape");
        await expect(page.locator("[role=dialog], .MuiModal-root:not([aria-hidden=true])")).toHaveCount(0, {
          timeout: 500,
        });
      }).toPass();
    }
    console.log(`  ${opened.length} things that open above ${where}`);
    expect(found).toEqual([]);
  });

test("the keyboard is seen wherever it is, and gets past the lines above a screen", async ({ page }) => {
  await openWorkbench(page);
  await page.locator("body").press("Tab");
  await expect(page.getByRole("link", { name: "Skip to the screen" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "The slot" })).toBeFocused();
  const unseen = new Set<string>();
  for (const screen of ["/pages", "/links", "/audiences", "/settings"]) {
    await page.goto(at(screen));
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeAttached();
    for (let step = 0; step < 60; step++) {
      await page.keyboard.press("Tab");
      const told = await page.evaluate(() => {
        const here = document.activeElement;
        if (!here || here === document.body || here.localName === "iframe") return undefined;
        // Some show it on what they stand in: a field by its border, a switch by its knob, a cursor by its head.
        const parts = [here, here.closest(".MuiInputBase-root"), here.closest(".MuiButtonBase-root")];
        const shown = parts.some((part) => {
          if (!part) return false;
          const { outlineStyle, outlineWidth } = getComputedStyle(part);
          const before = getComputedStyle(part, "::before");
          return (
            (outlineStyle !== "none" && parseFloat(outlineWidth) >= 1) ||
            part.matches(".MuiInputBase-root.Mui-focused") ||
            before.boxShadow !== "none"
          );
        });
        return shown
          ? undefined
          : `${here.localName}.${here.className} “${here.getAttribute("aria-label") ?? here.textContent}”`;
      });
      if (told) unseen.add(`${screen}: ${told.slice(0, 120)}`);
    }
  }
  expect([...unseen]).toEqual([]);
});

test("the keyboard stays where it was when what it was on is gone", async ({ page }) => {
  await openWorkbench(page);
  const slot = page.getByRole("complementary", { name: "The slot" });
  /** Whether the keyboard is in a part of the screen. */
  const isIn = (part: Locator) =>
    expect.poll(() => part.evaluate((it) => it.contains(document.activeElement))).toBe(true);
  await page.getByRole("button", { name: "Shade ferns", exact: true }).press("Enter");
  await expect(page.getByRole("button", { name: "Done" })).toBeVisible();
  await isIn(slot);
  await page.getByRole("button", { name: "Done" }).press("Enter");
  await expect(page.getByRole("button", { name: "Add a variant" })).toBeVisible();
  await isIn(slot);
  await page.getByRole("button", { name: "Delete Shade ferns" }).press("Enter");
  await expect(row(page, "Shade ferns")).toHaveCount(0);
  await isIn(slot);
  // On with the next thing there, not from the top.
  await page.keyboard.press("Tab");
  await isIn(slot);
  await page.locator(".topline").getByRole("button", { name: "Undo" }).click();
  await expect(row(page, "Shade ferns")).toHaveCount(1);
});

test("where the system sets all colours, what colours say stays: what is chosen, who wins when, which hours", async ({
  page,
}) => {
  await page.emulateMedia({ forcedColors: "active" });
  await openWorkbench(page);
  const background = (of: Locator) => of.evaluate((element) => getComputedStyle(element).backgroundColor);
  const widthOf = (name: string) => page.getByRole("button", { name, exact: true });
  await widthOf("Phone").click();
  await expect(widthOf("Phone")).toHaveAttribute("aria-pressed", "true");
  expect(await background(widthOf("Phone"))).not.toBe(await background(widthOf("Tablet")));
  // Every stretch is told, and those of different variants do not look the same.
  const stretches = page.getByRole("list", { name: /^Who wins when in / }).getByRole("listitem");
  await expect(stretches.first()).toHaveAccessibleName(/ to /);
  const colours = new Map<string, string>();
  for (const stretch of await stretches.all()) {
    const name = ((await stretch.getAttribute("aria-label")) ?? "").split(":")[0] as string;
    colours.set(name, await background(stretch));
  }
  expect(colours.size).toBeGreaterThan(1);
  expect(new Set(colours.values()).size).toBe(colours.size);
});

test("what a chart draws stands beside it as a table", async ({ page }) => {
  await page.goto(at("/results"));
  await page.getByText("The same as a table").click();
  const table = page.getByRole("table", { name: /, by day$/ });
  await expect(table.getByRole("columnheader").first()).toHaveText("Day");
  const cells = await table.getByRole("row").nth(1).getByRole("cell").allTextContents();
  expect(cells.length).toBeGreaterThan(0);
  expect(cells.every((text) => /^[\d,.]+$|^–$/.test(text))).toBe(true);
  // It follows what is drawn.
  await page.getByRole("combobox", { name: "What" }).click();
  await page.getByRole("option", { name: "Share who clicked, %" }).click();
  await expect(page.getByRole("table", { name: "Share who clicked, %, by day" })).toBeVisible();
});
