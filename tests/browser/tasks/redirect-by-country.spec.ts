import { expect } from "@playwright/test";
import { get } from "node:http";
import { openScreen, openWorkbench, shopPort, typeInto } from "../support";
import { addCondition, compare, from, value } from "./steps";
import { putLive, tell, test } from "./task";

/** Where a visitor of the shop is sent on to; "": nowhere. */
const sentTo = (path: string, headers: Record<string, string>): Promise<string> =>
  new Promise((done, failed) => {
    const host = `brackenfold.localhost:${shopPort}`;
    get({ host: "127.0.0.1", port: shopPort, path, headers: { host, ...headers } }, (response) => {
      response.resume();
      done(response.headers.location ?? "");
    }).on("error", failed);
  });
const expectSent = (path: string, headers: Record<string, string>, to: string) =>
  expect.poll(() => sentTo(path, headers), { message: `${path} with ${JSON.stringify(headers)}` }).toBe(to);

test("visitors of three countries are sent on with their path, but for one address; a circle is said", async ({
  page,
  clicks,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Redirects");
  await page.getByRole("button", { name: "New redirect" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Three countries");
  // What a new redirect begins with is the page: that is open.
  await compare(page, "starts with");
  await value(page, "/fern");
  await addCondition(page, "Location");
  await typeInto(page, "Places", ["France", "Germany", "Norway"]);
  await page.getByRole("region", { name: "Three countries" }).getByRole("switch").first().check();
  const address = page.getByLabel("Address", { exact: true });
  await address.fill("/ferns/{country}{+path}");
  await address.press("Tab");
  // It would go round: that is said where it is written.
  await expect(page.locator(".opened .error").first()).toContainText(/circle|itself/);
  // What was typed just now and what is put in by a press make one address: nobody comes in between.
  await address.fill("/succulents?was=");
  await page.getByText("{+path}", { exact: true }).click();
  await expect(address).toHaveValue("/succulents?was={+path}");
  await expect(page.getByText(/changed by someone else/i)).toHaveCount(0);
  await expect(page.locator(".opened .error")).toHaveCount(0);
  await page.getByRole("combobox", { name: "Excluded IP addresses" }).fill("198.51.100.5");
  await page.keyboard.press("Enter");
  await putLive(page);
  tell("redirect of three countries with path, exempt address, loop", clicks(), 41);
  const there = `http://brackenfold.localhost:${shopPort}/succulents?was=/ferns`;
  for (const who of [from.paris, from.berlin, from.oslo])
    await expect.poll(async () => new URL(await sentTo("/ferns", who), there).href).toBe(there);
  await expectSent("/ferns", from.lisbon, "");
  await expectSent("/tools", from.paris, "");
  await expectSent("/ferns", { "x-forwarded-for": "198.51.100.5" }, "");
});
