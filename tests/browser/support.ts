import {
  expect,
  test as plain,
  type APIRequestContext,
  type FrameLocator,
  type Locator,
  type Page,
} from "@playwright/test";
import { readFileSync } from "node:fs";
import http from "node:http";
import { beginFile, port } from "./as-before";

export { port };
/** The port of the demo's shop and of the stand-ins around it. */
export const shopPort = port + 10;
/** The address of a screen of the demo's site. */
export const at = (screen: string): string => `/s/brackenfold${screen}`;
/** Where the session is kept that tests begin with. */
export const stateFile = `.data/browser-state-${port}.json`;

/** Where the day of the demo's coming clinic is kept: the demo is placed by the day on which it was filled in. */
export const dayFile = `.data/browser-demo-day-${port}.json`;

/** The day (YYYY-MM-DD) so many days after the demo's coming clinic, which is on a Tuesday. */
export function demoDay(plus: number): string {
  const clinic = JSON.parse(readFileSync(dayFile, "utf8")) as string;
  return new Date(Date.parse(`${clinic}T12:00:00Z`) + plus * 86_400_000).toISOString().slice(0, 10);
}
/** "Tuesday 24 November" of a day. */
export const dayWords = (day: string): string =>
  new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    Date.parse(`${day}T12:00:00Z`),
  );

/** By how much browsers are slowed down, to find what holds on quick machines only: SLOW=4 npx playwright test … */
const slow = Number(process.env.SLOW ?? "1");

/**
 * A test in which nothing may be kept back by a content security policy, on whatever origin; the first of each file begins with the
 * demo as it was at first.
 */
export const test = plain.extend<{ policy: void; first: void; trouble: void }>({
  page: async ({ page }, give) => {
    if (slow > 1) {
      const session = await page.context().newCDPSession(page);
      await session.send("Emulation.setCPUThrottlingRate", { rate: slow });
    }
    await give(page);
  },
  first: [
    async ({ request }, use, { file }) => {
      await beginFile(request, file);
      await use();
    },
    { auto: true },
  ],
  // What else went wrong is told where a test fails: a page that dies or a request that is never answered leaves no trace in it.
  trouble: [
    async ({ context }, use, info) => {
      const began = performance.now();
      const lines: string[] = [];
      const open = new Map<object, string>();
      const note = (what: string) => void lines.push(`${((performance.now() - began) / 1000).toFixed(1)} s: ${what}`);
      context.on("page", (page) => page.on("crash", () => note(`a page died: ${page.url()}`)));
      context.on("weberror", (error) => note(`error in a page: ${error.error().message}`));
      context.on("console", (message) => message.type() === "error" && note(`console: ${message.text()}`));
      context.on("request", (request) => {
        open.set(request, `${request.method()} ${request.url()}`);
        if (request.isNavigationRequest()) note(`asked: ${request.url()}`);
      });
      context.on("page", (page) => page.on("framenavigated", (frame) => note(`opened: ${frame.url()}`)));
      context.on("requestfinished", (request) => open.delete(request));
      context.on("requestfailed", (request) => {
        open.delete(request);
        note(`failed: ${request.method()} ${request.url()} (${request.failure()?.errorText})`);
      });
      await use();
      if (info.status === info.expectedStatus) return;
      for (const line of lines.slice(-40)) console.log(line);
      for (const request of open.values()) console.log(`not answered: ${request}`);
      for (const frame of context.pages().flatMap((page) => page.frames())) {
        const says = await Promise.race([
          frame.evaluate(() => `${document.readyState}, ${document.body?.innerText.slice(0, 200)}`).catch(String),
          new Promise<string>((resolve) => setTimeout(resolve, 3000, "does not answer")),
        ]);
        console.log(`frame ${frame.url()}: ${says.replaceAll("\n", " ")}`);
      }
    },
    { auto: true },
  ],
  policy: [
    async ({ context }, use) => {
      const violations: string[] = [];
      context.on("console", (message) => {
        if (/content security policy/i.test(message.text())) violations.push(message.text());
      });
      await use();
      expect(violations).toEqual([]);
    },
    { auto: true },
  ],
});

