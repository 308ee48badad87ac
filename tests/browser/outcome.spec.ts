import { expect } from "@playwright/test";
import { now } from "../../src/clock";
import { at, shopPort, goLive, dayWords, demoDay, openWorkbench, row, site, travel, visitShop, test } from "./support";

/** Today and tomorrow in Lisbon, as the hour grid names days: a test that goes on past midnight is in it still. */
const daysAroundNow = (): string[] =>
  [0, 86_400_000].map((ahead) =>
    new Intl.DateTimeFormat("en-GB", { timeZone: "Europe/Lisbon", weekday: "short" }).format(now() + ahead),
  );

// As most people see it: with what moves.
test.use({ contextOptions: { reducedMotion: "no-preference" } });

test("from a lens to live: copy a variant, change it, say when, see who wins, put it live, and a visitor gets it", async ({
  page,
}) => {
  await openWorkbench(page);

  // The hero slot is clicked on the page itself.
  await site(page).locator('[data-mirada-slot="site-bar"]').click();
  await expect(page.getByRole("heading", { name: "Site bar" })).toBeVisible();
  await site(page).locator('[data-mirada-slot="home-hero"] h1').click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await expect(row(page, "Repotting clinic").locator(".verdict")).toHaveText("Shown");

  // Copy a variant and change headline, text and button: seen on the page as it is typed.
  await row(page, "Repotting clinic").hover();
  await page.getByRole("button", { name: "Copy Repotting clinic" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Late clinic");
  await page.getByLabel("Headline", { exact: true }).fill("The late clinic is open");
  await page.getByLabel("Text", { exact: true }).fill("An extra hour for tired plants.");
  await page.getByLabel("Button", { exact: true }).fill("Come in");
  const hero = site(page).locator('[data-mirada-slot="home-hero"]');
  await expect(hero.locator("h1")).toHaveText("The late clinic is open");
  await expect(hero.locator("p")).toHaveText("An extra hour for tired plants.");
  await expect(hero.locator("a")).toHaveText("Come in");
  await expect(hero).toHaveAttribute("data-mirada-mark", /pinned/);

  // The rule, which the copy has from its original: Tuesday between 10:00 and 12:00, Lisbon time.
  await expect(page.locator(".editor .rule")).toHaveText("when it is Tuesday between 10:00 and 12:00, Lisbon time");
  // A time that is none is refused at the field, and the draft stays as it was.
  await page.locator(".editor .says").click();
  await page.getByLabel("To", { exact: true }).fill("25:00");
  await expect(page.getByText("A time up to 24:00")).toBeVisible();
  await expect(page.locator(".editor .rule")).toHaveText("when it is Tuesday between 10:00 and 12:00, Lisbon time");
  await page.getByLabel("To", { exact: true }).fill("13:00");
  await expect(page.locator(".editor .rule")).toHaveText("when it is Tuesday between 10:00 and 13:00, Lisbon time");
  await page.getByRole("switch").first().check();
  await page.getByRole("button", { name: "Done" }).click();

  // A copy stands below the one copied: it wins once it is moved above.
  await expect(row(page, "Late clinic").locator(".verdict")).toHaveText("Beaten by A");
  await page.getByRole("button", { name: /^Move Late clinic/ }).focus();
  for (const key of ["Space", "ArrowUp", "Space"]) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
  }

  // Who wins, and why, while the visit changes.
  await expect(row(page, "Late clinic").locator(".verdict")).toHaveText("Shown");
  await expect(row(page, "Repotting clinic").locator(".verdict")).toHaveText("Beaten by A");
  await travel(page, `${demoDay(0)}T12:30`);
  await expect(row(page, "Late clinic").locator(".verdict")).toHaveText("Shown");
  await expect(row(page, "Repotting clinic").locator(".verdict")).toHaveText("Not shown");
  await expect(row(page, "Repotting clinic").locator(".why")).toContainText(
    `${dayWords(demoDay(0))}, 12:30 in Europe/Lisbon`,
  );
  await travel(page, `${demoDay(0)}T13:00`);
  await expect(row(page, "Late clinic").locator(".verdict")).toHaveText("Not shown");
  await expect(hero.locator("h1")).toHaveText("Ferns for every corner");

  // Time travel with the keyboard on the ribbon's cursor.
  const cursor = page.getByRole("slider", { name: "Time travelled to" });
  await cursor.focus();
  await page.keyboard.press("ArrowLeft");
  await expect(page.locator(".sentence p")).toContainText("12:00 Lisbon time");
  await expect(hero.locator("h1")).toHaveText("The late clinic is open");

  // So that an ordinary browser gets it now: today and tomorrow, all day.
  const days = daysAroundNow();
  await page.getByRole("button", { name: "Late clinic", exact: true }).click();
  await page.locator(".editor .says").click();
  for (const day of ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]) {
    const button = page.getByRole("button", { name: day, exact: true });
    const pressed = (await button.getAttribute("aria-pressed")) === "true";
    if (pressed !== days.includes(day)) await button.click();
  }
  await page.getByLabel("From", { exact: true }).fill("00:00");
  await page.getByLabel("To", { exact: true }).fill("24:00");
  await page.getByLabel("To", { exact: true }).press("Tab");
  await expect(page.locator(".editor .rule")).toContainText("between 00:00 and 24:00");
  await page.getByRole("button", { name: "Done" }).click();

  expect((await visitShop()).includes("The late clinic is open")).toBe(false);
  await page.getByRole("button", { name: "Publish" }).click();
  const dialog = page.getByRole("dialog", { name: "Publish" });
  await expect(dialog).toContainText("Late clinic is new");
  await goLive(page);
  // Soon, without a restart.
  await expect
    .poll(async () => (await visitShop()).includes("The late clinic is open"), { intervals: [50] })
    .toBe(true);
  await expect(page.getByText("Draft · no changes")).toBeVisible();
  // Taken back: on some weekday it would stand in the way of other tests.
  await row(page, "Late clinic").hover();
  await page.getByRole("button", { name: "Delete Late clinic" }).click();
  await expect(row(page, "Late clinic")).toHaveCount(0);
});

