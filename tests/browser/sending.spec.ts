/** Sending people, replaying traffic, reading results: as a marketer does it, by mouse and by keyboard. */
import { expect, type Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import ICAL from "ical.js";
import { at, shopPort, openScreen, openWorkbench, row, site, test, port, typeDate } from "./support";

const shop = `http://brackenfold.localhost:${shopPort}`;
const toast = (page: Page, text: string | RegExp) => expect(page.getByText(text).first()).toBeVisible();
/** Clicks what lets one choose a file, and chooses one. */
async function give(
  page: Page,
  button: string | RegExp,
  files: { name: string; mimeType: string; buffer: Buffer } | { name: string; mimeType: string; buffer: Buffer }[],
) {
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: button }).first().click(),
  ]);
  await chooser.setFiles(files);
}
/** Clicks what saves a file, and reads it. */
async function saved(page: Page, button: string | RegExp): Promise<{ name: string; text: string }> {
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page
      .getByRole("button", { name: button })
      .or(page.getByRole("link", { name: button }))
      .first()
      .click(),
  ]);
  return { name: download.suggestedFilename(), text: readFileSync(await download.path(), "utf8") };
}
/** How much the draft differs from what is live, as it says itself. Other tests may have left something. */
const differs = (page: Page) => page.locator(".topline span.pill.draft");
const logLine = (second: number, target: string, more = "", ip = "192.0.2.7") =>
  `${ip} - - [24/Nov/2026:10:${String(Math.floor(second / 60)).padStart(2, "0")}:${String(second % 60).padStart(2, "0")} +0000] "GET ${target} HTTP/1.1" 200 512 "${more || "-"}" "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"`;

test("a link is made from a rule, spelled as the rule spells it, warns while it is not, and shows what its visitors see", async ({
  page,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Campaigns", "Links");
  await page.getByRole("combobox", { name: "From a rule" }).click();
  await page.getByRole("option", { name: /Winter light, newsletter/ }).click();
  const whole = page.getByRole("group", { name: "The whole link" });
  await expect(whole).toHaveText("https://brackenfold.example/?utm_source=mossmail&utm_campaign=winter-light");
  // What this link shows, to the lens of a Thursday: the clinic does not stand in its way.
  await page.getByRole("button", { name: /^Lens:/ }).click();
  await page.getByRole("menuitem", { name: /Oslo/ }).click();
  const shows = page.getByRole("region", { name: "What this link shows" });
  await expect(shows.getByRole("listitem").filter({ hasText: "Home hero" })).toContainText("Winter light, newsletter");
  await expect(shows.getByRole("listitem").filter({ hasText: "Home hero" })).toContainText("by this link");
  // Another spelling is told from the rule's, and put right in one step.
  const name = page.getByLabel("Campaign name", { exact: true });
  await name.fill("winter_light");
  await expect(page.getByText("Rules or other links say “winter-light”: the two are told apart.")).toBeVisible();
  await expect(shows.getByRole("listitem").filter({ hasText: "Home hero" })).not.toContainText("Winter light");
  await page.getByRole("button", { name: "Write “winter-light”" }).click();
  await expect(whole).toContainText("utm_campaign=winter-light");
  await page.getByLabel("Source", { exact: true }).fill("MossMail");
  await expect(
    page.getByText("Rules do not mind capital letters; reports of other programs do.").first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Write “mossmail”" }).first().click();
  // A placeholder of an ad system stays as it is; a parameter that no rule asks for is said.
  await page.getByLabel("Another parameter").fill("gift");
  await page.keyboard.press("Enter");
  await page.getByRole("region", { name: "Other parameters" }).getByLabel("Value").fill("{{order id}}");
  await expect(whole).toContainText("gift={{order id}}");
  await expect(page.getByText("No rule asks for it.").first()).toBeVisible();
  // The QR code, as SVG.
  await page.getByRole("button", { name: "QR code" }).click();
  const svg = await saved(page, "Download SVG");
  expect(svg.text).toContain("<svg");
  expect((await saved(page, "Download PNG")).name).toMatch(/\.png$/);
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "View as this visitor" }).click();
  await expect(site(page).getByRole("heading", { name: "Hello again: here is your winter light" })).toBeVisible();
});

