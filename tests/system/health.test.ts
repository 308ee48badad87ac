/** What runs and what failed is known: processes of each other, failures by what they were, each site's to its own people. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { forgetFailures, keepFailures, listFailures, logFailure } from "@/data/failures";
import { listProcesses } from "@/data/processes";
import { migrate } from "@/data/migrate";
import { actions } from "@/server/actions";
import { createSite } from "@/data/draft";
import { allSites, transaction } from "@/data/pool";
import { draftOf, serve, type Served } from "./served";
import { everything, somebody, uniqueId } from "./support";

const site = uniqueId("health");
const other = uniqueId("health");
let served: Served;
beforeAll(async () => {
  await migrate();
  await transaction(allSites, (db) => createSite(draftOf(other, "text"), db));
  served = await serve(site, process.env.DATABASE_URL as string);
});
afterAll(() => served.end());

/** How many other delivery servers are ready, as one of them tells. */
async function readyBeside(port: number): Promise<number> {
  const told = (await (await fetch(`http://127.0.0.1:${port}/ready`)).json()) as {
    others: { process: string; heard: number; ready: boolean }[];
  };
  // Whoever may ask does not learn how machines are called.
  for (const one of told.others) expect(Object.keys(one).sort()).toEqual(["heard", "process", "ready"]);
  return told.others.filter((one) => one.process === "delivery" && one.ready).length;
}
const processAt = async (port: number) => (await listProcesses()).find((one) => one.port === port);

describe("what runs", () => {
  it("is told by each process of the others; one that ends is gone, one that is killed is silent, and comes back", async () => {
    const first = await served.startDelivery();
    const patience = { timeout: 15_000 };
    await expect.poll(() => processAt(first.port), patience).toMatchObject({ ready: true, silent: false });
    // Others may have been killed here lately.
    await everything.query("update processes set seen = seen - interval '30 seconds' where port <> $1 and kind <> ''", [
      first.port,
    ]);
    await expect.poll(() => readyBeside(first.port), patience).toBe(0);
    const second = await served.startDelivery();
    await expect.poll(() => readyBeside(first.port), patience).toBe(1);
    // Killed: as if it had been heard of half a minute ago.
    const gone = new Promise((done) => second.child.once("exit", done));
    second.child.kill("SIGKILL");
    await gone;
    await everything.query("update processes set seen = seen - interval '30 seconds' where port = $1 and kind <> ''", [
      second.port,
    ]);
    await expect.poll(() => readyBeside(first.port), patience).toBe(0);
    expect((await processAt(second.port))?.silent).toBe(true);
    await served.startDelivery({ PORT: String(second.port) });
    await expect.poll(() => readyBeside(first.port), patience).toBe(1);
    first.child.kill("SIGTERM");
    await expect.poll(() => processAt(first.port), patience).toBeUndefined();
  }, 80_000);
});

describe("what failed", () => {
  const failing = (what: string, of: string | undefined, error: unknown) =>
    logFailure(what, of === undefined ? {} : { site: of }, error);
  it("is counted by what it was, and shown to developers of its site alone", async () => {
    for (let time = 0; time < 3; time++) failing("a test failed", site, new Error("thrice"));
    failing("a test failed", other, new Error("elsewhere"));
    const both = uniqueId("everywhere");
    failing(both, undefined, "with NUL\0");
    await keepFailures();
    failing("a test failed", site, new Error("thrice"));
    await keepFailures();
    const found = await listFailures(site);
    expect(found.filter((one) => one.site === site)).toMatchObject([{ error: "thrice", count: 4 }]);
    expect(found.some((one) => one.what === both)).toBe(true);
    expect(found.some((one) => one.site === other)).toBe(false);
    const developer = await somebody(site, "dev", ["developer"]);
    const health = await actions.health.run(developer);
    expect(health.failures.some(({ error }) => error === "thrice")).toBe(true);
  });
  it("waits while the database is away, and is added to what came meanwhile", async () => {
    const what = uniqueId("while it is away");
    failing(what, site, "first");
    await everything.query("alter table failures rename to failures_away");
    try {
      await keepFailures();
      failing(what, site, "first");
    } finally {
      await everything.query("alter table failures_away rename to failures");
    }
    await keepFailures();
    expect((await listFailures(site)).find((one) => one.what === what)?.count).toBe(2);
  });
  it("is written by itself, also what comes while others are being written", async () => {
    const what = uniqueId("meanwhile");
    failing(what, site, "first");
    const writing = keepFailures();
    failing(what, site, "second");
    await writing;
    const errors = async () => (await listFailures(site)).filter((one) => one.what === what).map(({ error }) => error);
    await expect.poll(async () => (await errors()).sort(), { timeout: 10_000 }).toEqual(["first", "second"]);
  });
  it("is forgotten after thirty days", async () => {
    const what = uniqueId("long ago");
    failing(what, site, "old");
    await keepFailures();
    await everything.query("update failures set last = last - interval '31 days' where site = $1 and what = $2", [
      site,
      what,
    ]);
    await forgetFailures();
    const found = await listFailures(site);
    expect(found.some((one) => one.what === what)).toBe(false);
    expect(found.some(({ error }) => error === "thrice")).toBe(true);
  });
});

describe("a delivery server by itself", () => {
  it("gives what runs in visitors' pages, packed, as one that is started with the others does", async () => {
    const { port } = await served.startDelivery();
    for (const file of ["page.js", "look.js"]) {
      const answer = await fetch(`http://127.0.0.1:${port}/v1/${file}`, { headers: { "accept-encoding": "gzip" } });
      expect([answer.status, answer.headers.get("content-encoding")]).toEqual([200, "gzip"]);
      expect(answer.headers.get("vary")).toBe("Accept-Encoding");
      expect(await answer.text()).toContain("mirada");
      const etag = answer.headers.get("etag") as string;
      const again = await fetch(`http://127.0.0.1:${port}/v1/${file}`, {
        headers: { "accept-encoding": "gzip", "if-none-match": etag },
      });
      expect(again.status).toBe(304);
    }
  }, 20_000);
});
