/** A site whose own server asks for each page's decision: it hands the lens on, and its page is looked at like any other. */
import { expect } from "@playwright/test";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { goLive, port, removeSite, site, test } from "./support";

const delivery = `http://localhost:${port + 1}`;
let server: Server;
let origin: string;
let secret = "";

test.beforeAll(async () => {
  server = createServer((request, response) => {
    void (async () => {
      const url = new URL(request.url ?? "/", origin);
      const look = url.searchParams.get("look") ?? undefined;
      for (const name of ["look", "turn"]) url.searchParams.delete(name);
      const answer = await fetch(`${delivery}/v1/decide`, {
        method: "POST",
        headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
        body: JSON.stringify({ visit: { at: "2026-11-24T10:00:00Z", url: url.href }, ...(look ? { look } : {}) }),
      });
      const { decision, look: lens } = (await answer.json()) as {
        decision?: { slots: Record<string, { content: { fields: { text: string } } | null }[]> };
        look?: true;
      };
      const text = decision?.slots.greeting?.[0]?.content?.fields.text ?? "Welcome";
      // Only a page that is made for a lens loads what lenses need, and nobody keeps it.
      const script = lens ? `<script src="${delivery}/v1/look.js" data-made></script>` : "";
      response.writeHead(200, { "content-type": "text/html", "cache-control": "no-store" });
      response.end(
        `<!doctype html><head>${script}</head><h1 data-mirada-slot="greeting">${text}</h1><a href="/next">Next</a><p>${url.pathname}</p>`,
      );
    })();
  });
  await new Promise<void>((ready) => server.listen(0, "127.0.0.1", ready));
  origin = `http://own-server.localhost:${(server.address() as AddressInfo).port}`;
});
test.afterAll(async ({ request }) => {
  server.close();
  await removeSite(request, `own-${new URL(origin).port}`, "Own server");
});

test("what the lens gets stands in the page that the server makes", async ({ page, browser }) => {
  const id = `own-${new URL(origin).port}`;
  const headers = { origin: `http://localhost:${port}` };
  const act = async (name: string, data: unknown[]) =>
    (await page.request.post(`/s/${id}/act/${name}`, { headers, data })).json();
  await page.request.post("/act/makeSite", {
    headers,
    data: [{ name: "Own server", id, origin, zone: "UTC", currency: "EUR", language: "en", copyOf: "" }],
  });
  await page.request.post(`/s/${id}/act/setHosts`, {
    headers,
    data: [{ others: [], lookedAt: null, lookedBy: "process" }],
  });
  secret = ((await act("makeKey", ["secret", "The server"])) as { key: string }).key;
  const says = (text: string) => [{ id: "a", weight: 100, content: { type: "notice", fields: { text }, tokens: {} } }];
  const item = {
    id: "greeting",
    name: "Greeting",
    pages: null,
    take: 1,
    fallback: { type: "notice", fields: { text: "Hello" }, tokens: {} },
    variants: [
      {
        id: "letter",
        name: "Readers",
        on: true,
        rule: { signal: "campaign.source", op: "is", value: "letter" },
        arms: says("Hello, reader"),
      },
    ],
  };
  await act("change", ["A slot", [{ do: "insert", list: ["slots"], index: 0, item }], crypto.randomUUID()]);
  // Before anything is live it can be looked at, too.
  await page.goto(`/s/${id}/pages`);
  await expect(site(page).locator("h1[data-mirada-mark]")).toHaveText("Hello", { timeout: 20_000 });
  await page.getByRole("button", { name: "Publish" }).click();
  await goLive(page);
  await page.goto(`/s/${id}/pages`);
  await expect(site(page).locator("h1[data-mirada-mark]")).toHaveText("Hello", { timeout: 20_000 });
  await page.getByLabel(/^Paste a link/).fill(`${origin}/?utm_source=letter`);
  await page.getByLabel(/^Paste a link/).press("Enter");
  await expect(site(page).locator("h1")).toHaveText("Hello, reader");
  // Links of the page lead on, with the lens.
  await site(page).getByRole("link", { name: "Next" }).dispatchEvent("click");
  await expect(site(page).locator("p")).toHaveText("/next");
  await page.getByRole("button", { name: "Pin Readers" }).click();
  await expect(site(page).locator("h1")).toHaveText("Hello, reader");
  await page.getByRole("button", { name: "Unpin" }).first().click();
  await expect(site(page).locator("h1")).toHaveText("Hello");
  // A parameter that names no pass is what anybody may write: an ordinary visit, without a byte of what lenses load.
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const visitor = await context.newPage();
  const asked: string[] = [];
  visitor.on("request", (request) => asked.push(request.url()));
  await visitor.goto(`${origin}/?utm_source=letter&look=${"x".repeat(24)}`);
  await expect(visitor.locator("h1")).toHaveText("Hello, reader");
  expect(asked.filter((url) => url.includes("look.js"))).toEqual([]);
  await context.close();
});
