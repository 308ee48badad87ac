/** Brings the database up to date and, if it is empty, fills it with the demo. Run by scripts/demo.mjs and the tests. */
import { createHash } from "node:crypto";
import { demoLenses } from "../demo/lenses";
import { demoRuleset } from "../demo/ruleset";
import { demoLibrary } from "../demo/library";
import { rulesetOf } from "@/core/draft/picks";
import { readBy } from "@/core/formats/read";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { checkRuleset } from "@/core/ruleset/check";
import { createSite, siteExists } from "@/data/draft";
import { saveLens } from "@/data/lenses";
import { keepEvents, makePartitions, tendPartitions } from "@/data/events";
import { migrate } from "@/data/migrate";
import { addPages, listPages } from "@/data/pages";
import { pool, transaction } from "@/data/pool";
import { putLive } from "@/data/releases";
import { addPlaceFile, saveDelivery } from "@/data/delivery";
import { makeKey } from "@/data/keys";
import { partnerKey } from "@/storefront/stand-ins/partner-key";
import { addProducts } from "@/data/products";
import { products, storePages } from "@/storefront/brackenfold/catalogue";
import { demoPeople } from "../demo/people";
import { addPerson } from "@/data/people";
import { hashPassword } from "@/server/people";
import { demoHistory } from "../demo/history";
import { demoLinks } from "../demo/links";
import { demoPlaces } from "../demo/places";
import { demoVisits, madeEvents, type LiveFrom } from "../demo/results";
import { saveLinks } from "@/data/links";
import { siteLookup } from "@/data/places";
import { sourceOf } from "@/delivery/source";
import { factsByPath } from "@/core/visit/pages";
import type { Ruleset } from "@/core/formats/ruleset";

/** The demo's results reach back so many days, to the day before it is filled in. */
const demoDays = 28;
const day = 86_400_000;
const today = Math.floor(Date.now() / day) * day;
const startOfDemo = today - demoDays * day;

/** Four weeks of what made-up visitors did, decided by the engine, as events and their hours. */
async function makeResults(live: readonly LiveFrom[]): Promise<void> {
  const pages = factsByPath(await listPages("brackenfold"));
  const lookup = await siteLookup("brackenfold");
  await makePartitions(new Date(startOfDemo).toISOString().slice(0, 10), demoDays, pool());
  for (const events of madeEvents(live, [startOfDemo, today], demoVisits, pages, lookup, sourceOf))
    for (let from = 0; from < events.length; from += 5000)
      await keepEvents(events.slice(from, from + 5000).map((event) => ({ site: "brackenfold", ...event })));
}

await migrate();
if (!(await siteExists("brackenfold"))) {
  const read = readBy(siteDraftSchema, { ...demoRuleset, ...demoLibrary });
  if (!read.ok) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(read.problems)}`);
  const draft = read.value;
  const ruleset = rulesetOf(draft);
  const problems = checkRuleset(ruleset);
  if (problems.length > 0) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(problems)}`);
  const sha256Of = (of: Ruleset) => createHash("sha256").update(JSON.stringify(of)).digest("hex");
  const history = demoHistory(ruleset, startOfDemo);
  await transaction(async (db) => {
    await createSite(draft, db);
    await saveDelivery("brackenfold", "otherHosts", ["seeds.brackenfold.example"], db);
    await saveDelivery("brackenfold", "secondPerson", false, db);
    const port = Number(process.env.PORT ?? 4300);
    await saveDelivery("brackenfold", "origins", [`http://stone-and-moss.localhost:${port}`], db);
    await makeKey("brackenfold", "public", "Stone & Moss, the partner’s blog", "mirada", db, partnerKey);
    for (const person of demoPeople)
      await addPerson("brackenfold", { ...person, password: await hashPassword(person.shownPassword) }, db);
    await addPages("brackenfold", storePages, db);
    await addProducts(
      "brackenfold",
      products.map(({ sku, name, category, price }) => ({ sku, name, category, unitPrice: price })),
      db,
    );
    const rows = demoPlaces.trim().split("\n").length - 1;
    await addPlaceFile(
      "brackenfold",
      { id: "documentation", name: "Place service of the demo.csv", format: "csv", says: `${rows} networks` },
      Buffer.from(demoPlaces),
      db,
    );
    for (const lens of demoLenses) await saveLens("brackenfold", { steps: [], ...lens }, db);
    await saveLinks("brackenfold", demoLinks, db);
    for (const { from, note, ruleset: released } of history)
      await putLive(
        { site: "brackenfold", person: "mirada", note, ruleset: released, sha256: sha256Of(released), draftVersion: 2 },
        db,
        new Date(from),
      );
  });
  await makeResults(history);
}
await tendPartitions(pool());
await pool().end();
