/** What readers see while a part that was pointed at is filled: frame by frame, as the browser paints. */
import { expect } from "@playwright/test";
import { port, test } from "./support";

const blog = `http://stone-and-moss.localhost:${port + 20}`;
const phone =
  "Mozilla/5.0 (Linux; Android 14; Pixel 8) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0.0.0 Mobile Safari/537.36";

test("from a reader’s second page on no frame shows the old text, and nothing moves", async ({ browser }) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] }, userAgent: phone });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const film: string[] = [];
    const moved: number[] = [];
    Object.assign(window, { film, moved });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) moved.push((entry as unknown as { value: number }).value);
    }).observe({ type: "layout-shift", buffered: true });
    const take = () => {
      const heading = document.querySelector("h1");
      if (heading) film.push(getComputedStyle(heading).visibility === "hidden" ? "" : (heading.textContent ?? ""));
      requestAnimationFrame(take);
    };
    requestAnimationFrame(take);
  });
  // On the first page of a tab the tag does not know yet which parts wait.
  await expect(async () => {
    await page.goto(`${blog}/about`);
    await expect(page.locator("[data-mirada-filled]").first()).toBeAttached({ timeout: 2000 });
  }).toPass();
  await expect(async () => {
    await page.goto(`${blog}/stones`);
    await expect(page.locator("h1")).toHaveText("Stones, gently", { timeout: 2000 });
  }).toPass();
  await page.waitForTimeout(500);
  const { film, moved } = await page.evaluate(() => {
    const { film, moved } = window as unknown as { film: string[]; moved: number[] };
    return { film, moved };
  });
  const shown = film.filter((text) => text !== "");
  console.log(`${film.length} frames, ${film.length - shown.length} of them before the heading was shown`);
  expect(shown.length).toBeGreaterThan(3);
  expect(shown.filter((text) => text !== "Stones, gently")).toEqual([]);
  expect(moved.reduce((sum, one) => sum + one, 0)).toBe(0);
  await context.close();
});
