/** Stone & Moss as a site of its own: static pages with the tag, served by a program that knows nothing of Mirada. */
import { createHash } from "node:crypto";
import { rulesetOf } from "@/core/draft/picks";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { accountByEmail } from "@/data/accounts";
import { createSite } from "@/data/draft";
import { makeKey } from "@/data/keys";
import { saveLens } from "@/data/lenses";
import { addPages } from "@/data/pages";
import { addPerson } from "@/data/people";
import type { Queryable } from "@/data/pool";
import { putLive } from "@/data/releases";
import { saveDelivery } from "@/data/delivery";
import { setOrigins } from "@/data/sites";
import { roles } from "@/core/people/roles";
import { nowText } from "@/clock";
import { stoneAndMossKey } from "./keys";

/** The id of the site. */
export const stoneAndMoss = "stone-and-moss";

const line = (text: string, link = "") => ({ type: "line", fields: { text, ...(link ? { link } : {}) }, tokens: {} });

/** Its draft: a line that is marked in its pages, and a heading that was pointed at. */
const draftAt = (origin: string) =>
  siteDraftSchema.parse({
    format: "mirada-ruleset/1",
    site: { id: stoneAndMoss, name: "Stone & Moss", zone: "Europe/Lisbon", currency: "EUR", language: "en", origin },
    blockTypes: [
      {
        id: "line",
        name: "A line",
        fields: [
          { id: "text", name: "Text", kind: "line" },
          { id: "link", name: "Link", kind: "link" },
        ],
      },
    ],
    slots: [
      {
        id: "site-bar",
        name: "The line on top",
        pages: null,
        variants: [
          {
            id: "letter",
            name: "Readers of the letter",
            rule: { signal: "campaign.source", op: "is", value: "letter" },
            arms: [{ id: "a", weight: 100, content: line("Good to see a reader of the letter") }],
          },
        ],
      },
      {
        id: "heading",
        name: "The heading of stones",
        pages: { signal: "page.path", op: "is", value: "/stones" },
        at: { selector: "main h1" },
        variants: [
          {
            id: "phones",
            name: "Short, on phones",
            rule: { signal: "device.kind", op: "isOneOf", value: ["phone"] },
            arms: [
              {
                id: "a",
                weight: 100,
                content: {
                  type: "@own",
                  fields: { changes: [{ part: "", was: "Moving a stone", text: "Stones, gently" }] },
                  tokens: {},
                },
              },
            ],
          },
        ],
      },
    ],
  });

/** Fills the site in, within the caller's transaction. `origin`: where its pages are served. */
export async function fillStoneAndMoss(origin: string, db: Queryable): Promise<void> {
  const draft = draftAt(origin);
  const ruleset = rulesetOf(draft);
  await createSite(draft, db);
  await setOrigins(stoneAndMoss, [origin], null, db);
  await saveDelivery(stoneAndMoss, "secondPerson", false, db);
  await makeKey(stoneAndMoss, "public", "The tag in its pages", "mirada", db, stoneAndMossKey);
  await addPages(
    stoneAndMoss,
    [
      { path: "/stones", title: "Moving a stone", facts: { id: "moving-a-stone", language: "en" } },
      { path: "/about", title: "About", facts: { id: "about", language: "en" } },
    ],
    db,
  );
  const visit = { at: nowText(), url: `${origin}/stones`, consent: false };
  await saveLens(stoneAndMoss, { id: "reader", name: "A first-time visitor", visit, steps: [] }, db);
  const owner = await accountByEmail("owner@brackenfold.example", db);
  if (owner) await addPerson(stoneAndMoss, owner.id, roles, db);
  const sha256 = createHash("sha256").update(JSON.stringify(ruleset)).digest("hex");
  await putLive({ site: stoneAndMoss, person: "mirada", note: "The first", ruleset, sha256, draftVersion: 2 }, db);
}
