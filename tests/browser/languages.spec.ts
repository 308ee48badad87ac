/** The interface in each of its languages: chosen once, kept, and nothing left in English, cut off or out of the window. */
import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { languageCookie } from "../../src/core/messages/languages";
import { allScreens } from "../../src/workbench/parts/desk/screens";
import { amiss } from "./amiss";
import { act, now } from "./as-before";
import { at, openWorkbench, test } from "./support";

const catalogueOf = (language: string) =>
  JSON.parse(readFileSync(`src/messages/${language}.json`, "utf8")) as Record<string, string>;

/** What can be read or heard on the page that is open now. The pages in frames are the sites’ own. */
const readable = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const out = new Set<string>();
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    while (walker.nextNode()) {
      const of = walker.currentNode.parentElement;
      if (of && !of.closest("script, style, code, [lang]:not(html)")) out.add(walker.currentNode.textContent ?? "");
    }
    for (const element of document.body.querySelectorAll("[aria-label], [title], [placeholder]"))
      for (const name of ["aria-label", "title", "placeholder"]) out.add(element.getAttribute(name) ?? "");
    return [...out].map((text) => text.trim()).filter((text) => text !== "");
  });

test("a language is chosen in the menu, and stays", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: /^You are/ }).click();
  await page.getByRole("menuitemradio", { name: "Deutsch" }).click();
  await expect(page.locator("html")).toHaveAttribute("lang", "de");
  await expect(page).toHaveTitle(/^Seiten · /);
  await expect(page.getByRole("button", { name: "Live stellen", exact: true })).toBeVisible();
  await expect(page.locator(".sentence")).toContainText("Ansicht von");
  // What is worked out in the browser, and what its workers find, speak it, too.
  await page.goto(at("/findings"));
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Befunde");
  await page.goto(at("/checks"));
  await expect(page.getByText(/^Erwartet: /).first()).toBeVisible();
  // So does what the server says.
  await page.goto(at("/settings"));
  await page.getByLabel("Ein weiterer Ursprung").or(page.getByLabel("Ein weiterer Host")).first().fill("no host!");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/ist kein Host/)).toBeVisible();
  await page.getByRole("button", { name: /^Sie sind/ }).click();
  await page.getByRole("menuitemradio", { name: "English" }).click();
  await expect(page.locator("html")).toHaveAttribute("lang", "en");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Settings");
});

for (const language of ["de", "pt"])
  test(`nothing is left in English, cut off or out of the window: ${language}`, async ({
    page,
    context,
    request,
    baseURL,
  }) => {
    test.setTimeout(240_000);
    // What the demo itself says stays as it was written: names of slots, pages and fields.
    const own = JSON.stringify([
      await now(request, "brackenfold"),
      await act(request, "brackenfold", "list", "pages", 0),
    ]);
    await context.addCookies([{ name: languageCookie, value: language, url: baseURL as string }]);
    const english = new Set(
      Object.entries(catalogueOf(language))
        .filter(([message, words]) => message.trim() !== words.trim() && / |^[A-Z]/.test(message.trim()))
        .map(([message]) => message.trim()),
    );
    const found: string[] = [];
    for (const { path } of allScreens) {
      await page.goto(at(path));
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeAttached();
      await page.waitForTimeout(500);
      for (const text of await readable(page))
        if (english.has(text) && !own.includes(JSON.stringify(text)) && path !== "/audit")
          found.push(`${path} says “${text}”`);
      for (const width of [1280, 1024]) {
        await page.setViewportSize({ width, height: 800 });
        await page.waitForTimeout(200);
        for (const one of await amiss(page)) found.push(`${path} at ${width}: ${one}`);
      }
    }
    expect(found).toEqual([]);
  });
