/** What the tests of whole tasks share: clicks are counted, and what was there before is there again after. */
import { expect, type Page } from "@playwright/test";
import { act, now, restore } from "../as-before";
import { goLive, test as plain } from "../support";

/** Puts the draft as it stands live, as its marketer does. */
export async function putLive(page: Page): Promise<void> {
  const live = page.locator(".topline").getByText(/^Live · release \d+$/);
  const before = (await live.textContent()) ?? "";
  await page.getByRole("button", { name: "Publish", exact: true }).click();
  // What is said of an earlier release, by whomever, would be taken for this one's.
  await expect(async () => {
    await goLive(page);
    await expect(live).not.toHaveText(before, { timeout: 3000 });
  }).toPass({ timeout: 80_000 });
}

/** Counts the clicks on a page of the workbench. @returns how many it took so far */
export async function countClicks(page: Page): Promise<() => number> {
  let count = 0;
  await page.exposeFunction("miradaClicked", () => void count++);
  await page.addInitScript(() => {
    if (window.parent === window)
      document.addEventListener(
        "click",
        (event) =>
          event.isTrusted && event.detail > 0 && (window as unknown as { miradaClicked: () => void }).miradaClicked(),
        true,
      );
  });
  return () => count;
}

/**
 * A test of a task: `clicks` tells how many it took so far. Afterwards draft and live of the site (`keeps`) are as they were.
 */
export const test = plain.extend<{ clicks: () => number; keeps: string; kept: void }>({
  keeps: ["brackenfold", { option: true }],
  clicks: async ({ page }, give) => {
    await give(await countClicks(page));
  },
  kept: [
    async ({ request, keeps }, give) => {
      const before = await now(request, keeps);
      // Visitors come through a proxy of this machine, which tells from where.
      await act(request, keeps, "trustProxies", ["127.0.0.0/8"]);
      await give();
      await act(request, keeps, "trustProxies", []);
      await restore(request, keeps, before);
    },
    { auto: true },
  ],
});

/** Prints how many clicks a task took, and holds it against how many it took before (counted by hand on the demo in November 2026). */
export function tell(task: string, took: number, before: number): void {
  console.log(`  ${task}: ${took} clicks, ${before} before`);
  expect(took).toBeLessThanOrEqual(before);
}
