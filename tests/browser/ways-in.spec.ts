/**
 * Ways in, on a site that knows nothing of the product, refuses frames and carries no tag: campaign links with what their visitors
 * get, an arrival through a lens, and single visits out of its own access log.
 */
import { expect, type Page } from "@playwright/test";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { makeSite, openScreen, removeSite, site, spot, test } from "./support";

const titles: Record<string, string> = {
  "/": "Bicycles that carry more than you",
  "/kinds": "Three kinds of carrying",
};
let server: http.Server;
let origin: string;
test.beforeAll(async () => {
  server = http.createServer((request, response) => {
    const title = titles[new URL(request.url ?? "/", "http://localhost").pathname];
    response.statusCode = title ? 200 : 404;
    response.setHeader("x-frame-options", "DENY");
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.end(`<!doctype html><html lang="en"><head><title>Harbour Cycles</title></head>
      <body><main><h1>${title ?? "Not here"}</h1><p>Built where the boats are.</p><a href="/kinds">Kinds</a></main></body></html>`);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  origin = `http://harbour-cycles.localhost:${(server.address() as AddressInfo).port}`;
});
test.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, "harbour-cycles", "Harbour Cycles");
});

const saved = (page: Page) => expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();

test("an arrival and a visit of a log are looked at through a lens, in the mirror", async ({ page }) => {
  await makeSite(page.request, "harbour-cycles", "Harbour Cycles", origin);
  await page.goto("/s/harbour-cycles/pages");
  const heading = site(page).locator("h1");
  await expect(heading).toHaveText("Bicycles that carry more than you", { timeout: 20_000 });

  // A heading for whoever comes by the letter of spring.
  await page.getByRole("button", { name: "Add a slot" }).first().click();
  await page.mouse.click(...(await spot(page, "h1")));
  await page.getByLabel("Name of the slot").fill("Heading");
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await page.getByRole("textbox", { name: "Words" }).fill("Spring is for carrying");
  await page.getByRole("button", { name: "Add a condition" }).click();
  await page.getByRole("combobox", { name: "What it depends on" }).fill("utm_campaign");
  await page.getByRole("option", { name: "Campaign name", exact: true }).click();
  await page.getByLabel("Value", { exact: true }).fill("spring");
  await page.keyboard.press("Tab");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);

  // Its link is a way in, with what it shows.
  await openScreen(page, "Campaigns", "Arrivals");
  await expect(page.getByText("Links that you keep are ways in")).toBeVisible();
  await page.getByRole("button", { name: "Make one" }).click();
  await page.getByRole("button", { name: "New link" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Letter of spring");
  await page.getByLabel("Campaign name", { exact: true }).fill("spring");
  await page.getByLabel("Source", { exact: true }).fill("letter");
  await page.keyboard.press("Tab");
  await openScreen(page, "Campaigns", "Arrivals");
  const letter = page.getByRole("region", { name: "Links from letter" }).getByRole("listitem");
  await expect(letter).toContainText("A changed copy");
  await letter.getByRole("button", { name: "View as this visitor" }).click();
  await expect(page.locator(".sentence")).toContainText("spring");
  await expect(heading).toHaveText("Spring is for carrying", { timeout: 20_000 });

  // Yesterday's visitors, out of its own log.
  await openScreen(page, "Proof", "Traffic");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Choose access logs" }).click(),
  ]);
  const line = (address: string, target: string, second: number) =>
    `${address} - - [04/Mar/2026:09:12:${second} +0000] "GET ${target} HTTP/1.1" 200 512 "-" ` +
    `"Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36"`;
  await chooser.setFiles({
    name: "harbour.log",
    mimeType: "text/plain",
    buffer: Buffer.from(
      `${[line("192.0.2.7", "/", 10), line("192.0.2.8", "/?utm_campaign=spring&utm_source=letter", 20), line("192.0.2.9", "/kinds", 30)].join("\n")}\n`,
    ),
  });
  const move = page.getByRole("row").filter({ hasText: "A changed copy" });
  await move.getByRole("button", { name: "Visit 1" }).click();
  await expect(page.locator(".sentence")).toContainText("Windows");
  await expect(heading).toHaveText("Spring is for carrying", { timeout: 20_000 });
  await expect(page.getByText("The mirror", { exact: true })).toBeVisible();
});
