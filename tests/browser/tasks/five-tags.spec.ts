import { expect } from "@playwright/test";
import { openWorkbench } from "../support";
import { addCondition, done, expectShop, fillIn, makeVariant, openVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const words = "Five tags brought you here";
const tags = { source: "mossmail", medium: "email", name: "winter", term: "shade", content: "top" };
const link = (some: Partial<typeof tags>) =>
  `/?${new URLSearchParams(Object.entries(some).map(([key, text]) => [`utm_${key === "name" ? "campaign" : key}`, text])).toString()}`;

test("five campaign tags: all of them, any of them, and none of them", async ({ page, clicks }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Five tags");
  await fillIn(page, { Text: words });
  for (const [tag, text] of Object.entries(tags)) {
    await addCondition(page, `campaign.${tag}`);
    await value(page, text);
  }
  await switchOn(page);
  await putLive(page);
  await expectShop(link(tags), {}, words);
  await expectShop(link({ ...tags, term: "light" }), {}, words, false);
  for (const [group, right, wrong] of [
    [/^Any/, { term: "shade" }, { term: "light" }],
    [/^None/, { term: "light" }, { term: "shade" }],
  ] as const) {
    await openVariant(page, "Five tags");
    // By keyboard: the next in the list.
    const together = page.getByRole("combobox", { name: "How the conditions go together" });
    await together.focus();
    await page.keyboard.press("Enter");
    await expect(page.getByRole("option", { name: group })).toBeVisible();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    await expect(together).toHaveText(group);
    await done(page);
    await putLive(page);
    await expectShop(link(right), {}, words);
    await expectShop(link(wrong), {}, words, false);
  }
  tell("five tags all, any, opposite", clicks(), 37);
});
