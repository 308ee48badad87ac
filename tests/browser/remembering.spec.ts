import { expect } from "@playwright/test";
import { at, shopPort, openWorkbench, visitShop, test } from "./support";

const shop = `http://brackenfold.localhost:${shopPort}`;

test("a visitor is remembered only after agreeing, in one cookie, and a marker shows on the very page that gains it", async ({
  browser,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  const cookie = async (name: string) => (await context.cookies(shop)).find((item) => item.name === name);
  await page.goto(`${shop}/ferns`);
  await page.goto(`${shop}/ferns`);
  await expect(page.locator('[data-mirada-slot="category-note"]')).toContainText("Water from below");
  expect(await cookie("mirada")).toBeUndefined();
  await page.getByRole("button", { name: "Yes, remember" }).click();
  await expect(page).toHaveURL(`${shop}/ferns`);
  await expect(page.locator(".consent")).toHaveCount(0);
  // This view counts as the first; the next one gains the marker, and shows what hangs on it at once.
  await expect(page.locator('[data-mirada-slot="category-note"]')).toContainText("Water from below");
  const kept = await cookie("mirada");
  expect(kept).toMatchObject({ httpOnly: true, sameSite: "Lax" });
  await page.goto(`${shop}/ferns/maidenhair`);
  await expect(page.locator('[data-mirada-slot="category-note"]')).toContainText("You again? Good.");
  // Nobody gives themselves a marker: a cookie that was changed counts for nothing.
  await context.addCookies([{ ...kept!, value: kept!.value.replace(/.$/, (end) => (end === "A" ? "B" : "A")) }]);
  await page.goto(`${shop}/ferns`);
  await expect(page.locator('[data-mirada-slot="category-note"]')).toContainText("Water from below");
  await context.close();
});

test("agreeing on a page that a campaign link led to keeps the campaign, and counts for that very page", async ({
  browser,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  const link = `${shop}/?utm_source=mossmail&utm_medium=email&utm_campaign=winter-light&utm_content=clinic`;
  await page.goto(link);
  await page.getByRole("button", { name: "Yes, remember" }).click();
  await expect(page).toHaveURL(link);
  const cookie = (await context.cookies(shop)).find((item) => item.name === "mirada");
  // The marker "Came for the clinic" is gained by the link, on this very page view.
  const memory = Buffer.from(cookie!.value.split(".")[1]!, "base64url").toString("utf8");
  expect(memory).toContain("clinic-guest");
  await context.close();
});

test("no is no, and Sec-GPC says no by itself", async ({ browser }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(`${shop}/ferns`);
  await page.getByRole("button", { name: "No", exact: true }).click();
  await page.goto(`${shop}/ferns`);
  await page.goto(`${shop}/ferns`);
  await expect(page.locator(".consent")).toHaveCount(0);
  await expect(page.locator('[data-mirada-slot="category-note"]')).toContainText("Water from below");
  expect((await context.cookies(shop)).map((item) => item.name)).toEqual(["mirada-consent"]);
  await context.close();
  const private_ = await browser.newContext({ extraHTTPHeaders: { "Sec-GPC": "1" } });
  await private_.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
  const other = await private_.newPage();
  await other.goto(`${shop}/ferns`);
  await expect(other.locator(".consent")).toHaveCount(0);
  expect((await private_.cookies(shop)).map((item) => item.name)).toEqual(["mirada-consent"]);
  await private_.close();
});

test("whatever a visitor sends, the page comes", async () => {
  const bad: Record<string, string>[] = [
    { cookie: "mirada=v-AAAAAAAAAAAAAAAA.eyJ2IjoxfQ.AAAAAAAAAAAAAAAAAAAAAA; mirada-consent=yes" },
    { cookie: `mirada=${"x".repeat(8000)}; mirada-consent=yes` },
    { cookie: "mirada=%ff%00; mirada-consent=yes; cart=fern-01~999.__proto__~1; wishes=..." },
    { referer: "http://", "accept-language": ",,;q=x" },
    { "user-agent": "x".repeat(12_000) },
    { "x-forwarded-for": "203.0.113.1, ".repeat(500) },
    { "sec-ch-viewport-width": "1e999", "sec-ch-ua-platform": '"' },
  ];
  for (const headers of bad) expect(await visitShop("/ferns", headers)).toContain("Brackenfold");
  for (const path of [`/ferns?${"a=1&".repeat(490)}`, "/ferns?utm_source=%zz%ff", `/ferns?x=${"é".repeat(1300)}`])
    expect(await visitShop(encodeURI(path).replaceAll("%25", "%"))).toContain("Brackenfold");
});

test("in the workbench the visitor’s past is set in the sentence, and starting over is one step", async ({ page }) => {
  await openWorkbench(page);
  const part = (name: string) => page.locator(`.sentence [data-part=${name}]`);
  await part("page").click();
  await page.getByRole("combobox", { name: "Page" }).fill("Ferns");
  await page.getByRole("option", { name: /^Ferns/ }).click();
  await expect(page.getByRole("heading", { name: "Category note" })).toBeVisible();
  // The first lens has agreed to nothing.
  await expect(part("visitor")).toHaveText("a visitor without consent");
  await part("visitor").click();
  await page.getByRole("switch", { name: "Consent given" }).click();
  await page.getByPlaceholder("Add a page category, such as ferns").fill("ferns");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "One more: ferns" }).click();
  await page.getByRole("button", { name: "One more: ferns" }).click();
  await expect(part("visitor")).toContainText("who has seen ferns 3 times");
  await page.getByRole("switch", { name: "Fern friend" }).click();
  await page.keyboard.press("Escape");
  await expect(part("visitor")).toContainText("marked “Fern friend”");
  await expect(page.locator("[data-variant=note-fern-friend] .verdict")).toHaveText("Shown");
  await expect(page.frameLocator(".stage iframe").locator(".note")).toContainText("You again? Good.");
  // The past moves along in time.
  await page.getByRole("slider", { name: "Time travelled to" }).focus();
  await page.keyboard.press("PageUp");
  await expect(part("visitor")).toContainText("who has seen ferns 3 times");
  await part("visitor").click();
  await page.getByRole("button", { name: "Start over as a new visitor" }).click();
  await page.keyboard.press("Escape");
  await expect(part("visitor")).toHaveText("a first-time visitor");
  await expect(page.locator("[data-variant=note-fern-friend] .verdict")).toHaveText("Not shown");
  // Without consent history is unknown, and the verdict says so.
  await part("visitor").click();
  await page.getByRole("switch", { name: "Consent given" }).click();
  await page.keyboard.press("Escape");
  await expect(page.locator("[data-variant=note-fern-friend] .verdict")).toHaveText("Cannot tell");
  await expect(page.locator("[data-variant=note-fern-friend] .why")).toContainText("has not given consent");
});

