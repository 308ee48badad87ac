/** The database's machine is lost under load, and its standby takes over: what visitors, their events and editors see of it. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { followedDatabase } from "./followed";
import { serve, visitors, type Served } from "./served";
import { typist } from "./typing";

const site = "standby";
let database: Awaited<ReturnType<typeof followedDatabase>>;
let on: Served;

beforeAll(async () => {
  database = await followedDatabase("followed");
  on = await serve(site, database.url);
  await on.putLive("first");
}, 120_000);
afterAll(async () => {
  await on.end();
  database.stop();
});

it("visitors get right answers, each event counts once, and an editor goes on within 30 s with every word", async () => {
  const { port } = await on.startDelivery();
  const { somebody } = await import("./support");
  const load = visitors(on, port, "first");
  const editor = await typist(await somebody(site, "editor"));
  await expect.poll(() => editor.typed() > 3 && load.answers() > 100, { timeout: 30_000 }).toBe(true);
  database.lose();
  const [answered, typed] = [load.answers(), editor.typed()];
  await new Promise((next) => setTimeout(next, 2000));
  database.promote();
  await new Promise((next) => setTimeout(next, 4000));
  await load.end();
  await editor.end();

  expect(editor.failures).toEqual([]);
  expect(load.bad.slice(0, 3)).toEqual([]);
  expect(load.answers() - answered).toBeGreaterThan(100);
  expect(editor.typed()).toBeGreaterThan(typed);
  expect(editor.slowest()).toBeLessThan(30_000);
  const client = on.everySite(database.standbyUrl);
  await client.connect();
  const count = async (sql: string) => Number((await client.query(sql, [site])).rows[0].n);
  await expect
    .poll(() => count("select count(*) as n from events where site = $1"), { timeout: 20_000 })
    .toBe(load.ids.size);
  expect(load.ids.size).toBeGreaterThan(100);
  expect(await count("select sum(count) as n from event_hours where site = $1")).toBe(load.ids.size);
  expect(await count("select sum(count) as n from event_days where site = $1 and of = 'day'")).toBe(load.ids.size);
  // Every word, once, in its order.
  const { loadDraft } = await import("@/data/draft");
  expect((await loadDraft(site))?.ruleset.slots.find(({ id }) => id === "a")?.name).toBe(String(editor.typed()));
  expect(await count("select count(*) as n from audit_trail where site = $1 and says like 'typed %'")).toBe(
    editor.typed(),
  );
  await client.end();
  // What goes live from now on is taken up, too.
  await on.putLive("after", database.standbyUrl);
  await expect.poll(async () => (await on.shown(port)).text, { timeout: 15_000 }).toBe("after");
}, 120_000);
