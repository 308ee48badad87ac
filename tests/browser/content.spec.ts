/** An author's day: writing with values of the visit, a block from the library, a test with a control, pop-ups, redirects. */
import { expect, type Page } from "@playwright/test";
import { at, hearHappened, shopPort, goLive, openScreen, openWorkbench, row, site, visitShop, test } from "./support";

const shop = `http://brackenfold.localhost:${shopPort}`;
const text = (page: Page, name: string) => page.getByRole("textbox", { name, exact: true });

async function lens(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: /^Lens:/ }).click();
  await page.getByRole("menuitem", { name }).click();
}
async function putLive(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Publish", exact: true }).click();
  await goLive(page);
}

test("a text takes a value of the visit from a menu, shows what this visitor reads, and warns where it is missing", async ({
  page,
}) => {
  await openWorkbench(page);
  await lens(page, "Bristol, from the quiz");
  await page.getByRole("tab", { name: "Quiz answer" }).click();
  await page.getByRole("button", { name: "Came from the quiz", exact: true }).click();
  const note = site(page).locator('[data-mirada-slot="home-quiz"] .note');
  await expect(note).toContainText("Hello Wren, a plant for a shady corner: We thought of 3 ferns");

  // A value is put in from the menu; the text to show without it is asked for at once.
  await text(page, "Headline").focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(" from ");
  await page.getByRole("button", { name: "Insert a value into Headline" }).click();
  const form = page.getByRole("form", { name: "A value of the visit" });
  await form.getByLabel("Value to insert").fill("campaign source");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(form.getByRole("button", { name: "Insert" })).toBeDisabled();
  await form.getByLabel("Shown instead").fill("nowhere");
  await form.getByRole("button", { name: "Insert" }).click();
  await expect(text(page, "Headline").getByRole("button", { name: /the campaign source/ })).toContainText("quiz");
  await expect(note).toContainText("a plant for a shady corner: from quiz");

  // Whoever answered nothing: the choice has no text to show instead, and the preview says so.
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/?first_name=Wren&choice=");
  await page.keyboard.press("Enter");
  await expect(text(page, "Headline").getByRole("button", { name: /choice/ })).toBeVisible();
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/?first_name=Wren");
  await page.keyboard.press("Enter");
  await expect(
    page.getByText(/The parameter “choice” is missing for this visitor: nothing is shown here/),
  ).toBeVisible();

  // Never markup, however it is written; and as it is written for those who want to.
  await page
    .getByLabel(/^Paste a link/)
    .fill("https://brackenfold.example/?choice=<b>moss</b>&first_name=%3Cscript%3Ealert(1)%3C/script%3E");
  await page.keyboard.press("Enter");
  await expect(note).toContainText("Hello <script>alert(1)</script>, a plant for <b>moss</b>");
  await page.getByRole("button", { name: "Show Headline as it is written" }).click();
  await expect(page.getByLabel("Headline", { exact: true })).toHaveValue(
    /Hello \{first_name\}, a plant for \{choice\}: from \{source\}/,
  );
  await page.getByLabel("Headline", { exact: true }).fill("Hello {first_name");
  await expect(page.getByText(/This has a \{ or \} that is not understood/)).toBeVisible();
  await page.getByLabel("Headline", { exact: true }).fill("x".repeat(20_001));
  await expect(page.getByText(/This is too long: 20,001 characters/)).toBeVisible();
  await page.getByLabel("Headline", { exact: true }).fill("Hello {first_name}, how about {choice}?");
  await expect(note).toContainText("how about <b>moss</b>?");

  // An earlier text is found and brought back.
  await page.getByRole("button", { name: "Texts …" }).click();
  await page.getByRole("menuitem", { name: "Earlier texts …" }).click();
  const earlier = page.getByRole("dialog", { name: "Earlier texts" });
  await expect(earlier.getByRole("table")).toContainText("a plant for");
  await earlier.getByRole("button", { name: "Go back to that text" }).click();
  await expect(note).toContainText("a plant for <b>moss</b>: from");
});

test("answers of the quiz come along in the link to the shop", async ({ page }) => {
  await page.goto(`http://quiz.localhost:${shopPort}/`);
  await page.getByLabel("What may we call you?").fill("Robin");
  await page.getByLabel("A windy balcony").check();
  await page.getByLabel("How many pots have you room for?").fill("1");
  await page.getByRole("button", { name: "Show me my plant" }).click();
  await expect(page).toHaveURL(/brackenfold\.localhost.*first_name=Robin&choice=a\+windy\+balcony&pots=1/);
  await expect(page.locator('[data-mirada-slot="home-quiz"]')).toHaveText(
    "Hello Robin, a plant for a windy balcony: We thought of one fern that would be happy there.",
  );
});

