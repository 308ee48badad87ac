/** Takes the README's pictures from a running, freshly reset demo. Run: npm run screenshots */
import { chromium } from "@playwright/test";

const port = Number(process.env.PORT ?? 4300);

async function main(): Promise<void> {
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const shot = async (name: string) => {
    await page.waitForTimeout(1800);
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
  };
  await page.goto(`http://localhost:${port}/sign-in`);
  await page.getByRole("button", { name: /^Owner/ }).click();
  await page.waitForURL(/\/(sites|s\/)/);
  await page.goto(`http://localhost:${port}/s/brackenfold/pages`);
  await page.frameLocator("iframe").first().locator("[data-mirada-mark]").first().waitFor();
  await shot("main");
  await page.getByRole("button", { name: "Repotting clinic", exact: true }).click();
  await page.locator(".editor .says").click();
  await page
    .locator(".editor")
    .getByRole("heading", { name: "Who sees it" })
    .evaluate((heading) => heading.scrollIntoView());
  await shot("edit");
  await page.getByRole("button", { name: "Done" }).click();
  await page.locator("[data-variant=shade-search]").hover();
  await page.getByRole("button", { name: "Copy Shade ferns", exact: true }).click();
  await page.getByLabel("Name", { exact: true }).fill("Shade ferns, by phone");
  await page.getByLabel("Headline", { exact: true }).fill("Ferns for the dark corner");
  await page.getByRole("switch").first().check();
  await page.waitForTimeout(800);
  await page.getByRole("button", { name: "Done" }).click();
  // A copy stands below the one copied: it is moved above.
  await page.getByRole("button", { name: /^Move Shade ferns, by phone/ }).focus();
  for (const key of ["Space", "ArrowUp", "Space"]) {
    await page.keyboard.press(key);
    await page.waitForTimeout(400);
  }
  await page.getByRole("button", { name: "Publish" }).click();
  await shot("live");
  await page.keyboard.press("Escape");
  await page.goto(`http://localhost:${port}/s/brackenfold/releases?open=draft`);
  await page.locator(".effects li").first().waitFor();
  await page.locator(".sitecell[data-ready]").nth(1).waitFor();
  await shot("releases");
  for (const name of ["audiences", "places", "settings"]) {
    await page.goto(`http://localhost:${port}/s/brackenfold/${name}`);
    if (name === "audiences") await page.locator("[data-row=iberian-phones] .name").click();
    if (name === "audiences") await page.locator(".opened .says").first().click();
    if (name === "places") await page.getByRole("button", { name: "Europe", exact: true }).click();
    await shot(name);
  }
  await page.goto(`http://localhost:${port}/s/brackenfold/offers`);
  await page.getByRole("button", { name: /^Lens:/ }).click();
  await page.getByRole("menuitem", { name: "Porto, keeps returning to ferns" }).click();
  await page.getByRole("heading", { name: "On this cart" }).evaluate((heading) => heading.scrollIntoView());
  await shot("offers");
  for (const name of ["popups", "library"]) {
    await page.goto(`http://localhost:${port}/s/brackenfold/${name}`);
    await shot(name);
  }
  await page.goto(`http://localhost:${port}/s/brackenfold/slots?show=variants&only-slot=Home+hero`);
  for (const name of ["Shade ferns", "Frost warning"]) await page.getByLabel(`Choose ${name} of Home hero`).check();
  await shot("slots");
  await page.goto(`http://localhost:${port}/s/brackenfold/links?open=letter-reminder`);
  await shot("links");
  await page.goto(`http://localhost:${port}/s/brackenfold/results`);
  await page.getByRole("region", { name: "Test: Promise on products" }).waitFor();
  await shot("results");
  await page.goto(`http://localhost:${port}/s/brackenfold/pages?lens=lisbon-desk&slot=home-hero`);
  await page.locator("[data-variant=partner]").hover();
  await page.getByRole("button", { name: "Switch From Stone & Moss off" }).click();
  await page.getByRole("status").filter({ hasText: "Saved" }).waitFor();
  await page.goto(`http://localhost:${port}/s/brackenfold/traffic`);
  await page.getByRole("button", { name: /made-up log/ }).click();
  await page.getByRole("region", { name: "What would change" }).waitFor({ timeout: 90_000 });
  await shot("traffic");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.waitForTimeout(800);
  for (const name of ["lenses", "sheet"]) {
    await page.goto(`http://localhost:${port}/s/brackenfold/${name}`);
    await page.locator(".sitecell[data-ready]").nth(2).waitFor();
    if (name === "sheet") await page.getByRole("button", { name: "Compare with this" }).first().click();
    await page.waitForTimeout(2500);
    await shot(name);
  }
  await page.goto(`http://localhost:${port}/s/brackenfold/findings`);
  await page.getByText("remarks").waitFor();
  await shot("findings");
  await page.goto(`http://localhost:${port}/s/brackenfold/checks`);
  await page.getByRole("button", { name: "Create for every variant" }).click();
  await page.locator("tr[data-row]").nth(10).waitFor();
  await page.getByRole("button", { name: "Test live site" }).click();
  await page.getByText("✓ Site").nth(5).waitFor();
  await page.getByText("Asking the site").waitFor({ state: "hidden" });
  await page.getByText("checks made").waitFor({ state: "hidden" });
  await shot("checks");
  await page.goto(`http://localhost:${port}/s/stone-and-moss/pages?slot=heading`);
  await page.frameLocator("iframe").first().locator("[data-mirada-mark]").first().waitFor();
  await page.getByRole("button", { name: "Add a slot" }).click();
  await page.frameLocator("iframe").first().locator("body").press("ArrowRight");
  await page.getByRole("button", { name: "Take this part" }).click();
  await page.getByText("Found once on").waitFor();
  await shot("pointing");
  await browser.close();
}
void main();
