import { AxeBuilder } from "@axe-core/playwright";
import type { Page } from "@playwright/test";

/** What of the page that is open now keeps people out, as axe judges it (WCAG 2.2, A and AA, and its own serious rules). */
export async function serious(page: Page, rules?: string[]): Promise<string[]> {
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

/** The same in both themes: all that axe knows in the light one, and colours in the dark one, where nothing else differs. */
export async function seriousInBoth(page: Page): Promise<string[]> {
  const found = await serious(page);
  await page.emulateMedia({ colorScheme: "dark" });
  for (const one of await serious(page, ["color-contrast"])) found.push(`dark: ${one}`);
  await page.emulateMedia({ colorScheme: "light" });
  return found;
}
