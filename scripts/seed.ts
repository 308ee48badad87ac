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
import { migrate } from "@/data/migrate";
import { addPages } from "@/data/pages";
import { pool, transaction } from "@/data/pool";
import { putLive } from "@/data/releases";
import { addPlaceFile, saveOtherHosts } from "@/data/delivery";
import { addProducts } from "@/data/products";
import { products, storePages } from "@/storefront/brackenfold/catalogue";
import { demoPlaces } from "../demo/places";

await migrate();
if (!(await siteExists("brackenfold"))) {
  const read = readBy(siteDraftSchema, { ...demoRuleset, ...demoLibrary });
  if (!read.ok) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(read.problems)}`);
  const draft = read.value;
  const ruleset = rulesetOf(draft);
  const problems = checkRuleset(ruleset);
  if (problems.length > 0) throw new Error(`the demo's ruleset is wrong: ${JSON.stringify(problems)}`);
  const sha256 = createHash("sha256").update(JSON.stringify(ruleset)).digest("hex");
  await transaction(async (db) => {
    await createSite(draft, db);
    await saveOtherHosts("brackenfold", ["seeds.brackenfold.example"], db);
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
    await putLive(
      { site: "brackenfold", session: "demo", note: "The first release", ruleset, sha256, draftVersion: 2 },
      db,
    );
  });
}
await pool().end();
