import { expect } from "@playwright/test";
import { nowText } from "@/clock";
import { openWorkbench, port, site } from "../support";
import { addCondition, expectShop, fillIn, makeVariant, switchOn, value } from "./steps";
import { putLive, tell, test } from "./task";

const words = "You have time: come to the clinic";

test("after fourteen minutes on the site, not before", async ({ page, clicks, request }) => {
  await openWorkbench(page);
  await makeVariant(page, /Site bar/, "Fourteen minutes");
  await fillIn(page, { Text: words });
  await addCondition(page, "history.minutes");
  await value(page, "14");
  await switchOn(page);
  await putLive(page);
  tell("14 minutes on the site", clicks(), 11);
  await expectShop("/", {}, words, false);
  await expect(site(page).locator("[data-mirada-slot=site-bar]")).not.toContainText(words);

  // A visit of fourteen minutes, asked of what is live, with its memory handed on.
  const headers = { origin: `http://localhost:${port}` };
  const made = await request.post("/s/brackenfold/act/makeKey", { headers, data: ["secret", "A visit of a while"] });
  const { key, keys } = (await made.json()) as { key: string; keys: { id: string; name: string }[] };
  const start = Date.parse(nowText());
  let memory: unknown;
  const sees = async (minutes: number) => {
    const visit = {
      at: new Date(start + minutes * 60_000).toISOString(),
      url: "https://brackenfold.example/",
      consent: true,
      visitorId: "v-clock",
      memory,
    };
    const answer = await request.post(`http://localhost:${port + 1}/v1/decide`, {
      headers: { authorization: `Bearer ${key}` },
      data: { visit },
    });
    // The key is known there a moment later.
    if (!answer.ok()) return undefined;
    const { decision } = (await answer.json()) as {
      decision: { memory: unknown; slots: Record<string, { content: { fields: { text?: string } } | null }[]> };
    };
    memory = decision.memory;
    return decision.slots["site-bar"]?.[0]?.content?.fields.text === words;
  };
  await expect.poll(() => sees(0)).toBe(false);
  expect(await sees(7)).toBe(false);
  expect(await sees(13.9)).toBe(false);
  expect(await sees(14)).toBe(true);
  for (const one of keys.filter(({ name }) => name === "A visit of a while"))
    await request.post("/s/brackenfold/act/endKey", { headers, data: [one.id] });
});
