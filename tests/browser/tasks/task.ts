/** What the tests of whole tasks share: clicks are counted, and what was there before is there again after. */
import { expect, type APIRequestContext, type Page } from "@playwright/test";
import { replaceDraft } from "@/core/draft/replace";
import type { SiteDraft } from "@/core/formats/site-draft";
import { goLive, port, test as plain } from "../support";

/** Asks an action of a site, as the owner. */
async function act<T>(request: APIRequestContext, site: string, name: string, ...input: unknown[]): Promise<T> {
  const answer = await request.post(`/s/${site}/act/${name}`, {
    headers: { origin: `http://localhost:${port}` },
    data: input,
  });
  expect(answer.ok(), `${name}: ${answer.status()}`).toBe(true);
  const text = await answer.text();
  return (text === "" ? undefined : JSON.parse(text)) as T;
}

interface DeskNow {
  draft?: { ruleset: SiteDraft };
  live?: { number: number };
}
const now = (request: APIRequestContext, site: string) => act<DeskNow>(request, site, "news", -1, "");

/** Puts the draft as it stands live, as its marketer does. */
export async function putLive(page: Page): Promise<void> {
  const live = page.locator(".topline").getByText(/^Live · release \d+$/);
  const before = (await live.textContent()) ?? "";
  await page.getByRole("button", { name: "Put live", exact: true }).click();
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
      const after = await now(request, keeps);
      await act(request, keeps, "trustProxies", []);
      if (before.draft && after.draft) {
        const edits = replaceDraft(after.draft.ruleset, before.draft.ruleset);
        if (edits.length > 0) await act(request, keeps, "change", "As before the test", edits, crypto.randomUUID());
      }
      if (before.live && after.live?.number !== before.live.number)
        await act(request, keeps, "returnTo", before.live.number, "As before the test");
    },
    { auto: true },
  ],
});

/** Prints how many clicks a task took, and holds it against how many it took before (counted by hand on the demo in November 2026). */
export function tell(task: string, took: number, before: number): void {
  console.log(`  ${task}: ${took} clicks, ${before} before`);
  expect(took).toBeLessThanOrEqual(before);
}
