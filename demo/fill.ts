/** Fills Brackenfold in: its site with everything that its marketing has set up, and four weeks of results up to a day. */
import { createHash } from "node:crypto";
import { rulesetOf } from "@/core/draft/picks";
import { readBy } from "@/core/formats/read";
import type { Ruleset } from "@/core/formats/ruleset";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { checkRuleset } from "@/core/ruleset/check";
import { factsByPath } from "@/core/lens/pages";
import type { PlaceLookup } from "@/core/visit/places";
import { saveChecks } from "@/data/checks";
import { addPlaceFile, saveDelivery } from "@/data/delivery";
import { addAccount } from "@/data/accounts";
import { createSite } from "@/data/draft";
import { keepEventsIn, makePartitions } from "@/data/events";
import { makeKey } from "@/data/keys";
import { saveLens } from "@/data/lenses";
import { saveLinks } from "@/data/links";
import { addPages } from "@/data/pages";
import { addPerson } from "@/data/people";
import { readPlaceFile } from "@/data/places";
import { allSites, transaction, type Queryable } from "@/data/pool";
import { addProducts } from "@/data/products";
import { announceLive, putLive } from "@/data/releases";
import { lookOrigin, readSite, setExamples, setOrigins } from "@/data/sites";
import { groupsOf, tellerGroups } from "@/delivery/groups";
import { hashPassword } from "@/server/people";
import { products, storePages } from "./shop/catalogue";
import { partnerKey } from "./keys";
import { demoChecks } from "./checks";
import { demoExamples } from "./examples";
import { demoHistory } from "./history";
import { demoLenses } from "./lenses";
import { demoLibrary } from "./library";
import { demoLinks } from "./links";
import { demoPeople } from "./people";
import { demoPlaces } from "./places";
import { demoVisits, madeEvents, type LiveFrom } from "./results";
import { demoRuleset } from "./ruleset";
import { fillStoneAndMoss, stoneAndMoss } from "./stone-and-moss";

/** The demo's results reach back so many days, to the day before it is filled in. */
export const demoWeeks = 28;
const day = 86_400_000;
const site = "brackenfold";

/** The days of the results, [from, until), as epoch ms: whole days of UTC, up to the day of the start. */
export function resultDays(start: number): readonly [from: number, until: number] {
  const today = Math.floor(start / day) * day;
  return [today - demoWeeks * day, today];
}

/** The demo's draft. @throws Error with the problems, should it have any */
export function demoDraft(start: number) {
  const read = readBy(siteDraftSchema, { ...demoRuleset(start), ...demoLibrary });
  if (!read.ok) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(read.problems)}`);
  const problems = checkRuleset(rulesetOf(read.value));
  if (problems.length > 0) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(problems)}`);
  return read.value;
}

/** The place service of the demo. */
export function demoLookup(): PlaceLookup {
  const read = readPlaceFile(Buffer.from(demoPlaces));
  if (!read.ok) throw new Error(`the demo's places are wrong: ${read.problem}`);
  return read.lookup;
}

/** Four weeks of what made-up visitors did, decided by the engine, as events by day. */
export const demoEvents = (live: readonly LiveFrom[], days: readonly [number, number], perDay = demoVisits) =>
  madeEvents(live, days, perDay, factsByPath(storePages), demoLookup(), { groupsOf, tellerGroups });

/**
 * Fills the demo in, within the caller's transaction.
 * @param start epoch ms: everything in it is placed by this day
 */
export async function fillDemo(start: number, db: Queryable): Promise<void> {
  const draft = demoDraft(start);
  const ruleset = rulesetOf(draft);
  const days = resultDays(start);
  const history = demoHistory(ruleset, days[0]);
  const sha256Of = (made: Ruleset) => createHash("sha256").update(JSON.stringify(made)).digest("hex");
  await createSite(draft, db);
  await saveDelivery(site, "otherHosts", ["seeds.brackenfold.example"], db);
  await saveDelivery(site, "secondPerson", false, db);
  await makeKey(site, "public", "Stone & Moss, the partner’s blog", "mirada", db, partnerKey);
  for (const { roles, ...person } of demoPeople) {
    const password = await hashPassword(person.shownPassword);
    await addPerson(site, await addAccount({ ...person, password }, db), roles, db);
  }
  await addPages(site, storePages, db);
  await addProducts(
    site,
    products.map(({ sku, name, category, price }) => ({ sku, name, category, unitPrice: price })),
    db,
  );
  const rows = demoPlaces.trim().split("\n").length - 1;
  await addPlaceFile(
    site,
    { id: "documentation", name: "Place service of the demo.csv", format: "csv", says: `${rows} networks` },
    Buffer.from(demoPlaces),
    db,
  );
  for (const lens of demoLenses(start)) await saveLens(site, lens, db);
  await saveChecks(site, demoChecks(start), db);
  await saveLinks(site, demoLinks, db);
  for (const { from, note, ruleset: released } of history)
    await putLive(
      { site, person: "mirada", note, ruleset: released, sha256: sha256Of(released), draftVersion: 2 },
      db,
      new Date(from),
    );
  await makePartitions(new Date(days[0]).toISOString().slice(0, 10), demoWeeks, db);
  for (const events of demoEvents(history, days))
    for (let from = 0; from < events.length; from += 5000)
      await keepEventsIn(
        events.slice(from, from + 5000).map((event) => ({ site, ...event })),
        db,
      );
}

/**
 * Says where the demo's sites stand: by the port on which the workbench is started, which may be another each time.
 * @param port of the workbench
 */
export async function placeDemo(port: number): Promise<void> {
  const shop = `http://brackenfold.localhost:${port + 10}`;
  const standIn = (name: string) => `http://${name}.localhost:${port + 10}`;
  const partner = `http://stone-and-moss.localhost:${port + 20}`;
  await transaction(allSites, async (db) => {
    const row = await readSite(site, db);
    if (!row || lookOrigin(row) === shop) return;
    // Stone & Moss has one address, and that goes by the port.
    if (!(await readSite(stoneAndMoss, db))) await fillStoneAndMoss(partner, db);
    else await setOrigins(stoneAndMoss, [partner], null, db);
    const [canonical = "https://brackenfold.example"] = row.origins;
    await setOrigins(site, [canonical, shop], shop, db, "process");
    await saveDelivery(site, "origins", [partner], db);
    await setExamples(site, demoExamples(standIn, partner), db);
    await announceLive(site, db);
  });
}