/** The session cookie of one of the demo's accounts, by its name. */
export async function signIn(name: string): Promise<{
  name: string;
  value: string;
  domain: string;
  path: string;
  expires: number;
  httpOnly: boolean;
  secure: boolean;
  sameSite: "Lax";
}> {
  const person = name.toLowerCase();
  const answer = await fetch(`http://localhost:${port}/enter`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: `http://localhost:${port}` },
    body: JSON.stringify({ email: `${person}@brackenfold.example`, password: `${person} of the ferns` }),
  });
  if (!answer.ok) throw new Error(`${name} could not sign in: ${answer.status}`);
  const [, cookie = "", value = ""] = /^([^=]+)=([^;]*)/.exec(answer.headers.getSetCookie()[0] ?? "") ?? [];
  return {
    name: cookie,
    value,
    domain: "localhost",
    path: "/",
    expires: -1,
    httpOnly: true,
    secure: false,
    sameSite: "Lax",
  };
}

/** The site in its frame. */
export const site = (page: Page): FrameLocator => page.frameLocator('iframe[title="The page as this visitor sees it"]');

/** Where a part of the framed page is on the screen: the frame is shown smaller than it is. */
export async function spot(page: Page, selector: string): Promise<[x: number, y: number]> {
  const box = (await page.locator('iframe[title="The page as this visitor sees it"]').boundingBox())!;
  const inner = await site(page)
    .locator(selector)
    .first()
    .evaluate((element) => {
      element.scrollIntoView({ block: "nearest", behavior: "instant" });
      const { x, y, width, height } = element.getBoundingClientRect();
      return { x: x + Math.min(width / 2, 30), y: y + height / 2, wide: window.innerWidth };
    });
  const scale = box.width / inner.wide;
  return [box.x + inner.x * scale, box.y + inner.y * scale];
}

/** Opens the workbench and waits until the page is there, outlined. */
export async function openWorkbench(page: Page): Promise<void> {
  await page.goto(at("/pages"));
  await expect(site(page).locator("[data-mirada-mark]").first()).toBeVisible({ timeout: 20_000 });
}

/**
 * In an open dialog of a release: accepts what checks and the analysis have to say, and presses, until it is done. What fails may be
 * known at once, after the analysis, or only when the server has looked.
 */
async function releaseAllTheSame(page: Page, name: string, press: RegExp, done: Locator): Promise<void> {
  const dialog = page.getByRole("dialog", { name });
  const reason = dialog.getByLabel("Reason for publishing anyway");
  const button = dialog.getByRole("button", { name: press });
  await expect(async () => {
    if (await done.isVisible()) return;
    // What the analysis had found before the last change may vanish while it is being accepted: nothing waits for it.
    const soon = { timeout: 2000 };
    if ((await reason.isVisible()) && (await reason.inputValue(soon)) === "")
      await reason.fill("A test changes what checks expect", soon);
    for (const box of await dialog.getByRole("checkbox").all()) await box.check(soon);
    if (await button.isVisible()) await button.click({ timeout: 10_000 });
    await expect(done).toBeVisible({ timeout: 8000 });
  }).toPass({ timeout: 60_000 });
}
/** In the open dialog: puts the draft live. */
export const goLive = (page: Page): Promise<void> =>
  releaseAllTheSame(page, "Publish", /^Publish (now|anyway)$/, page.getByText(/Release \d+ is live/));
/** In the open dialog: asks for a review. */
export const askForReview = (page: Page): Promise<void> =>
  releaseAllTheSame(page, "Request a review", /^Request a review/, page.getByRole("heading", { name: /^Review \d+$/ }));

/** Goes to a screen by the line at the top. */
export async function openScreen(page: Page, group: string, name: string): Promise<void> {
  await page.getByRole("navigation", { name: "Screens" }).getByRole("button", { name: group }).click();
  await page.getByRole("menuitem", { name }).click();
}

