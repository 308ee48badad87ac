/** A ruleset that takes too long to look through is said to be that, and is kept back as what failed is. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site, variant } from "@/core/testing";

let end: () => Promise<void>;
beforeAll(() => {
  process.env.MIRADA_ANALYSIS_SECONDS = "0.001";
});
afterAll(() => end());

it("is not looked through: the release says so, and goes live with a reason alone", async () => {
  const [{ migrate }, { createSite, loadDraft }, { allSites, pool, transaction }, { askForReview }, support] =
    await Promise.all([
      import("@/data/migrate"),
      import("@/data/draft"),
      import("@/data/pool"),
      import("@/server/reviews"),
      import("./support"),
    ]);
  end = () => pool().end();
  await migrate();
  const id = support.uniqueId("given-up");
  const draft = ruleset({ site: { ...site, id }, slots: [{ id: "s", name: "S", variants: [variant("v")] }] });
  await transaction(allSites, (db) => createSite(siteDraftSchema.parse(draft), db));
  const { saveDelivery } = await import("@/data/delivery");
  await saveDelivery(id, "secondPerson", false);
  const who = await support.somebody(id, "one");
  const version = (await loadDraft(id))!.version;
  const ask = (reason: string) => askForReview(who, { note: "", version, reason, live: true });
  const refused = await ask("");
  expect(refused).toMatchObject({ ok: false, report: { faults: [{ kind: "not-looked-through" }] } });
  const { TookTooLong, inWorker } = await import("@/server/work");
  await expect(inWorker("findings", { ruleset: draft, pages: [], from: 0 }, 1)).rejects.toBeInstanceOf(TookTooLong);
  // One that is given time by the same hand is not given up.
  await expect(inWorker("findings", { ruleset: draft, pages: [], from: 0 })).resolves.toBeInstanceOf(Array);
  expect(await ask("It was looked at by hand")).toMatchObject({ ok: true });
}, 60_000);
