/** What happens in the shop is told: seen, clicked, ordered; by whom is not. */
import { expect } from "@playwright/test";
import { shopPort, test } from "./support";

/** The shop’s name, for requests that are not the browser’s: Node.js does not know names under localhost. */
const shopHost = { headers: { host: `brackenfold.localhost:${shopPort}` } };

test("exposures, clicks and an order become events, with consent as firsts, and never with who it was", async ({
  browser,
  request,
}) => {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  const shop = `http://brackenfold.localhost:${shopPort}`;
  const sent: Record<string, unknown>[][] = [];
  // What a beacon carries cannot be read from outside: it is written down as it is sent.
  await context.exposeFunction("record", (text: string) => sent.push((JSON.parse(text) as { events: [] }).events));
  await context.addInitScript(() => {
    const texts = new WeakMap<Blob, string>();
    const Plain = window.Blob;
    window.Blob = class extends Plain {
      constructor(parts: BlobPart[] = [], options?: BlobPropertyBag) {
        super(parts, options);
        texts.set(this, parts.join(""));
      }
    };
    const send = navigator.sendBeacon.bind(navigator);
    navigator.sendBeacon = (address, body) => {
      (window as unknown as { record: (text: string) => void }).record(texts.get(body as Blob) ?? "");
      return send(address, body);
    };
  });
  const taken = async () =>
    Number(
      /^mirada_events_taken (\d+)/m.exec(
        await (await request.get(`http://127.0.0.1:${shopPort}/metrics`, shopHost)).text(),
      )?.[1],
    );
  const before = await taken();
  await page.goto(`${shop}/?utm_source=mossmail&utm_campaign=winter-light`);
  await expect.poll(() => sent.flat().filter((event) => event.kind === "exposure").length).toBeGreaterThan(2);
  expect(sent.flat().every((event) => event.first === false)).toBe(true);
  await page.getByRole("button", { name: "Yes", exact: false }).first().click();
  await expect.poll(() => sent.flat().some((event) => event.kind === "exposure" && event.first)).toBe(true);
  expect(sent.flat().at(-1)).toMatchObject({ source: expect.stringMatching(/^mossmail\|winter-light\b/) as unknown });
  await page.goto(`${shop}/ferns`);
  await page.locator(".cards a").first().click();
  await page.getByRole("button", { name: /cart/i }).first().click();
  await page.goto(`${shop}/checkout`);
  await page.getByRole("button", { name: "Order" }).click();
  await expect(page.getByText(/Your order b-[0-9a-f]{8}/)).toBeVisible();
  // Looking into the cart is a goal of the shop's, too.
  const orders = () => sent.flat().filter((event) => event.kind === "conversion" && event.name !== "cart");
  await expect.poll(() => orders().length).toBeGreaterThan(0);
  expect(orders().every((event) => event.name === "order" && event.first === true && Number(event.value) > 0)).toBe(
    true,
  );
  const told = orders().length;
  // Looking at the page again is no order.
  await page.reload();
  await page.waitForTimeout(800);
  expect(orders().length).toBe(told);
  const allowed = ["arm", "at", "first", "kind", "n", "name", "receipt", "slot", "source", "value", "variant"];
  for (const event of sent.flat()) expect(Object.keys(event).sort()).toEqual(allowed);
  // By its receipt each is told from all others.
  const idOf = ({ receipt, kind, name, n }: Record<string, unknown>) =>
    [receipt, kind, kind === "conversion" ? name : "", n].join(" ");
  expect(new Set(sent.flat().map(idOf)).size).toBe(sent.flat().length);
  // All of these were taken; a page that an earlier test left may have told something meanwhile.
  await expect.poll(async () => (await taken()) - before).toBeGreaterThanOrEqual(sent.flat().length);
  const foreign = await request.post(`http://127.0.0.1:${shopPort}/happened`, {
    ...shopHost,
    data: { events: [] },
  });
  expect(foreign.ok()).toBe(false);
  await context.close();
});