test("rules that no link feeds are named; links come from a CSV, go out as one, and a wrong one changes nothing", async ({
  page,
}) => {
  // A first try that came to nothing may have left its link.
  await page.request.post(at("/act/dropLink"), {
    headers: { origin: `http://localhost:${port}` },
    data: ["water-advice"],
  });
  await page.goto(at("/links"));
  const waiting = page.getByRole("region", { name: "Rules that no link feeds" });
  await expect(waiting).toContainText("Advice by topic, Water");
  const rows = page.locator(".linkrow");
  const before = await rows.count();
  await give(page, "Import CSV", {
    name: "wrong.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("name,page,colour\nA,/,red\n"),
  });
  await expect(page.getByText("wrong.csv is not right. Nothing was read.")).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "line 1, column 3" })).toContainText(
    "“colour” is not a known column",
  );
  await expect(rows).toHaveCount(before);
  await give(page, "Import CSV", {
    name: "links.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("name,link,used_by\nWater advice,/advice?topic=water&utm_source=quarry,An ad\n"),
  });
  await toast(page, "1 link is read");
  await expect(rows).toHaveCount(before + 1);
  await expect(waiting).not.toContainText("Advice by topic, Water");
  const csv = await saved(page, "Export CSV");
  expect(csv.text).toContain("Water advice,/advice,quarry");
  await page.getByRole("button", { name: "Delete Water advice" }).click();
  await expect(rows).toHaveCount(before);
});

test("one walks in from Quarry and from Mossmail with a true link and referrer, and looks at an arrival through a lens", async ({
  page,
  context,
}) => {
  await page.goto(`http://quarry.localhost:${shopPort}/search?q=shade+fern`);
  await expect(page.locator(".ads")).toContainText("Sponsored");
  await page.getByRole("link", { name: "Search ad: shade ferns" }).click();
  await expect(page).toHaveURL(`${shop}/?utm_source=quarry&utm_medium=cpc&utm_campaign=shade&utm_term=shade%20fern`);
  expect(await page.evaluate(() => document.referrer)).toContain(`http://quarry.localhost:${shopPort}/`);
  await expect(
    page
      .getByRole("heading", { level: 1 })
      .or(page.getByRole("heading", { level: 2 }))
      .first(),
  ).toBeVisible();
  await page.goto(`http://mossmail.localhost:${shopPort}/letters/winter-letter`);
  await page.getByRole("link", { name: "See the winter collection" }).click();
  await expect(page).toHaveURL(/utm_source=mossmail&utm_medium=email&utm_campaign=winter-light/);

  // The same arrival through a lens: from the stand-in, and from the workbench.
  await page.goto(`http://quarry.localhost:${shopPort}/search?q=shade+fern`);
  const [looking] = await Promise.all([
    context.waitForEvent("page"),
    page.locator(".ads").getByRole("link", { name: "View as this visitor" }).first().click(),
  ]);
  await expect(looking.locator(".sentence")).toContainText("a search for “shade fern”");
  await looking.close();
  await openWorkbench(page);
  await openScreen(page, "Campaigns", "Arrivals");
  await page.getByLabel("Search for").fill("maidenhair");
  const quarry = page.getByRole("region", { name: "Quarry" });
  await quarry
    .getByRole("listitem")
    .filter({ hasText: "/ferns/maidenhair" })
    .getByRole("button", { name: "View as this visitor" })
    .click();
  await expect(page.locator(".sentence")).toContainText("maidenhair");
  await expect(site(page).getByRole("heading", { name: "Maidenhair" }).first()).toBeVisible();
});

