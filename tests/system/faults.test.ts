/** What breaks, and what visitors see of it: the database killed under load, a server killed in a release, two instances, two editors. */
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { randomUUID } from "node:crypto";
import { get } from "node:http";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { rulesetOf } from "@/core/draft/picks";
import { startPostgres } from "../../scripts/lib/postgres.mjs";
import { draftOf, serve, visitors, type DeliveryProcess, type Served } from "./served";
import { silentLine } from "./silent-line";

const site = "faults";

type Database = Awaited<ReturnType<typeof startPostgres>>;
let database: Database;
let on: Served;
const servers: DeliveryProcess[] = [];

describe("when something breaks", () => {
  beforeAll(async () => {
    database = await startPostgres("faults", { reset: true, throwaway: true, durable: true });
    on = await serve(site, database.url);
    await on.putLive("first");
    servers.push(await on.startDelivery(), await on.startDelivery());
  }, 120_000);
  afterAll(async () => {
    await on.end();
    database.stop();
  });

  it("two servers on one database both take up a release, and never half of it", async () => {
    for (const text of ["second", "third"]) {
      const seen = new Set<string>();
      await on.putLive(text);
      await expect
        .poll(
          async () => {
            const all = await Promise.all(servers.map(({ port }) => on.shown(port)));
            for (const { text: one } of all) if (one) seen.add(one);
            return all.map((one) => one.text);
          },
          { timeout: 15_000, interval: 10 },
        )
        .toEqual([text, text]);
      for (const one of seen) expect(["first", "second", "third"]).toContain(one);
    }
  });

  it("a lost notice is made up by polling", async () => {
    // The connections on which they listen are cut, and the release is written without a notice.
    const client = on.everySite();
    await client.connect();
    await client.query("select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen%'");
    const made = rulesetOf(draftOf(site, "unannounced"));
    await client.query(
      `insert into releases (site, number, person, note, ruleset, sha256, draft_version)
       select $1, max(number) + 1, 'test', '', $2, 'unannounced', 1 from releases where site = $1`,
      [site, JSON.stringify(made)],
    );
    await client.query("insert into went_live (site, release) select $1, max(number) from releases where site = $1", [
      site,
    ]);
    await client.end();
    await expect
      .poll(async () => (await Promise.all(servers.map(({ port }) => on.shown(port)))).map((one) => one.text), {
        timeout: 15_000,
      })
      .toEqual(["unannounced", "unannounced"]);
  });

  it("the database is killed under load: visitors get right answers throughout, events arrive afterwards, none twice", async () => {
    const { port } = servers[0]!;
    const load = visitors(on, port, "unannounced");
    await new Promise((next) => setTimeout(next, 1500));
    database.kill();
    const before = load.answers();
    await new Promise((next) => setTimeout(next, 3000));
    expect(load.answers() - before).toBeGreaterThan(100);
    expect((await (await fetch(`http://127.0.0.1:${port}/ready`)).json()) as object).toMatchObject({
      ready: true,
      database: false,
    });
    database.again();
    await new Promise((next) => setTimeout(next, 1500));
    await load.end();
    expect(load.bad.slice(0, 3)).toEqual([]);
    expect(load.ids.size).toBeGreaterThan(500);
    const client = on.everySite();
    await client.connect();
    const count = async (sql: string) => Number((await client.query(sql, [site])).rows[0].n);
    await expect
      .poll(() => count("select count(*) as n from events where site = $1"), { timeout: 20_000 })
      .toBe(load.ids.size);
    expect(await count("select sum(count) as n from event_hours where site = $1")).toBe(load.ids.size);
    await client.end();
  }, 60_000);

  it("a server that is stopped writes what it holds; one that is killed in a release leaves old or new", async () => {
    const extra = await on.startDelivery();
    const events = Array.from({ length: 50 }, () => ({
      id: randomUUID(),
      kind: "click",
      slot: "b",
      variant: "b-v",
      arm: "x",
    }));
    await on.tell(extra.port, events);
    const ended = new Promise((resolve) => extra.child.once("exit", resolve));
    extra.child.kill("SIGTERM");
    expect(await ended).toBe(0);
    const client = on.everySite();
    await client.connect();
    expect(
      (await client.query("select count(*)::int as n from events where site = $1 and kind = 'click'", [site])).rows[0]
        .n,
    ).toBe(50);
    // A release whose transaction is cut off in the middle is none.
    const half = on.everySite();
    half.on("error", () => undefined);
    await half.connect();
    const { pid } = (await half.query("select pg_backend_pid() as pid")).rows[0];
    await half.query("begin");
    await half.query(
      "insert into releases (site, number, person, note, ruleset, sha256, draft_version) select $1, max(number) + 1, 'x', '', $2, 'half', 1 from releases where site = $1",
      [site, JSON.stringify(rulesetOf(draftOf(site, "half")))],
    );
    await client.query("select pg_terminate_backend($1)", [pid]);
    expect(
      (await client.query("select count(*)::int as n from releases where site = $1 and sha256 = 'half'", [site]))
        .rows[0].n,
    ).toBe(0);
    for (const { port } of servers) expect((await on.shown(port)).text).toBe("unannounced");
    await client.end();
  });

  it("the line to the database goes silent: visitors are answered, events arrive once it is back, and it ends when asked to", async () => {
    const line = await silentLine(Number(new URL(database.url).port));
    const through = new URL(database.url);
    through.port = String(line.port);
    const start = () => on.startDelivery({ DATABASE_URL: through.href, MIRADA_DATABASE_SECONDS: "2" });
    const { port, child } = await start();
    const tell = async (name: string) => {
      const event = { id: randomUUID(), kind: "conversion", name, slot: "a", variant: "a-v", arm: "x" };
      expect(await on.tell(port, [event])).toBe(202);
    };
    const ready = async () => (await fetch(`http://127.0.0.1:${port}/ready`)).json() as Promise<object>;
    const client = on.everySite();
    await client.connect();
    const goals = async () =>
      (
        await client.query<{ name: string }>(
          "select name from events where site = $1 and kind = 'conversion' union all select name from event_hours, generate_series(1, count) where site = $1 and kind = 'conversion' order by name",
          [site],
        )
      ).rows.map(({ name }) => name);
    await tell("before");
    await expect.poll(goals, { timeout: 10_000 }).toEqual(["before", "before"]);
    const { text } = await on.shown(port);
    line.silence();
    await tell("meanwhile");
    for (let count = 0; count < 5; count++) {
      expect(await on.shown(port)).toEqual({ status: 200, text });
      // Whoever asks is answered from memory: the test's own time limit is above what a connection may take.
      expect(await ready()).toMatchObject({ ready: true, database: false });
    }
    line.again();
    await tell("after");
    // As an event and in its hour, each once.
    await expect
      .poll(goals, { timeout: 30_000, interval: 250 })
      .toEqual(["after", "after", "before", "before", "meanwhile", "meanwhile"]);
    await expect.poll(ready, { timeout: 15_000 }).toMatchObject({ ready: true, database: true });
    line.silence();
    await tell("too late");
    const ended = new Promise((resolve) => child.once("exit", resolve));
    const began = performance.now();
    child.kill("SIGTERM");
    expect(await ended).toBe(0);
    expect(performance.now() - began).toBeLessThan(10_000);
    line.close();
    await client.end();
  }, 90_000);

  it("five seconds of load at a set rate: every request is answered, and rightly", async () => {
    const rate = 300;
    const seconds = 5;
    let good = 0;
    const all: Promise<void>[] = [];
    for (let number = 0; number < rate * seconds; number++) {
      all.push(on.shown(servers[number % 2]!.port).then((answer) => void (answer.text === "unannounced" && good++)));
      if (number % 30 === 29) await new Promise((next) => setTimeout(next, (30 / rate) * 1000));
    }
    await Promise.all(all);
    expect(good).toBe(rate * seconds);
  });

  it("a backup is restored whole, and a damaged one changes nothing", async () => {
    const folder = mkdtempSync(join(tmpdir(), "mirada-test-"));
    const file = join(folder, "all.dump");
    const run = (what: string, from: string) =>
      spawnSync("node", ["scripts/backup.mjs", what, from], {
        env: { ...process.env, DATABASE_URL: database.url },
        encoding: "utf8",
      });
    const client = on.everySite();
    await client.connect();
    const count = async () =>
      (
        await client.query(
          "select (select count(*) from events)::int as events, (select count(*) from releases)::int as releases, (select sum(count) from event_hours)::int as hours",
        )
      ).rows[0];
    const before = await count();
    expect(before.events).toBeGreaterThan(0);
    expect(run("backup", file).status).toBe(0);
    await client.query("delete from events; delete from event_hours; delete from went_live");
    writeFileSync(join(folder, "damaged.dump"), readFileSync(file).subarray(0, 20_000));
    expect(run("restore", join(folder, "damaged.dump")).status).toBe(1);
    expect((await count()).events).toBe(0);
    expect(run("restore", file).status).toBe(0);
    expect(await count()).toEqual(before);
    // A release is still one that never changes.
    await expect(client.query("update releases set note = 'changed'")).rejects.toThrow("never changes");
    await client.end();
    rmSync(folder, { recursive: true, force: true });
  }, 60_000);

  it("what is not asked for by anybody is not answered: no other path of the delivery server is open", async () => {
    const status = (path: string) =>
      new Promise<number>((resolve, reject) =>
        get({ host: "127.0.0.1", port: servers[0]!.port, path }, (response) =>
          resolve(response.resume().statusCode ?? 0),
        ).on("error", reject),
      );
    for (const path of ["/", "/v1", "/v1/ruleset", "/../etc/passwd", "/%2e%2e/x"])
      expect([401, 404]).toContain(await status(path));
  });
});