test("a rule that is not finished is said at the field and cannot go live; undo takes it back", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("button", { name: "Add a variant" }).click();
  await page.getByRole("menuitem", { name: "Blank" }).click();
  await page.getByRole("textbox", { name: "Headline", exact: true }).fill("Half done");
  const headline = site(page).locator('[data-mirada-slot="home-hero"] h1');
  await expect(headline).toHaveText("Half done");
  await page.getByRole("button", { name: "Add a condition" }).click();
  await page.getByRole("combobox", { name: "What it depends on" }).fill("campaign source");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Say which value")).toBeVisible();
  await expect(page.locator(".slothead .verdict")).toHaveText("Not finished");
  // What it says can be looked at all the while.
  await expect(headline).toHaveText("Half done");
  await page.getByRole("button", { name: "Publish" }).click();
  const dialog = page.getByRole("dialog", { name: "Publish" });
  await expect(dialog).toContainText("nothing can go live yet");
  await expect(dialog.getByRole("button", { name: "Publish now" })).toHaveCount(0);
  await dialog.getByRole("button", { name: "Open" }).first().click();
  await page.getByLabel("Value", { exact: true }).fill("mossmail");
  await expect(page.locator(".slothead .verdict")).toHaveText("Switched off");
  await expect(page.locator(".editor .rule")).toHaveText("when the campaign source is “mossmail”");
  // A group of its own, and the verdict of each part for this lens.
  await page.getByRole("button", { name: "Add something else" }).click();
  await page.getByRole("menuitem", { name: "A group: any of these matches" }).click();
  await expect(page.getByRole("combobox", { name: "How the conditions go together" })).toHaveCount(2);
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.locator("[data-variant=new-variant]")).toBeVisible();
  for (let count = 0; count < 20 && (await page.locator("[data-variant=new-variant]").count()) > 0; count++) {
    await page.getByRole("button", { name: "Undo", exact: true }).click();
    // Pressed again before the answer is there, it would take back what was there before this test.
    await expect(page.locator(".topline [role=status]")).toHaveText("Saved");
  }
  await expect(page.locator("[data-variant=new-variant]")).toHaveCount(0);
  await page.getByRole("button", { name: "Redo", exact: true }).click();
  await expect(page.locator("[data-variant=new-variant]")).toHaveCount(1);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.locator("[data-variant=new-variant]")).toHaveCount(0);
});

