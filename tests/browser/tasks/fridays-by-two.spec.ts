import { expect } from "@playwright/test";
import { askForReview, at, openWorkbench, port, signIn, site, travel, typeDate, visitShop } from "../support";
import { coming, dayIn, weekday } from "./days";
import { fillIn, makeVariant, switchOn } from "./steps";
import { countClicks, tell, test } from "./task";

const words = "Fresh moss, every Friday";

test.afterEach(async ({ request }) => {
  await request.post("/s/brackenfold/act/askSecondPerson", {
    headers: { origin: `http://localhost:${port}` },
    data: [false],
  });
});

test("every Friday from a date on, asked for by one person and put live by another", async ({ browser, request }) => {
  const act = (name: string, ...data: unknown[]) =>
    request.post(`/s/brackenfold/act/${name}`, { headers: { origin: `http://localhost:${port}` }, data });
  await act("askSecondPerson", true);
  const as = async (name: string) => {
    const context = await browser.newContext({
      storageState: { cookies: [await signIn(name)], origins: [] },
      viewport: { width: 1280, height: 800 },
    });
    return context.newPage();
  };
  const [editor, approver] = [await as("Editor"), await as("Approver")];
  const clicks = await countClicks(editor);
  await openWorkbench(editor);
  await makeVariant(editor, /Site bar/, "Fridays");
  await fillIn(editor, { Text: words });
  await editor.getByRole("button", { name: "Give it a schedule" }).click();
  const days = editor.getByRole("group", { name: "Weekdays" });
  for (const day of ["Mon", "Tue", "Wed", "Thu"]) await days.getByRole("button", { name: day }).click();
  await editor.getByRole("button", { name: /^Remove the hours/ }).click();
  await editor.getByRole("button", { name: "Dates and repeats" }).click();
  const from = coming(5);
  await typeDate(editor, "Starts", `${from}T00:00`);
  await editor.keyboard.press("Tab");
  await switchOn(editor);
  const made = clicks();
  const bar = site(editor).locator("[data-mirada-slot=site-bar]");
  await travel(editor, `${from}T23:59`);
  await expect(bar).toContainText(words);
  await travel(editor, `${dayIn(weekday(from) === 5 ? -1 : 0)}T12:00`);
  await expect(bar).not.toContainText(words);
  await expect(editor.getByRole("button", { name: "Publish", exact: true })).toHaveCount(0);
  const before = clicks();
  await editor.getByRole("button", { name: "Request a review" }).click();
  await askForReview(editor);
  // And one by whoever approves.
  tell("Fridays from a date, with a second person", made + clicks() - before + 2, 22);

  await approver.goto(at("/pages"));
  await approver.getByRole("link", { name: /^Review \d+ · open$/ }).click();
  await expect(approver.getByRole("button", { name: "Approve and publish" })).toBeVisible({ timeout: 40_000 });
  await approver.getByRole("button", { name: "Approve and publish" }).click();
  await expect(approver.getByText(/^Release \d+ is live$/)).toBeVisible({ timeout: 40_000 });
  // It begins on a Friday that is to come: today nobody sees it.
  expect((await visitShop("/")).includes(words)).toBe(false);
  for (const page of [editor, approver]) await page.context().close();
});