test("header and tabs follow language and link, and a link leads straight to a tab", async ({ page, context }) => {
  const header = async (language: string) => await visitShop("/", { "accept-language": language });
  expect(await header("pt-PT")).toContain("Fetos");
  expect(await header("de")).toContain("Saatkisten");
  expect(await header("fr")).toContain("Seed boxes");
  expect(await visitShop("/advice?topic=water")).toContain("never on a timetable");
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openWorkbench(page);
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/advice");
  await page.keyboard.press("Enter");
  await page.getByRole("tab", { name: "Advice by topic" }).click();
  await page.getByRole("button", { name: "Repotting", exact: true }).click();
  await page.getByRole("button", { name: "A link straight to it" }).click();
  await expect(page.getByText("https://brackenfold.example/advice?topic=repotting")).toBeVisible();
  await expect(page.getByText(/Anyone who opens \/advice\?topic=repotting sees it/)).toBeVisible();
});

test("a test with a control is made with the keyboard alone, and each visitor keeps their arm", async ({ page }) => {
  await openWorkbench(page);
  const press = async (name: string | RegExp) => {
    await page.getByRole("button", { name, exact: typeof name === "string" }).focus();
    await page.keyboard.press("Enter");
  };
  await press("Frost warning");
  await press("Test it against another");
  await page.keyboard.press("Enter"); // A copy of this text
  await expect(page.getByRole("group", { name: "Arms of the test" })).toContainText("B");
  await text(page, "Headline").focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("Cold feet?");
  const hero = site(page).locator('[data-mirada-slot="home-hero"] h1');
  await expect(hero).toHaveText("Cold feet?");
  await press("Add an arm");
  await page.keyboard.press("End");
  await page.keyboard.press("Enter"); // A control
  await expect(page.getByText("Those in the control see the fallback")).toBeVisible();
  await page.getByLabel("Share of Control in percent").focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("20");
  await page.keyboard.press("Tab");
  await expect(page.getByLabel("Share of A in percent")).toHaveValue("40");
  await expect(page.getByLabel("Share of B in percent")).toHaveValue("40");
  // You are viewing as a visitor who draws B shows B, without its being pinned.
  await press("View as a visitor who draws B");
  await expect(page.getByRole("group", { name: "Arms of the test" }).locator(".arm").nth(1)).toContainText("drawn");
  await page.getByLabel("Keep showing it to the same visitor, in days").focus();
  await page.keyboard.type("7");
  await page.keyboard.press("Tab");
  await press("Done");
  await expect(row(page, "Frost warning")).toBeVisible();
  for (
    let count = 0;
    count < 14 && (await page.getByRole("button", { name: "Undo", exact: true }).isEnabled());
    count++
  ) {
    const said = await page.getByRole("button", { name: "Undo", exact: true }).locator("..").getAttribute("aria-label");
    if (said && !/Frost warning/.test(said)) break;
    await page.keyboard.press("Control+z");
    await page.waitForTimeout(200);
  }
});

test("a block of the library changes wherever it is shown", async ({ page }) => {
  await openWorkbench(page);
  const strip = site(page).locator('[data-mirada-slot="home-strip"]');
  await expect(strip.locator("h3")).toHaveText(["Stone and leaf", "Kitchen seed box", "Windowsill trio"]);
  await openScreen(page, "Content", "Library");
  await page.locator("[data-row=windowsill-trio] .name").click();
  await page.getByLabel("Price").fill("9.90");
  await page.getByLabel("Price").press("Tab");
  await expect(page.locator("[data-row=windowsill-trio]")).toContainText("1 variant");
  await page.getByRole("link", { name: "Offer strip, First by price" }).click();
  await expect(page.getByText("first of 3 that fit")).toBeVisible();
  await expect(strip.locator("h3")).toHaveText(["Windowsill trio", "Stone and leaf", "Kitchen seed box"]);
  // Nothing fits: the variant is left out, and that is said.
  await page.getByLabel("Position").fill("9");
  await page.getByLabel("Position").press("Tab");
  await expect(page.getByText(/Only 3 of the library fit/)).toBeVisible();
  await page.getByRole("button", { name: "Done" }).click();
  await expect(row(page, "First by price")).toContainText("No block of the library fits");
  await expect(strip.locator("h3")).toHaveText(["Stone and leaf", "Kitchen seed box"]);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(strip.locator("h3")).toHaveText(["Stone and leaf", "Kitchen seed box", "Windowsill trio"]);
});

