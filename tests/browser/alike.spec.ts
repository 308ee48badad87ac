/**
 * Parts that stand on a page many times, and parts that draw themselves apart from it (open shadow roots), on a site that knows
 * nothing of the product: pointed at once, changed in each place, also in those that come later, and taken back with the draft.
 */
import { expect, type Page } from "@playwright/test";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { goLive, makeKey, makeSite, port, removeSite, site, spot, test } from "./support";

/** The tag, once there is one. */
let tag = "";
const pans = ["Sauté pan", "Stock pot", "Fish kettle"];
const tip = (words: string) => `<li><b>${words}</b> <a class="more" href="/${words.length}">Read on</a></li>`;
/** Its cards draw themselves a moment after the page, and one tip comes later than the others. */
const html = () => `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Copper Lane</title>${tag}</head>
  <body><header><copper-bar></copper-bar></header>
  <main><h1>Pans that outlive you</h1>
  <p>Hammered by hand in a lane behind the market, one at a time, from sheets two millimetres thick, tinned on Fridays.</p>
  <ul class="tips">${["Warm it slowly", "Never dry", "Tin it again"].map(tip).join("")}</ul>
  <div class="cards">${pans.map((name) => `<copper-card name="${name}"></copper-card>`).join("")}</div>
  <sealed-box></sealed-box>
  <iframe title="The weather" srcdoc="<p>Wind from the west</p>" width="300" height="60"></iframe></main>
  <script>
    const apart = (name, mode, draw) => customElements.define(name, class extends HTMLElement {
      connectedCallback() { this.attachShadow({ mode }).innerHTML = draw(this); }
    });
    setTimeout(() => {
      apart("copper-card", "open", (card) =>
        "<h3>" + card.getAttribute("name") + '</h3><p>By hand</p><a class="buy" href="/buy">Put in the basket</a>');
      apart("copper-bar", "open", () => '<nav><a href="/">Home</a> <span class="promise">Free post from €120</span></nav>');
      apart("sealed-box", "closed", () => '<p style="padding: 20px">Nobody gets in here</p>');
    }, 150);
    setTimeout(() => document.querySelector(".tips").insertAdjacentHTML("beforeend", ${JSON.stringify(tip("Scour with salt"))}), 700);
  </script></body></html>`;

let server: http.Server;
let origin: string;
test.beforeAll(async () => {
  server = http.createServer((_, response) => {
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.end(html());
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  origin = `http://copper-lane.localhost:${(server.address() as AddressInfo).port}`;
});
test.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, "copper-lane", "Copper Lane");
});

const words = (page: Page) => page.getByRole("textbox", { name: "Words" });
const done = async (page: Page) => {
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.locator(".topline").getByText("Saved", { exact: true })).toBeVisible();
};

