/** What changes a page's own content is kept in the library and picked from it; a slot whose place has gone is pointed at anew. */
import { expect, type Page } from "@playwright/test";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { makeSite, openScreen, removeSite, site, spot, test } from "./support";

const [id, name] = ["slow-bakers", "Slow Bakers"];
/** The class of the section that holds the heading: another one is another place. */
let place = "welcome";
let server: http.Server;
test.beforeAll(async ({ request }) => {
  server = http.createServer((_request, response) => {
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.end(`<!doctype html><html lang="en"><title>Slow Bakers</title><main>
      <section class="${place}"><h1>Bread that takes its time</h1><p>Two days from flour to crust.</p></section>
      <p>${"Baked on stone. ".repeat(20)}</p></main></html>`);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  await makeSite(request, id, name, `http://slow-bakers.localhost:${(server.address() as AddressInfo).port}`);
});
test.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, id, name);
});

const heading = (page: Page) => site(page).locator("h1");
async function pointAtSection(page: Page): Promise<void> {
  await page.mouse.click(...(await spot(page, "h1")));
  await page
    .getByRole("group", { name: "What it lies in" })
    .getByRole("button", { name: /^Section/ })
    .click();
}
async function chooseText(page: Page, what: RegExp): Promise<void> {
  await page.getByRole("button", { name: "Texts …" }).click();
  await page.getByRole("menuitem", { name: what }).click();
}

test("a changed copy is kept in the library and picked; its lost place is pointed at anew", async ({ page }) => {
  await page.goto(`/s/${id}/pages?point=slot`);
  await expect(page.getByRole("heading", { name: "A new slot" })).toBeVisible();
  await expect(heading(page)).toHaveText("Bread that takes its time");
  await pointAtSection(page);
  await page.getByLabel("Name of the slot").fill("Welcome");
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await page.getByRole("textbox", { name: "Words" }).first().fill("Bread for late risers");
  await expect(heading(page)).toHaveText("Bread for late risers");

  await chooseText(page, /^Keep this text/);
  await openScreen(page, "Content", "Library");
  await expect(page.getByText("What stands there, changed")).toBeVisible();
  await page.getByRole("combobox", { name: "Labels" }).fill("risers");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Tab");

  await page.goto(`/s/${id}/pages?slot=welcome`);
  await page.getByRole("button", { name: "Copy A changed copy" }).click();
  await chooseText(page, /^Pick a block/);
  await expect(page.getByText("first of 1 that fits")).toBeVisible();
  await page.getByRole("switch").first().check();
  await page.getByRole("link", { name: "A changed copy" }).click();

  // Written once more in the library, it is on the page.
  await page.getByRole("textbox", { name: "Words" }).fill("Bread for early risers");
  await page.keyboard.press("Tab");
  await page.getByRole("link", { name: "Welcome, A changed copy, copy" }).click();
  await expect(heading(page)).toHaveText("Bread for early risers");
  await page.getByRole("button", { name: "Done" }).click();

  // The page has another place for it: nothing is broken, it is said, and mended in one step.
  place = "opening";
  await page.reload();
  await expect(heading(page)).toHaveText("Bread that takes its time");
  const notice = page.getByRole("status").filter({ hasText: "“Welcome” has no place on this page" });
  await notice.getByRole("button", { name: "Point at it anew" }).click();
  await pointAtSection(page);
  await page.getByRole("button", { name: "Use this place" }).click();
  await expect(heading(page)).toHaveText("Bread for early risers");
  await expect(notice).toBeHidden();
});
