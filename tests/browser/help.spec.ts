/** Help inside the product: guides that are searched, words that are explained, keys on one sheet; and the theme that one chooses. */
import { expect } from "@playwright/test";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { at, dependOn, makeSite, openWorkbench, removeSite, spot, test } from "./support";

test("the guides are searched and read beside the screen, by mouse and by keyboard", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: "Help", exact: true }).click();
  await page.getByRole("menuitem", { name: "Guides and words" }).click();
  const search = page.getByRole("textbox", { name: "Search the guides" });
  await expect(search).toBeFocused();
  await search.fill("holdout");
  await page.getByRole("button", { name: "Live", exact: true }).click();
  const text = page.getByRole("region", { name: "Live" });
  await expect(text).toContainText("a share of visitors that sees no variant and no pop-up");
  await page.getByRole("button", { name: "All help" }).click();
  // The reference is in it, signal by signal.
  await search.fill("cart.subtotal");
  await page.getByRole("button", { name: "Signals: Cart" }).click();
  await expect(page.getByRole("region", { name: "Signals: Cart" }).getByRole("row").nth(1)).toContainText(
    "Value of the items in the cart, before offers.",
  );
  await page.getByRole("button", { name: "All help" }).click();
  await search.fill("zebra crossing");
  await expect(page.getByText("No section has these words.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(search).toBeHidden();
  await expect(page.getByRole("button", { name: "Help", exact: true })).toBeFocused();
});

test("guides that cannot be read say so, and are asked for again", async ({ page }) => {
  await openWorkbench(page);
  await page.route("**/act/guides", (route) => route.abort("connectionrefused"));
  await page.getByRole("button", { name: "Help", exact: true }).click();
  await page.getByRole("menuitem", { name: "Guides and words" }).click();
  await expect(page.getByText("The guides could not be read")).toBeVisible();
  await page.unroute("**/act/guides");
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByRole("button", { name: "The visit sentence" })).toBeVisible();
});

test("“?” shows the keys, but not where one writes", async ({ page }) => {
  await openWorkbench(page);
  const sheet = page.getByRole("dialog", { name: "Keyboard shortcuts" });
  await page.getByRole("textbox", { name: /^Paste a link/ }).focus();
  await page.keyboard.press("?");
  await expect(sheet).toBeHidden();
  await page.getByRole("button", { name: "Help", exact: true }).focus();
  await page.keyboard.press("?");
  await expect(sheet).toContainText("Go anywhere");
  await page.keyboard.press("Escape");
  await expect(sheet).toBeHidden();
});

test("each signal and operator says what it is where it is chosen", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: "Shade ferns", exact: true }).click();
  await page.getByRole("button", { name: /^the search contains any of the words/ }).click();
  const box = page.getByRole("combobox", { name: "What it depends on" });
  await expect(box).toHaveAccessibleDescription(/^Words that the visitor searched for/);
  await box.fill("returning");
  await expect(page.getByRole("option", { name: "Returning visitor" })).toHaveAccessibleDescription(
    "Whether the visitor has been here on an earlier visit.",
  );
  await page.keyboard.press("Escape");
  await page.getByRole("combobox", { name: "How it is compared" }).click();
  await expect(page.getByRole("option", { name: "contains the phrase" })).toHaveAccessibleDescription(
    "These words follow one another in it.",
  );
});

test("the theme is the system’s, or the one that is chosen, from the first moment on", async ({ page }) => {
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme);
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const choose = async (name: string) => {
    await page.getByRole("button", { name: /^You are/ }).click();
    await page.getByRole("menuitemradio", { name }).click();
    await page.keyboard.press("Escape");
  };
  await page.emulateMedia({ colorScheme: "light" });
  await openWorkbench(page);
  expect(await theme()).toBe("light");
  const light = await ground();
  await page.emulateMedia({ colorScheme: "dark" });
  await expect.poll(theme).toBe("dark");
  expect(await ground()).not.toBe(light);
  await choose("Light theme");
  await expect.poll(theme).toBe("light");
  expect(await ground()).toBe(light);
  // It is on before anything is drawn: nothing flashes.
  await page.addInitScript(() => {
    new MutationObserver((_, watch) => {
      if (!document.querySelector(".topline")) return;
      (window as { first?: string | undefined }).first = document.documentElement.dataset.theme;
      watch.disconnect();
    }).observe(document, { childList: true, subtree: true });
  });
  await page.goto(at("/results"));
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  expect(await page.evaluate(() => (window as { first?: string }).first)).toBe("light");
  await choose("Theme of the system");
  await expect.poll(theme).toBe("dark");
});

test("the first steps lead a new site from a part of its page to what is live, and come back from Help", async ({
  page,
  request,
}) => {
  const [id, name] = ["tin-kettle", "Tin Kettle"];
  const server = http.createServer((_request, response) => {
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.end(`<!doctype html><html lang="en"><title>Tin Kettle</title><main><section class="welcome">
      <h1>Kettles that last</h1><p>Made by hand.</p></section><p>${"Of tin and copper. ".repeat(20)}</p></main></html>`);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const origin = `http://tin-kettle.localhost:${(server.address() as AddressInfo).port}`;
  await makeSite(request, id, name, origin);
  try {
    await page.goto(`/s/${id}/pages`);
    const steps = page.getByRole("region", { name: "First steps" });
    const current = steps.locator("[aria-current=step]");
    const showMe = steps.getByRole("button", { name: "Show me" });
    await expect(current).toContainText("Point at a part");
    await showMe.click();
    await expect(page.getByRole("heading", { name: "A new slot" })).toBeVisible();
    await page.mouse.click(...(await spot(page, "h1")));
    await page.getByRole("button", { name: "Copy what stands there" }).click();
    await page.getByRole("textbox", { name: "Words" }).first().fill("Kettles for cold mornings");
    await expect(current).toContainText("Say who sees it");
    await showMe.click();
    await expect(page.getByRole("button", { name: "Add a condition" })).toBeFocused();
    await page.keyboard.press("Enter");
    await dependOn(page, "Campaign source");
    await page.getByLabel("Value", { exact: true }).fill("letter");
    await page.keyboard.press("Tab");
    await page.getByRole("switch").first().check();
    await expect(current).toContainText("View as 3 visitors");
    const paste = page.getByRole("textbox", { name: /^Paste a link/ });
    for (const source of ["letter", "poster"]) {
      await paste.fill(`${origin}/?utm_source=${source}`);
      await paste.press("Enter");
      await expect(page.locator(".sentence")).toContainText(source);
    }
    await expect(current).toContainText("Publish");
    await showMe.click();
    await expect(page.getByRole("button", { name: "Publish", exact: true })).toBeFocused();
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Publish now" }).click();
    await expect(steps).toContainText("All done: your first variant is live.");
    await steps.getByRole("button", { name: "Close the first steps" }).click();
    await page.reload();
    await expect(page.getByRole("button", { name: "Publish", exact: true })).toBeVisible();
    await expect(steps).toBeHidden();
    await page.getByRole("button", { name: "Help", exact: true }).click();
    await page.getByRole("menuitem", { name: "First steps" }).click();
    await expect(steps).toBeVisible();
  } finally {
    server.close();
    await removeSite(request, id, name);
  }
});