test("pasting a tagged link and a referrer is understood, and what is not is said", async ({ page }) => {
  await openWorkbench(page);
  const paste = page.getByRole("textbox", { name: /Paste a link/ });
  await paste.fill("https://brackenfold.example/?utm_source=mossmail&utm_campaign=winter-light");
  await paste.press("Enter");
  await travel(page, `${demoDay(2)}T08:00`);
  await expect(page.locator(".sentence p")).toContainText("a link tagged mossmail · winter-light");
  await expect(row(page, "Winter light, newsletter").locator(".verdict")).toHaveText("Shown");
  await expect(site(page).locator("h1")).toHaveText("Hello again: here is your winter light");
  await paste.fill("https://stone-and-moss.example/shade-garden");
  await paste.press("Enter");
  await expect(page.locator(".sentence p")).toContainText("from stone-and-moss.example");
  await paste.fill("nothing at all");
  await paste.press("Enter");
  await expect(page.getByText("This is no address, no User-Agent and no Accept-Language.")).toBeVisible();
  // A User-Agent changes the device and the width of the frame.
  await paste.fill(
    "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
  );
  await paste.press("Enter");
  await expect(page.locator(".sentence p")).toContainText("a phone with iOS");
  await expect(page.getByRole("button", { name: "Phone", exact: true })).toHaveAttribute("aria-pressed", "true");
});

test("variants are reordered by drag and by keyboard, switched off, deleted and brought back", async ({ page }) => {
  await openWorkbench(page);
  await page.getByRole("tab", { name: /Site bar/ }).click();
  const names = () => page.locator("[data-variant] .open").allTextContents();
  await expect.poll(names).toEqual(["Portugal", "Spain", "No plants by post"]);
  const grip = page.getByRole("button", { name: /^Move Portugal/ });
  await grip.focus();
  await page.keyboard.press("Space");
  await page.waitForTimeout(150);
  await page.keyboard.press("ArrowDown");
  await page.waitForTimeout(150);
  await page.keyboard.press("Space");
  await expect.poll(names).toEqual(["Spain", "Portugal", "No plants by post"]);
  const from = (await page.getByRole("button", { name: /^Move Portugal/ }).boundingBox())!;
  const to = (await page.getByRole("button", { name: /^Move Spain/ }).boundingBox())!;
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, from.y - 20, { steps: 4 });
  await page.mouse.move(to.x + 5, to.y - 4, { steps: 8 });
  await page.waitForTimeout(150);
  await page.mouse.up();
  await expect.poll(names).toEqual(["Portugal", "Spain", "No plants by post"]);

  await row(page, "Portugal").hover();
  await page.getByRole("button", { name: "Switch Portugal off" }).click();
  await expect(row(page, "Portugal").locator(".verdict")).toHaveText("Switched off");
  await page.getByRole("button", { name: "Switch Portugal on" }).click();
  await row(page, "Spain").hover();
  await page.getByRole("button", { name: "Delete Spain" }).click();
  await expect.poll(names).toEqual(["Portugal", "No plants by post"]);
  await page.getByRole("button", { name: "Undo" }).last().click();
  await expect.poll(names).toEqual(["Portugal", "Spain", "No plants by post"]);
  // What is saved is there after a reload.
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await page.reload();
  await page.getByRole("tab", { name: /Site bar/ }).click();
  await expect.poll(names).toEqual(["Portugal", "Spain", "No plants by post"]);
});

test("the shop is complete without JavaScript, and a visitor cannot make up a place, a time or an address", async ({
  browser,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto(`http://brackenfold.localhost:${shopPort}/ferns`);
  await expect(page.locator(".note")).toContainText("Water from below");
  await page.getByRole("link", { name: "Maidenhair" }).click();
  await page.getByRole("button", { name: "Add to cart" }).click();
  await expect(page.locator("table.cart")).toContainText("€9.50");
  await page.getByLabel("Quantity").fill("3");
  await page.getByRole("button", { name: "Change" }).click();
  await expect(page.locator("tfoot")).toContainText("€28.50");
  await context.close();
  const forged = await visitShop("/?look=forged-pass-000000000000&at=2028-02-29T10:15:00Z&place=PT", {
    "x-forwarded-for": "203.0.113.24",
  });
  expect(forged.includes("Portes grátis")).toBe(false);
  // No lens: the bridge that draws outlines is not in the page.
  expect(forged.includes("data-mirada-mark")).toBe(false);
});

test("a link to a slot of another page leads to a page that has it, and the way on is free", async ({ page }) => {
  await page.goto(at("/pages?slot=advice-topic"));
  await expect(page.getByRole("heading", { name: "Advice by topic" })).toBeVisible();
  await expect(page.locator(".sentence [data-part=page]")).toHaveText("the advice page");
  await page.locator(".sentence [data-part=page]").click();
  await page.getByRole("combobox", { name: "Page" }).fill("the home page");
  await page.getByRole("option", { name: /the home page/ }).click();
  await expect(page.getByRole("heading", { name: "Home hero" })).toBeVisible();
  await expect(page.getByText("is not on this page")).toBeVisible();
});