test("place data is uploaded, refused with what was expected, and used at once; proxies are trusted by name only", async ({
  page,
}) => {
  await openWorkbench(page);
  await page.goto(at("/settings"));
  const upload = page.getByLabel("File of place data");
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await upload.setInputFiles(file("wrong.csv", "a,b\n1,2\n"));
  await expect(page.locator(".setting [role=alert]")).toContainText("Expected a CSV with the columns network");
  await upload.setInputFiles({ name: "x.mmdb", mimeType: "", buffer: Buffer.from([0, 255, 254, 7, 200]) });
  await expect(page.locator(".setting [role=alert]")).toContainText("expected an MMDB file or a CSV");
  await upload.setInputFiles(file("ours.csv", "network,country,city\n198.18.5.0/24,FI,Oulu\n"));
  await expect(page.getByText("ours.csv", { exact: true })).toBeVisible();
  await page.getByLabel("Try an address").fill("198.18.5.9");
  await page.getByRole("button", { name: "Look up" }).click();
  await expect(page.getByText("Oulu · Finland")).toBeVisible();
  // The forwarded address counts only once the proxy is named.
  const note = "We can’t post plants to you";
  const from = (address: string) => visitShop("/", { "x-forwarded-for": address });
  expect(await from("198.51.100.200")).not.toContain(note);
  await page.getByLabel("Address or block of a proxy").fill("127.0.0.300");
  await expect(page.getByText("It must be an address or a block")).toBeVisible();
  await page.getByLabel("Address or block of a proxy").fill("127.0.0.0/8");
  await page.getByRole("button", { name: "Trust it" }).click();
  await expect.poll(async () => (await from("198.51.100.200")).includes(note)).toBe(true);
  // What stands left of the last address that is no proxy was written by the caller.
  expect(await from("203.0.113.9, 198.51.100.200")).toContain(note);
  expect(await from("198.51.100.200, 203.0.113.9")).not.toContain(note);
  await page.getByRole("button", { name: "Trust 127.0.0.0/8 no longer" }).click();
  await expect.poll(async () => (await from("198.51.100.200")).includes(note)).toBe(false);
  await page.getByRole("button", { name: "Remove ours.csv" }).click();
  await expect(page.getByText("ours.csv", { exact: true })).toHaveCount(0);
});