test("each like it, in the page and in what draws itself apart, before the tag is in and after", async ({
  page,
  browser,
}) => {
  await makeSite(page.request, "copper-lane", "Copper Lane", origin);
  await page.goto("/s/copper-lane/pages");
  const seen = site(page);
  await expect(seen.locator(".tips li")).toHaveCount(4, { timeout: 20_000 });
  const add = page.getByRole("button", { name: "Add a slot" }).first();
  const aimed = page.locator(".aimed");
  const like = page.getByRole("checkbox", { name: /^Each like it/ });

  // A link that stands there four times: one of it is found by itself, or each.
  await add.click();
  await page.mouse.click(...(await spot(page, ".tips li:nth-child(2) a")));
  await expect(aimed).toHaveText("Link “Read on”");
  await expect(page.getByText("Found once on 1 page")).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "Each like it: 4 on this page" })).not.toBeChecked();
  await like.check();
  await expect(page.getByText("Found on 1 page")).toBeVisible();
  await page.getByLabel("Name of the slot").fill("The links of tips");
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await words(page).fill("How it is done");
  const tips = (where: { locator: Page["locator"] }) => where.locator(".tips a");
  await expect(tips(seen)).toHaveText(Array<string>(4).fill("How it is done"));
  await done(page);

  // In each of three parts that draw themselves apart; what they say is not the same, so it is changed for all.
  await add.click();
  await page.mouse.click(...(await spot(page, "copper-card:nth-child(2) h3")));
  await expect(aimed).toHaveText("Heading “Stock pot”");
  await expect(page.getByText("It lies in a part that draws itself apart")).toBeVisible();
  await like.check();
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await expect(page.getByText("It is not the same in each place of the slot")).toBeVisible();
  await words(page).fill("Tinned on Friday");
  const heads = (where: { locator: Page["locator"] }) => where.locator("copper-card h3");
  await expect(heads(seen)).toHaveText(Array<string>(3).fill("Tinned on Friday"));
  await done(page);

  // By keyboard into such a part, and a new place beside what is in it.
  await add.click();
  await expect(aimed).toHaveText("Heading “Pans that outlive you”");
  await seen.locator("body").press("ArrowLeft");
  await expect(aimed).toHaveText("Text “Free post from €120”");
  await page.keyboard.press("Enter");
  await expect(like).toHaveCount(0);
  await page.getByText("How it is found").click();
  await expect(page.getByText("span.promise within header copper-bar")).toBeVisible();
  await page.getByRole("button", { name: "Copy what stands there" }).click();
  await words(page).fill("Free post from €90");
  await expect(seen.locator("copper-bar .promise")).toHaveText("Free post from €90");
  await done(page);

  // Into what lets nobody in, nobody gets: as a whole it can be hidden.
  await add.click();
  await page.mouse.click(...(await spot(page, "sealed-box")));
  const sealed = page.getByText("This part draws itself apart from the page and lets nobody in");
  await expect(sealed).toBeVisible();
  // Nor into a page of its own in a frame, by mouse or by keyboard; what was said of another part is over.
  const framed = page.getByText("This part is a page of its own in a frame, and out of reach from here");
  await page.getByRole("button", { name: "Point at another part" }).click();
  await page.mouse.move(...(await spot(page, "h1")));
  await expect(aimed).toHaveText("Heading “Pans that outlive you”");
  await expect(sealed).toHaveCount(0);
  await seen.locator("iframe").scrollIntoViewIfNeeded();
  await page.mouse.move(...(await spot(page, "iframe")));
  await expect(aimed).toHaveText("Frame “The weather”");
  await page.mouse.click(...(await spot(page, "iframe")));
  await expect(framed).toBeVisible();
  await expect(page.getByText("Found once on 1 page")).toBeVisible();
  await page.getByRole("button", { name: "Point at another part" }).click();
  await page.mouse.move(...(await spot(page, "sealed-box")));
  await expect(framed).toHaveCount(0);
  await seen.locator("body").press("Escape");
  await expect(aimed).toHaveCount(0);
  await add.click();
  await expect(aimed).toHaveText("Heading “Pans that outlive you”");
  await seen.locator("body").press("ArrowUp");
  await expect(aimed).toHaveText("Main part with “Pans that outlive you”");
  await page.getByRole("button", { name: "End pointing" }).click();

  // A click on a part of the page opens its slot, within what draws itself apart, too.
  await page.mouse.click(...(await spot(page, "copper-bar .promise")));
  await expect(page.getByRole("heading", { name: "Text “Free post from €120”" })).toBeVisible();

  await page.getByRole("button", { name: "Publish" }).click();
  await goLive(page);

  tag = `<script async src="http://localhost:${port + 1}/v1/page.js" data-key="${await makeKey(page.request, "copper-lane")}" data-wait="3000"></script>`;
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const visitor = await context.newPage();
  const events: { kind: string; slot: string }[] = [];
  await visitor.addInitScript(() => Object.assign(navigator, { sendBeacon: () => false }));
  visitor.on("request", (request) => {
    if (request.url().endsWith("/v1/events"))
      events.push(...(JSON.parse(request.postData() ?? "{}") as { events: typeof events }).events);
  });
  await visitor.goto(origin);
  await expect(tips(visitor)).toHaveText(Array<string>(4).fill("How it is done"));
  await expect(heads(visitor)).toHaveText(Array<string>(3).fill("Tinned on Friday"));
  await expect(visitor.locator("copper-bar .promise")).toHaveText("Free post from €90");
  // What came later is in it, and nothing was told more than once.
  const kinds = () => events.map(({ kind, slot }) => `${kind} ${slot}`).sort();
  await expect.poll(kinds).toHaveLength(3);
  await visitor.locator("copper-card .buy").first().waitFor();
  await visitor.evaluate(() => document.addEventListener("click", (event) => event.preventDefault()));
  await tips(visitor).nth(3).click();
  await expect
    .poll(kinds)
    .toEqual([
      "click the-links-of-tips",
      ...["heading-stock-pot", "text-free-post-from-120", "the-links-of-tips"].map((slot) => `exposure ${slot}`),
    ]);
  await context.close();

  // The tagged page is looked at where it is, with the same in it.
  await page.goto("/s/copper-lane/pages");
  await expect(seen.locator("[data-mirada-mark]").first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText("The mirror", { exact: true })).toHaveCount(0);
  await expect(tips(seen)).toHaveText(Array<string>(4).fill("How it is done"));
  await expect(heads(seen)).toHaveText(Array<string>(3).fill("Tinned on Friday"));
});