test("a pop-up is made, cleaned, seen in place, put live; it opens, holds the focus, gives it back, and its form submits", async ({
  page,
  context,
  browser,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Pop-ups");
  await page.getByRole("button", { name: "New pop-up" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Moss week");
  await text(page, "Headline").fill("Moss week");
  const popup = site(page).locator("dialog[data-mirada-popup]");
  await expect(popup.getByRole("heading", { name: "Moss week" })).toBeVisible();
  // What could run is taken out, with a word about it.
  await page.getByRole("button", { name: "Show Text as it is written" }).click();
  await page
    .getByLabel("Text", { exact: true })
    .fill(`<p onclick="x()">Soft <b>moss</b></p><script>alert(1)</script><a href="javascript:y()">z</a>`);
  await page.getByLabel("Text", { exact: true }).press("Tab");
  await expect(page.getByText(/Taken out of text: onclick, <script>, the link javascript:y\(\)/)).toBeVisible();
  await expect(popup.locator(".rich")).toHaveText("Soft mossz");
  await text(page, "Button leads to").fill("javascript:alert(1)");
  await expect(page.getByText("A link begins with /, https://, mailto: or tel:")).toBeVisible();
  await text(page, "Button leads to").fill("");
  await text(page, "Ask for an e-mail address: word on the button").fill("Write to me");
  await page.getByLabel("Seconds", { exact: true }).fill("0");
  await page.getByLabel("Frequency per visitor").click();
  await page.getByRole("option", { name: "no limit" }).click();
  await page.getByRole("region", { name: "Moss week" }).getByRole("switch").check();
  // For this visitor, here: it opens; and the page says so on the main screen.
  await expect(page.getByText("On this page, for this visitor: opens at once.")).toBeVisible();
  await putLive(page);

  const visitor = await context.newPage();
  await visitor.goto(`${shop}/contact`);
  const dialog = visitor.getByRole("dialog", { name: "Moss week" });
  await expect(dialog).toBeVisible();
  // The focus stays within until it is closed, and goes back.
  for (let count = 0; count < 6; count++) {
    await visitor.keyboard.press("Tab");
    expect(
      await visitor.evaluate(
        () =>
          document.activeElement === document.body ||
          document.querySelector("dialog[open]")!.contains(document.activeElement),
      ),
    ).toBe(true);
  }
  await visitor.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  await visitor.reload();
  await dialog.getByLabel("E-mail address").fill("wren@post.example");
  await dialog.getByRole("button", { name: "Write to me" }).click();
  await expect(visitor.getByRole("status")).toContainText("Thank you");
  await visitor.goto(`${shop}/letter?said=wrong&address=wren`);
  await visitor.keyboard.press("Escape");
  await expect(visitor.locator(".problem")).toContainText("This is no e-mail address");
  await expect(visitor.getByLabel("Your e-mail address")).toHaveValue("wren");

  // It opens when one leaves, once a day: whoever never left has not seen it.
  await page.getByLabel("Trigger").click();
  await page.getByRole("option", { name: /leaves/ }).click();
  await page.getByLabel("Frequency per visitor").click();
  await page.getByRole("option", { name: "limited per day" }).click();
  await putLive(page);
  const reader = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  await reader.addCookies([{ name: "mirada-consent", value: "yes", url: shop }]);
  const leaving = await reader.newPage();
  const happened = await hearHappened(leaving);
  const told = () => happened.filter(({ slot }) => slot.startsWith("popup:")).map(({ kind }) => kind);
  const waiting = leaving.locator("dialog[data-mirada-popup]");
  for (let count = 0; count < 2; count++) {
    await leaving.goto(`${shop}/contact`, { waitUntil: "networkidle" });
    await expect(waiting).toHaveCount(1);
    await expect(waiting).toBeHidden();
  }
  expect(told()).toEqual([]);
  const counted = leaving.waitForResponse((answer) => answer.url() === `${shop}/opened`);
  await expect(async () => {
    await leaving.evaluate(() =>
      document.documentElement.dispatchEvent(new MouseEvent("mouseleave", { clientX: 300, clientY: -1 })),
    );
    await expect(leaving.getByRole("dialog", { name: "Moss week" })).toBeVisible({ timeout: 1000 });
  }).toPass();
  expect((await counted).status()).toBe(204);
  await expect.poll(told).toEqual(["exposure"]);
  await leaving.goto(`${shop}/contact`, { waitUntil: "networkidle" });
  await expect(waiting).toHaveCount(0);
  await reader.close();

  // Taken back, so that it stands in nobody's way.
  await page.getByRole("region", { name: "Moss week" }).getByRole("switch").uncheck();
  await putLive(page);
});

test("a capped pop-up says why it is held back", async ({ page }) => {
  await openWorkbench(page);
  await lens(page, "Porto, keeps returning to ferns");
  await expect(page.locator(".popupline")).toContainText("Winter letter opens when the pointer leaves the page");
  await page.getByRole("button", { name: "Show it now" }).click();
  await expect(site(page).locator("dialog[open]")).toContainText("Before you go: the winter letter");
  await lens(page, "New York, from a partner’s blog");
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/ferns");
  await page.keyboard.press("Enter");
  await expect(page.locator(".popupline")).toContainText(
    "held back: it has a cap, and without consent nothing can be counted",
  );
});

test("another order of pop-ups is a change that is said, and can go live", async ({ page }) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Pop-ups");
  await expect(page.getByRole("button", { name: "New pop-up" })).toBeVisible();
  const pill = page.locator(".topline span.pill.draft");
  const before = (await pill.textContent()) ?? "";
  const names = () => page.locator("[data-row] .name").allTextContents();
  const [first = "", second = "", ...others] = await names();
  const grip = page.getByRole("button", { name: new RegExp(`^Move ${first}`) });
  await grip.focus();
  // The pop-up opens in its frame, and takes the focus of nobody who works beside it.
  await expect(site(page).locator("dialog[open]")).toContainText("Before you go");
  await expect(grip).toBeFocused();
  // What happens is said for those who do not see it, too.
  const said = (text: string) => expect(page.locator("[id^=DndLiveRegion]").filter({ hasText: text })).toHaveCount(1);
  await page.keyboard.press("Space");
  await said(`${first} is over ${first}.`);
  await page.keyboard.press("ArrowDown");
  await said(`${first} is over ${second}.`);
  await page.keyboard.press("Space");
  await expect.poll(names).toEqual([second, first, ...others]);
  await expect(pill).not.toHaveText(before);
  await page.getByRole("button", { name: "Publish", exact: true }).click();
  const dialog = page.getByRole("dialog", { name: "Publish" });
  await expect(dialog).toContainText("The order is changed");
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(pill).toHaveText(before);
});

test("a redirect is made with its examples; foreign hosts and loops are found while editing; visitors are really sent on", async ({
  page,
  request,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Content", "Redirects");
  await page.getByRole("button", { name: "New redirect" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Spring is over");
  await page.getByLabel("Value", { exact: true }).fill("/spring");
  await page.getByLabel("Value", { exact: true }).press("Tab");
  const address = page.getByLabel("Address", { exact: true });
  await address.fill("https://evil.example/{country}");
  await expect(page.getByText(/It leads to evil.example, which is not among the hosts/)).toBeVisible();
  await address.fill("https://{city}.example/");
  await expect(page.getByText(/The host must be written out/)).toBeVisible();
  await address.fill("/{planet}");
  await expect(page.getByText(/It names "planet"/)).toBeVisible();
  await address.fill("/succulents?from={language}");
  await address.press("Tab");
  const examples = page.getByRole("table", { name: "Examples" });
  await expect(examples.getByRole("row").nth(1)).toContainText("/succulents?from=");
  await page.getByRole("region", { name: "Spring is over" }).getByRole("switch").first().check();

  // In the sentence, and in the frame.
  await page.getByLabel(/^Paste a link/).fill("https://brackenfold.example/spring?utm_source=mossmail");
  await page.keyboard.press("Enter");
  await expect(page.locator(".sentence p")).toContainText(
    "and would be sent to https://brackenfold.example/succulents?from=pt&utm_source=mossmail",
  );
  await page.getByRole("link", { name: "Pages", exact: true }).click();
  await page.getByRole("button", { name: "Follow" }).click();
  await expect(site(page).getByRole("heading", { name: "Succulents" })).toBeVisible();

  // A second one that leads back: a loop, told at both ends.
  await openScreen(page, "Content", "Redirects");
  await page.getByRole("button", { name: "New redirect" }).click();
  await page.getByLabel("Name", { exact: true }).fill("And back");
  await page.getByLabel("Value", { exact: true }).fill("/succulents");
  await page.getByLabel("Value", { exact: true }).press("Tab");
  await page.getByLabel("Address", { exact: true }).fill("/spring");
  await page.getByLabel("Address", { exact: true }).press("Tab");
  await page.getByRole("region", { name: "And back" }).getByRole("switch").first().check();
  await expect(page.locator(".opened .error")).toContainText("goes round in a circle");
  await page.getByRole("button", { name: "Delete And back" }).click();
  await expect(page.locator("[data-row]").filter({ hasText: "And back" })).toHaveCount(0);

  await putLive(page);
  const spring = () =>
    request.get(`http://127.0.0.1:${shopPort}/spring?x=1`, {
      headers: { host: `brackenfold.localhost:${shopPort}`, "accept-language": "de" },
      maxRedirects: 0,
    });
  // The shop hears of a release by a notice.
  await expect.poll(async () => (await spring()).status()).toBe(302);
  expect((await spring()).headers().location).toMatch(/\/succulents\?from=/);
  // Where there is no page nobody has seen one: nothing is remembered of it.
  const agreed = { host: `brackenfold.localhost:${shopPort}`, cookie: "mirada-consent=yes" };
  const nowhere = await request.get(`http://127.0.0.1:${shopPort}/nowhere`, { headers: agreed, maxRedirects: 0 });
  expect(nowhere.status()).toBe(404);
  expect(nowhere.headers()["set-cookie"] ?? "").not.toContain("mirada=");
  const known = await request.get(`http://127.0.0.1:${shopPort}/ferns`, { headers: agreed });
  expect(known.headers()["set-cookie"]).toContain("mirada=");
  // A path that is another site's address does not lead there.
  const open = await request.get(`http://127.0.0.1:${shopPort}//evil.example/catalogue`, {
    headers: { host: `brackenfold.localhost:${shopPort}` },
    maxRedirects: 0,
  });
  expect(open.headers().location ?? "/").toMatch(/^\/(?!\/)/);
});

test("pages are read from the site's sitemap and from a file, and what is no sitemap is refused", async ({ page }) => {
  await openWorkbench(page);
  await page.goto(at("/settings"));
  const pages = page.getByRole("region", { name: "Pages", exact: true });
  await pages.getByRole("button", { name: "Remove /contact" }).click();
  await expect(pages.getByText("/contact", { exact: true })).toHaveCount(0);
  await pages.getByRole("button", { name: "Import sitemap", exact: true }).click();
  await expect(pages.getByRole("status")).toContainText("1 page is new");
  await expect(pages.getByText("/contact", { exact: true })).toBeVisible();
  const file = (name: string, body: string) => ({ name, mimeType: "application/xml", buffer: Buffer.from(body) });
  await pages.getByLabel("Sitemap file").setInputFiles(file("feed.xml", "<rss></rss>"));
  await expect(pages.getByRole("alert")).toContainText("begins with <rss>");
  await pages
    .getByLabel("Sitemap file")
    .setInputFiles(
      file(
        "sitemap.xml",
        "<urlset><url><loc>https://elsewhere.example/x</loc></url><url><loc>nonsense</loc></url></urlset>",
      ),
    );
  await expect(pages.getByRole("status")).toContainText("1 are of another site and were left out");
  await expect(pages.getByRole("alert")).toContainText("“nonsense” is no absolute http or https address");
});

test("a kind of block and a slot are declared, and an author fills them in at once", async ({ page }) => {
  await openWorkbench(page);
  await page.goto(at("/settings"));
  const kinds = page.getByRole("region", { name: "Kinds of blocks" });
  await kinds.getByLabel("Name of a new kind of block").fill("Quote");
  await kinds.getByRole("button", { name: "Add a kind" }).click();
  await kinds.getByLabel("Name of a new field").fill("Words");
  await kinds.getByRole("button", { name: "Add a field" }).click();
  const slots = page.getByRole("region", { name: "Slots" });
  await slots.getByLabel("Name of a new slot").fill("Quote of the week");
  await slots.getByRole("button", { name: "Add a slot" }).click();
  await slots.getByRole("link", { name: "Quote of the week" }).click();
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: "Blank" }).click();
  await page.getByLabel("Kind of block").click();
  await page.getByRole("option", { name: "Quote" }).click();
  await text(page, "Words").fill("A fern is a patient thing.");
  await expect(site(page).locator('[data-mirada-slot="quote-of-the-week"]')).toContainText(
    "A fern is a patient thing.",
  );
  // Taken back, step by step.
  for (let count = 0; count < 12 && (await page.getByText("Quote of the week").count()) > 0; count++) {
    await page.getByRole("button", { name: "Undo", exact: true }).click();
    await page.waitForTimeout(300);
  }
  await expect(page.getByText("Quote of the week")).toHaveCount(0);
});