/** Makes a site of pages that know nothing of the product yet. */
export async function makeSite(request: APIRequestContext, id: string, name: string, origin: string): Promise<void> {
  const made = await request.post("/act/makeSite", {
    headers: { origin: `http://localhost:${port}` },
    data: [{ name, id, origin, zone: "Europe/Lisbon", currency: "EUR", language: "en", copyOf: "" }],
  });
  expect(await made.json()).toMatchObject({ ok: true });
}
/** A public key of a site, for its tag. */
export async function makeKey(request: APIRequestContext, site: string): Promise<string> {
  const made = await request.post(`/s/${site}/act/makeKey`, {
    headers: { origin: `http://localhost:${port}` },
    data: ["public", "The tag"],
  });
  return ((await made.json()) as { key: string }).key;
}

/** Takes a site away that a test has made, so that others find what the demo has. */
export async function removeSite(request: APIRequestContext, id: string, name: string): Promise<void> {
  const ask = (action: string, data: unknown[]) =>
    request.post(`/act/${action}`, { headers: { origin: `http://localhost:${port}` }, data });
  await ask("archiveSite", [id, true]);
  await ask("deleteSite", [id, name]);
}

/** The row of a variant in the slot's list. */
export const row = (page: Page, name: string) =>
  page.locator("[data-variant]").filter({ has: page.getByRole("button", { name, exact: true }) });

/** Fetches a page of the shop as a plain visitor, without JavaScript or cookies. */
export function visitShop(path = "/", headers: Record<string, string> = {}): Promise<string> {
  return new Promise((resolve, reject) => {
    http
      .get(
        { host: "127.0.0.1", port: shopPort, path, headers: { host: `brackenfold.localhost:${shopPort}`, ...headers } },
        (response) => {
          let body = "";
          response.setEncoding("utf8");
          response.on("data", (part: string) => (body += part));
          response.on("end", () => resolve(body));
        },
      )
      .on("error", reject);
  });
}

/** What a visitor's page tells of what happened on it, from the next page it opens on. */
export async function hearHappened(
  visitor: Page,
): Promise<{ kind: string; slot: string; variant: string; arm: string }[]> {
  const told: Awaited<ReturnType<typeof hearHappened>> = [];
  // What a beacon carries is told by some browsers alone: then events go as requests, whose text is told by all.
  await visitor.addInitScript(() => Object.assign(navigator, { sendBeacon: () => false }));
  visitor.on("request", (asked) => {
    if (!/\/(happened|v1\/events)$/.test(asked.url())) return;
    const { events } = JSON.parse(asked.postData() ?? "{}") as { events?: typeof told };
    told.push(...(events ?? []));
  });
  return told;
}

/** Types a date (YYYY-MM-DD), with a time of the day (…THH:MM) or without, into the field of that name, as a keyboard does. */
export async function typeDate(within: Page | Locator, name: string, text: string): Promise<void> {
  const field = within.getByRole("group", { name, exact: true });
  const [date = "", clock = ""] = text.split("T");
  const first = field.getByRole("spinbutton").first();
  await first.click();
  await expect(first).toBeFocused();
  await field.page().keyboard.type(`${date.split("-").reverse().join("")}${clock.replace(":", "")}`);
}

/** Sets the lens's date and time (Lisbon time) in the sentence. */
export async function travel(page: Page, local: string): Promise<void> {
  await page.locator(".sentence [data-part=time]").click();
  await typeDate(page, "Date and time, Lisbon time", local);
  await page.keyboard.press("Tab");
  await page.keyboard.press("Escape");
}

/** Chooses what a condition depends on. */
export async function dependOn(page: Page, text: string): Promise<void> {
  const box = page.getByRole("combobox", { name: "What it depends on" });
  await box.fill(text);
  await page.getByRole("option", { name: text, exact: true }).click();
}
/** Types into a box of several values. */
export async function typeInto(page: Page, label: string, values: string[]): Promise<void> {
  const box = page.getByRole("combobox", { name: label });
  for (const value of values) {
    await box.fill(value);
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Escape");
}
