import { expect, type Page } from "@playwright/test";
import { demoDay, dependOn, openScreen, openWorkbench, row, travel, test, typeInto } from "./support";

const add = (page: Page) => page.getByRole("button", { name: "Condition", exact: true }).last();

test("the rule of a long sentence is built, read back, and a part of it saved as an audience", async ({ page }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Audiences");
  await page.locator(".listhead").getByRole("button", { name: "New audience" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Winter evenings");
  await page.getByRole("button", { name: "Add a condition" }).click();
  await dependOn(page, "Device");
  await page.getByRole("combobox", { name: "Value" }).click();
  await page.getByRole("option", { name: "phone", exact: true }).click();
  await add(page).click();
  await dependOn(page, "Location");
  // The first is typed and taken with Enter alone, while the change before it is still being saved.
  await page.getByRole("combobox", { name: "Places" }).fill("Spain");
  await page.keyboard.press("Enter");
  await typeInto(page, "Places", ["Portugal"]);
  await add(page).click();
  await dependOn(page, "Language");
  await page.getByRole("combobox", { name: "How it is compared" }).click();
  await page.getByRole("option", { name: "reads" }).click();
  await typeInto(page, "Languages", ["Spanish (es)", "Portuguese (pt)"]);
  await add(page).click();
  await dependOn(page, "Views of a page category");
  await page.getByRole("combobox", { name: "Page category" }).fill("ferns");
  await page.keyboard.press("Tab");
  await page.getByLabel("Number").fill("2");
  await page.keyboard.press("Tab");
  await add(page).click();
  await dependOn(page, "Date and time");
  await page.getByRole("button", { name: "Add something else" }).last().click();
  await page.getByRole("menuitem", { name: "A group: any of these matches" }).click();
  await dependOn(page, "Campaign name");
  await page.getByLabel("Value", { exact: true }).fill("winter-light");
  await page.keyboard.press("Tab");
  await page
    .getByRole("group", { name: "Any of these matches" })
    .getByRole("button", { name: "Condition", exact: true })
    .click();
  await dependOn(page, "Search words");
  await typeInto(page, "Words", ["shade"]);
  const sentence = page.locator(".form .rule.large");
  await expect(sentence).toHaveText(
    "when the visitor is on a phone and the visitor is in Spain or Portugal and the visitor reads Spanish or Portuguese and the visitor has seen ferns at least 2 times and it is Monday to Friday between 09:00 and 18:00, Lisbon time and (the campaign name is “winter-light” or the search contains any of the words “shade”)",
  );

  // A part of it under a name, used at once in its place, and anywhere else.
  await page
    .getByRole("group", { name: "Any of these matches" })
    .getByRole("button", { name: "More about this group" })
    .click();
  await page.getByRole("menuitem", { name: "Save as an audience" }).click();
  await page.getByLabel("Name of the audience").fill("Winter or shade");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(sentence).toContainText("and the visitor belongs to “Winter or shade”");
  await page.locator("[data-row=winter-or-shade] .name").click();
  await expect(page.getByRole("region", { name: "Where it is used" })).toContainText("Audience Winter evenings");
  // What is used is not deleted unseen.
  await page.locator("[data-row=winter-or-shade]").hover();
  await page.getByRole("button", { name: "Delete Winter or shade" }).click();
  await expect(page.getByText(/is used in Audience Winter evenings/)).toBeVisible();
  // The lens that fits it, and the verdict beside the list.
  await page.getByRole("button", { name: /^Lens:/ }).click();
  await page.getByRole("menuitem", { name: "Porto, keeps returning to ferns" }).click();
  await page.getByRole("textbox", { name: /Paste a link/ }).fill("?utm_campaign=winter-light");
  await page.keyboard.press("Enter");
  await expect(page.locator(".listrow", { hasText: "Winter evenings" })).toContainText("belongs");
  await travel(page, `${demoDay(4)}T11:00`);
  await expect(page.locator(".listrow", { hasText: "Winter evenings" })).toContainText("not in it");
});

test("parts of a rule are moved by keyboard and by mouse, copied and pasted; what cannot be is pointed out", async ({
  page,
}) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Audiences");
  await page.locator(".listhead").getByRole("button", { name: "New audience" }).click();
  await page.locator(".opened").getByRole("button", { name: "More", exact: true }).click();
  await page.getByRole("menuitem", { name: "Paste a rule" }).click();
  await page.getByLabel("JSON text").fill("{ nonsense");
  await page.getByRole("button", { name: "Take it" }).click();
  await expect(page.getByText("This is not JSON text")).toBeVisible();
  await page.getByLabel("JSON text").fill(
    JSON.stringify({
      all: [
        { signal: "cookie.a", op: "isPresent" },
        {
          any: [
            { signal: "cookie.b", op: "isPresent" },
            { signal: "cookie.c", op: "isPresent" },
          ],
        },
      ],
    }),
  );
  await page.getByRole("button", { name: "Take it" }).click();
  const sentence = page.locator(".form .rule.large");
  await expect(sentence).toHaveText("when there is a cookie “a” and (there is a cookie “b” or there is a cookie “c”)");
  // Down into the group, by keyboard; the grip keeps the focus.
  await page.getByRole("button", { name: /^Move there is a cookie “a”/ }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(sentence).toHaveText("when (there is a cookie “a” or there is a cookie “b” or there is a cookie “c”)");
  await expect(page.getByRole("button", { name: /^Move there is a cookie “a”/ })).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(sentence).toHaveText("when (there is a cookie “b” or there is a cookie “a” or there is a cookie “c”)");
  // And out again by mouse, to before the group.
  const grip = (await page.getByRole("button", { name: /^Move there is a cookie “a”/ }).boundingBox())!;
  const gap = (await page.locator(".form .dropgap").first().boundingBox())!;
  await page.mouse.move(grip.x + 6, grip.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip.x + 6, grip.y - 10, { steps: 3 });
  await page.mouse.move(gap.x + 20, gap.y + 1, { steps: 6 });
  await page.waitForTimeout(100);
  await page.mouse.up();
  await expect(sentence).toHaveText("when there is a cookie “a” and (there is a cookie “b” or there is a cookie “c”)");
  // A condition that excludes another is pointed out as it is built.
  await page.getByRole("button", { name: "Add something else" }).first().click();
  await page.keyboard.press("Escape");
  await add(page).click();
  await dependOn(page, "Cookie");
  await page.getByRole("combobox", { name: "Name of the cookie" }).fill("a");
  await page.keyboard.press("Tab");
  await page.getByRole("combobox", { name: "How it is compared" }).click();
  await page.getByRole("option", { name: "is empty" }).click();
  await expect(page.locator(".rulenote.never")).toContainText("These can never hold together");
  await expect(page.getByText("Draft", { exact: false }).first()).toBeVisible();
});

test("weekdays and hours are drawn on the grid, by mouse and by keyboard", async ({ page }) => {
  await openWorkbench(page);
  await row(page, "Repotting clinic").locator(".open").click();
  await page.locator(".editor .says").click();
  const cell = (day: number, hour: number) => page.locator(`[data-cell="${day} ${hour}"]`);
  await cell(2, 14).hover();
  await page.mouse.down();
  await cell(4, 16).hover();
  await page.mouse.up();
  const sentence = page.locator(".editor > .rule");
  await expect(sentence).toHaveText("when it is Wednesday to Friday between 14:00 and 17:00, Lisbon time");
  await cell(0, 9).focus();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Enter");
  await expect(sentence).toHaveText("when it is Monday or Tuesday between 09:00 and 11:00, Lisbon time");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(sentence).toHaveText("when it is Wednesday to Friday between 14:00 and 17:00, Lisbon time");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(sentence).toHaveText("when it is Tuesday between 10:00 and 12:00, Lisbon time");
});

test("a place list is edited in the list and on the map", async ({ page }) => {
  await openWorkbench(page);
  await openScreen(page, "Visitors", "Places");
  const open = page.locator(".opened");
  await expect(open.locator("path[data-country=PT]")).toHaveClass("whole");
  await open.getByRole("button", { name: "Europe", exact: true }).click();
  await open.locator("path[data-country=PL]").click({ force: true });
  await expect(open.getByRole("button", { name: "Poland" })).toBeVisible();
  await expect(open.locator("path[data-country=PL]")).toHaveClass("whole");
  await open.locator("path[data-country=PL]").click({ force: true });
  await expect(open.getByRole("button", { name: "Poland" })).toHaveCount(0);
  await open.getByRole("combobox", { name: "Places in the list" }).fill("38.72 -9.14 50 km");
  await page.keyboard.press("Enter");
  await expect(open.getByRole("button", { name: "50 km around 38.72, -9.14" })).toBeVisible();
  await expect(open.locator("path.circle")).toHaveCount(1);
  // What is no place stays to be mended; what begins one alone is that one, also where the box is left.
  const box = open.getByRole("combobox", { name: "Places in the list" });
  await box.fill("Prto");
  await page.keyboard.press("Enter");
  await expect(open.getByText("“Prto” is no place that is known here")).toBeVisible();
  await expect(box).toHaveValue("Prto");
  await box.fill("porto");
  await page.keyboard.press("Tab");
  await expect(open.getByRole("button", { name: "Porto, Portugal" })).toBeVisible();
  await expect(box).toHaveValue("");
  await open.getByRole("button", { name: "Place circles" }).click();
  await open.locator("svg.map").click({ position: { x: 200, y: 200 } });
  await expect(open.locator("path.circle")).toHaveCount(2);
  for (let count = 0; count < 5; count++) {
    await page.getByRole("button", { name: "Undo", exact: true }).click();
    await page.waitForTimeout(200);
  }
  await expect(open.locator("path.circle")).toHaveCount(0);
});

test("everything is reached by a few letters", async ({ page }) => {
  await openWorkbench(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("fern friend");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Markers" })).toBeVisible();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Fern friend");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("hero repotting");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Headline", { exact: true })).toHaveText("The repotting clinic is open now");
});