test("a log is replayed under live and draft: progress, cancel, what changes, where, when, and single visits", async ({
  page,
}) => {
  await openWorkbench(page);
  // The draft differs: the first variant of the hero's list that a search wins is off.
  const before = (await differs(page).textContent()) ?? "";
  await row(page, "Shade ferns").hover();
  await page.getByRole("button", { name: "Switch Shade ferns off" }).click();
  await expect(differs(page)).not.toHaveText(before);
  await openScreen(page, "Proof", "Traffic");
  await page.getByRole("button", { name: /made-up log of 200,000/ }).click();
  const status = page.getByRole("status", { name: "Replaying" });
  await expect(status).toContainText("lines a second", { timeout: 60_000 });
  await status.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByText("Cancelled. Nothing was kept.")).toBeVisible();
  await page.getByRole("button", { name: "Replay again" }).click();
  const changes = page.getByRole("region", { name: "What would change" });
  await expect(changes).toContainText("The draft would show something else on", { timeout: 90_000 });
  await expect(changes).toContainText("200,000");
  await expect(page.getByRole("region", { name: "Broken lines" })).toContainText("Broken lines: 2");
  await expect(page.getByRole("region", { name: "What a log cannot tell" })).toContainText("the cart");
  await expect(page.getByRole("img", { name: "Share of page views that change, by country" })).toBeVisible();
  await page.getByRole("region", { name: "Who would see what" }).getByRole("combobox", { name: "Slot" }).click();
  await page.getByRole("option", { name: /^Home hero/ }).click();
  await expect(page.getByRole("img", { name: /Page views by day and variant of Home hero/ })).toBeVisible();
  const moves = page.getByRole("region", { name: "From what to what" });
  const move = moves.getByRole("row").filter({ hasText: "Home heroShade fernsthe fallback" });
  await move.getByRole("button", { name: "Visit 1" }).click();
  await expect(page.locator(".sentence")).toContainText(/a search for “(shade fern|plants for a dark room)”/);
  // Whoever comes back finds what was replayed, and that the draft is another since.
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(differs(page)).toHaveText(before);
  await openScreen(page, "Proof", "Traffic");
  await expect(changes).toContainText("The draft would show something else on");
  await expect(page.getByText("The draft or what is live has changed since.")).toBeVisible();
});

test("files of a log come packed, several at once, with broken lines; what is no log is said", async ({ page }) => {
  await page.goto(at("/traffic"));
  const one = [
    logLine(0, "/"),
    logLine(5, "/app.js"),
    "half a li",
    logLine(30, "/ferns", "https://brackenfold.example/"),
  ].join("\n");
  const two = gzipSync(`${logLine(700, "/tools")}\r\n${logLine(710, "/", "", "2001:db8:1::5")}\n`);
  await give(page, "Choose access logs", [
    { name: "access.log.1.gz", mimeType: "application/gzip", buffer: two },
    { name: "access.log", mimeType: "text/plain", buffer: Buffer.from(one) },
  ]);
  const changes = page.getByRole("region", { name: "What would change" });
  await expect(changes).toContainText(/of these 4 page views|of 4 page views/);
  await expect(page.getByText("access.log, access.log.1.gz")).toBeVisible();
  await expect(page.getByRole("region", { name: "Broken lines" })).toContainText("line 3 half a li");
  await expect(page.getByRole("region", { name: "Where they were" })).toContainText("Germany");
  await give(page, "Choose access logs", {
    name: "events.json",
    mimeType: "text/plain",
    buffer: Buffer.from('{"a":1}\n'.repeat(500)),
  });
  await expect(page.locator("p[role=alert]")).toContainText(
    "events.json is in another format: expected lines of the Combined Log Format",
  );
  const damaged = gzipSync(
    Array.from({ length: 4000 }, (_, index) => logLine(index % 3000, `/?n=${index * 7919}`)).join("\n"),
  );
  damaged.fill(0x55, Math.floor(damaged.length / 2), Math.floor(damaged.length / 2) + 400);
  await give(page, "Choose access logs", { name: "damaged.gz", mimeType: "application/gzip", buffer: damaged });
  await expect(page.locator("p[role=alert]")).toContainText("damaged.gz");
});

test("results tell of each arm how sure one may be, over time with what went live, by whom, and as a CSV", async ({
  page,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Live", "Results");
  await page.getByRole("button", { name: /^Promise test/ }).click();
  const tested = page.getByRole("region", { name: "Test: Promise on products" });
  await expect(tested).toContainText("Arm b is better than the control");
  await expect(tested).toContainText("Too early to tell");
  await expect(tested).toContainText("Visitors were shared out as meant");
  const worth = tested.getByRole("list", { name: "What a visitor was worth" });
  await expect(worth.getByRole("listitem")).toHaveCount(2);
  await expect(worth).toContainText(/\+€\d+\.\d\d/);
  await expect(page.getByRole("region", { name: "By variant" }).getByRole("row")).toHaveCount(4);
  await page.getByRole("combobox", { name: "What" }).click();
  await page.getByRole("option", { name: "Share who reached the goal, %" }).click();
  await expect(page.getByRole("img", { name: "Share who reached the goal, % by day" })).toBeVisible();
  await expect(page.getByRole("list", { name: "What went live" })).toContainText("A frost warning for the north");
  const whom = page.getByRole("region", { name: "By whom" });
  await expect(whom).toContainText("mossmail");
  for (const [by, group] of [
    ["Country", "Portugal"],
    ["Campaign", "winter-light"],
    ["New or returning", "was there before"],
    ["Language", "German"],
    ["Operating system", "Android"],
    ["Weekday", "Tuesday"],
  ] as const) {
    await whom.getByRole("combobox", { name: "By" }).click();
    await page.getByRole("option", { name: by }).click();
    await expect(whom.getByRole("cell", { name: group, exact: true })).toBeVisible();
  }
  const csv = await saved(page, "Export CSV");
  expect(csv.text.split("\r\n")[0]).toBe(
    "slot,by,of,variant,arm,exposures,visitors,clicks,clicked,conversions,converted,value",
  );
  expect(csv.text).toContain("product-promise,country,PT,promise,b,");
  // A week of few visitors is too early; a time of nobody says so.
  await typeDate(page, "From", "2025-01-01");
  await typeDate(page, "To", "2025-01-07");
  await expect(page.getByText("Promise was not seen in this time.")).toBeVisible();
  await typeDate(page, "To", "2024-01-07");
  await expect(page.getByText("Up to 400 days, the first before the last")).toBeVisible();
});

test("a calendar is subscribed to by its address, and a calendar of events becomes an audience that a variant asks for", async ({
  page,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Settings", "Import and export");
  await page.getByRole("button", { name: /Create address|Create new address/ }).click();
  const address = (await page.getByRole("group", { name: "Address of the calendar" }).textContent()) ?? "";
  const answer = await page.request.get(address);
  expect(answer.headers()["content-type"]).toContain("text/calendar");
  const calendar = new ICAL.Component(ICAL.parse(await answer.text()));
  const names = calendar.getAllSubcomponents("vevent").map((event) => event.getFirstPropertyValue("summary"));
  expect(names).toContain("Home hero, Repotting clinic");
  expect((await page.request.get(address.replace(/.{6}\.ics$/, "AAAAAA.ics"))).status()).toBe(404);

  const event = (name: string, ...lines: string[]) =>
    ["BEGIN:VEVENT", `UID:${name}`, `SUMMARY:${name}`, ...lines, "END:VEVENT"].join("\r\n");
  const text = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//t//EN",
    "X-WR-CALNAME:Streams",
    event("Fern talk", "DTSTART;TZID=Europe/Berlin:20261203T180000", "DURATION:PT90M", "RRULE:FREQ=WEEKLY;COUNT=4"),
    event("No zone", "DTSTART;TZID=Nowhere/Land:20261203T180000", "DURATION:PT1H"),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
  await give(page, "Import calendar", { name: "streams.ics", mimeType: "text/calendar", buffer: Buffer.from(text) });
  const inwards = page.getByRole("region", { name: "Calendar in" });
  await expect(inwards).toContainText("streams.ics: 1 event");
  await expect(inwards.getByRole("alert")).toContainText("line 12");
  await expect(inwards.getByRole("alert")).toContainText("Nowhere/Land");
  await expect(inwards.getByRole("listitem").filter({ hasText: "Fern talk" })).toContainText("18:00");
  const before = (await differs(page).textContent()) ?? "";
  await inwards.getByRole("combobox", { name: "Also ask for it in" }).click();
  await page.getByRole("option", { name: "Home hero, Shade ferns" }).click();
  await inwards.getByRole("button", { name: "Keep this event" }).click();
  await expect(page.getByRole("region", { name: "While: Streams" })).toContainText("Home hero, Shade ferns");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(differs(page)).toHaveText(before);
});

test("everything goes out and comes in again: archive, ruleset, JsonLogic, lists", async ({ page }) => {
  await page.goto(at("/exchange"));
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Export archive" }).click(),
  ]);
  const archive = readFileSync(await download.path());
  const before = (await differs(page).textContent()) ?? "";
  const ruleset = JSON.parse((await saved(page, "Export draft")).text) as { site: { name: string } };
  // A changed ruleset comes in as one change of the draft, and is taken back.
  ruleset.site.name = "Brackenfold, read in";
  await give(page, "Import ruleset into draft", {
    name: "draft.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(ruleset)),
  });
  await toast(page, "The draft is now the ruleset of this file.");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(differs(page)).toHaveText(before);
  await give(page, "Import ruleset into draft", {
    name: "bad.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify({ ...ruleset, slots: [{ id: "s" }] })),
  });
  await expect(page.getByRole("region", { name: "What is wrong" })).toContainText("/slots/0/name");
  // JsonLogic names what it cannot carry.
  await page.getByRole("button", { name: "Show as JsonLogic" }).click();
  const region = page.getByRole("region", { name: "Ruleset" });
  await expect(region).toContainText("Tuesday");
  await expect(region).toContainText("The redirect The old catalogue");
  expect(JSON.parse((await saved(page, "Export JsonLogic")).text)).toMatchObject({ format: "mirada-jsonlogic/1" });
  // Place lists as a CSV, with a wrong row.
  await give(page, "Import place lists from CSV", {
    name: "lists.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("list,name,country\nnew,New,PT\nnew,New,Portugal\n"),
  });
  await expect(page.getByRole("region", { name: "What is wrong" })).toContainText("line 3, column country");
  const csv = await saved(page, "Export place lists as CSV");
  await give(page, "Import place lists from CSV", {
    name: "lists.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`${csv.text}new,New,,PT,,,,,\r\n`),
  });
  await toast(page, "3 place lists imported");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(differs(page)).toHaveText(before);
  // A lens more, gone again with the archive of before.
  const lens = {
    id: "from-a-file",
    name: "From a file",
    visit: { at: "2026-11-24T10:15:00Z", url: "https://brackenfold.example/" },
  };
  await give(page, "Import lenses from JSON", {
    name: "lenses.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify([lens])),
  });
  await toast(page, "1 lenses imported, 1 of them new");
  await give(page, "Import archive", {
    name: "nothing.zip",
    mimeType: "application/zip",
    buffer: Buffer.from("nothing"),
  });
  await expect(page.getByText("nothing.zip is not right. Nothing was changed.")).toBeVisible();
  await give(page, "Import archive", { name: "site.zip", mimeType: "application/zip", buffer: archive });
  const dialog = page.getByRole("dialog", { name: "Import this archive?" });
  await expect(dialog).toContainText("6 lenses");
  await dialog.getByRole("button", { name: "Import" }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole("row").filter({ hasText: "Lenses" })).toContainText("6");
  await expect(differs(page)).toHaveText(before);
});
