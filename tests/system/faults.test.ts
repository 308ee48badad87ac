/** What breaks, and what visitors see of it: the database killed under load, a server killed in a release, two instances, two editors. */
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { randomUUID } from "node:crypto";
import { get } from "node:http";
import pg from "pg";
import { freePorts } from "../../scripts/lib/steps.mjs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { rulesetOf } from "@/core/draft/picks";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site as plain, variant } from "@/core/testing";
import { startPostgres } from "../../scripts/lib/postgres.mjs";
import { silentLine } from "./silent-line";

const site = "faults";

/** A connection beside the product's own, which sees every site. */
const everySite = () => new pg.Client({ connectionString: database.url, options: "-c mirada.site=*" });
type Database = Awaited<ReturnType<typeof startPostgres>>;
let database: Database;
const children: ChildProcess[] = [];
const servers: { port: number; child: ChildProcess }[] = [];
let secret = "";

async function startDelivery(more: Record<string, string> = {}): Promise<{ port: number; child: ChildProcess }> {
  const port = await freePorts([1, 2, 3]);
  const child = spawn("node", [".next/mirada/delivery.mjs"], {
    env: {
      ...process.env,
      PORT: String(port),
      DATABASE_URL: database.url,
      MIRADA_LOG: "off",
      MIRADA_PER_MINUTE: "1000000",
      ...more,
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  children.push(child);
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on("data", (text) => String(text).includes("delivery ready") && resolve());
    child.once("exit", () => reject(new Error("the delivery server ended before it was ready: is it built?")));
  });
  return { port, child };
}

const visit = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };
async function shown(port: number): Promise<{ status: number; text?: string }> {
  const answer = await fetch(`http://127.0.0.1:${port}/v1/decide`, {
    method: "POST",
    headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
    body: JSON.stringify({ visit }),
  });
  if (answer.status !== 200) return { status: answer.status };
  const { decision } = (await answer.json()) as {
    decision: { slots: Record<string, { content: { fields: { text: string } } }[]> };
  };
  // Two slots that every release changes together: were a release taken up by halves, they would differ.
  const [a, b] = ["a", "b"].map((slot) => decision.slots[slot]?.[0]?.content.fields.text);
  return { status: 200, text: a === b ? String(a) : `${a} beside ${b}` };
}

const draftOf = (text: string) =>
  siteDraftSchema.parse({
    ...ruleset({
      site: { ...plain, id: site },
      blockTypes: [{ id: "n", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] }],
      slots: ["a", "b"].map((id) => ({
        id,
        name: id,
        variants: [
          variant(`${id}-v`, null, {
            arms: [{ id: "x", weight: 100, content: { type: "n", fields: { text } } }],
          }),
        ],
      })),
    }),
  });

/** Puts a release live in one transaction, as the server does, from a connection of its own. */
async function putLive(text: string): Promise<void> {
  const { putLive: put } = await import("@/data/releases");
  const client = everySite();
  await client.connect();
  try {
    await client.query("begin");
    const made = rulesetOf(draftOf(text));
    await put({ site, person: "test", note: text, ruleset: made, sha256: text, draftVersion: 1 }, client as never);
    await client.query("commit");
  } finally {
    await client.end();
  }
}

describe("when something breaks", () => {
  beforeAll(async () => {
    database = await startPostgres("faults", { reset: true, throwaway: true, durable: true });
    process.env.DATABASE_URL = database.url;
    const [{ migrate }, { createSite }, { makeKey }, { tendPartitions }, { allSites, transaction, pool }] =
      await Promise.all([
        import("@/data/migrate"),
        import("@/data/draft"),
        import("@/data/keys"),
        import("@/data/events"),
        import("@/data/pool"),
      ]);
    pool().on("error", () => undefined);
    await migrate();
    await transaction(allSites, async (db) => {
      await createSite(draftOf("first"), db);
      secret = await makeKey(site, "secret", "test", "test", db);
      await tendPartitions(db);
    });
    await putLive("first");
    servers.push(await startDelivery(), await startDelivery());
  }, 120_000);
  afterAll(async () => {
    for (const child of children) child.kill("SIGKILL");
    const { pool } = await import("@/data/pool");
    await pool().end();
    database.stop();
  });

  it("two servers on one database both take up a release, and never half of it", async () => {
    for (const text of ["second", "third"]) {
      const seen = new Set<string>();
      await putLive(text);
      await expect
        .poll(
          async () => {
            const all = await Promise.all(servers.map(({ port }) => shown(port)));
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
    const client = everySite();
    await client.connect();
    await client.query("select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen%'");
    const made = rulesetOf(draftOf("unannounced"));
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
      .poll(async () => (await Promise.all(servers.map(({ port }) => shown(port)))).map((one) => one.text), {
        timeout: 15_000,
      })
      .toEqual(["unannounced", "unannounced"]);
  });

  it("the database is killed under load: visitors get right answers throughout, events arrive afterwards, none twice", async () => {
    const [one] = servers;
    const port = one!.port;
    const ids = new Set<string>();
    const bad: unknown[] = [];
    let answers = 0;
    let going = true;
    const ask = async () => {
      while (going) {
        const found = await shown(port).catch((error: Error) => ({ status: 0, text: error.message }));
        if (found.status !== 200 || found.text !== "unannounced") bad.push(found);
        answers += 1;
      }
    };
    const tell = async () => {
      while (going) {
        const events = Array.from({ length: 20 }, () => ({
          id: randomUUID(),
          kind: "exposure",
          slot: "a",
          variant: "a-v",
          arm: "x",
          first: false,
          country: "PT",
          device: "phone",
        }));
        const send = () =>
          fetch(`http://127.0.0.1:${port}/v1/events`, {
            method: "POST",
            headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
            body: JSON.stringify({ events }),
          });
        const sent = await send().catch(() => undefined);
        if (sent?.status === 202) for (const event of events) ids.add(event.id);
        // Whoever is unsure sends the same again.
        if (Math.random() < 0.3) await send().catch(() => undefined);
        await new Promise((next) => setTimeout(next, 20));
      }
    };
    const work = [ask(), ask(), ask(), ask(), tell(), tell()];
    await new Promise((next) => setTimeout(next, 1500));
    database.kill();
    const before = answers;
    await new Promise((next) => setTimeout(next, 3000));
    expect(answers - before).toBeGreaterThan(100);
    expect((await (await fetch(`http://127.0.0.1:${port}/ready`)).json()) as object).toMatchObject({
      ready: true,
      database: false,
    });
    database.again();
    await new Promise((next) => setTimeout(next, 1500));
    going = false;
    await Promise.all(work);
    expect(bad.slice(0, 3)).toEqual([]);
    expect(ids.size).toBeGreaterThan(500);
    const client = everySite();
    await client.connect();
    const count = async (sql: string) => Number((await client.query(sql, [site])).rows[0].n);
    await expect
      .poll(() => count("select count(*) as n from events where site = $1"), { timeout: 20_000 })
      .toBe(ids.size);
    expect(await count("select sum(count) as n from event_hours where site = $1")).toBe(ids.size);
    await client.end();
  }, 60_000);

  it("a server that is stopped writes what it holds; one that is killed in a release leaves old or new", async () => {
    const extra = await startDelivery();
    const events = Array.from({ length: 50 }, () => ({
      id: randomUUID(),
      kind: "click",
      slot: "b",
      variant: "b-v",
      arm: "x",
    }));
    await fetch(`http://127.0.0.1:${extra.port}/v1/events`, {
      method: "POST",
      headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
      body: JSON.stringify({ events }),
    });
    const ended = new Promise((resolve) => extra.child.once("exit", resolve));
    extra.child.kill("SIGTERM");
    expect(await ended).toBe(0);
    const client = everySite();
    await client.connect();
    expect(
      (await client.query("select count(*)::int as n from events where site = $1 and kind = 'click'", [site])).rows[0]
        .n,
    ).toBe(50);
    // A release whose transaction is cut off in the middle is none.
    const half = everySite();
    half.on("error", () => undefined);
    await half.connect();
    const { pid } = (await half.query("select pg_backend_pid() as pid")).rows[0];
    await half.query("begin");
    await half.query(
      "insert into releases (site, number, person, note, ruleset, sha256, draft_version) select $1, max(number) + 1, 'x', '', $2, 'half', 1 from releases where site = $1",
      [site, JSON.stringify(rulesetOf(draftOf("half")))],
    );
    await client.query("select pg_terminate_backend($1)", [pid]);
    expect(
      (await client.query("select count(*)::int as n from releases where site = $1 and sha256 = 'half'", [site]))
        .rows[0].n,
    ).toBe(0);
    for (const { port } of servers) expect((await shown(port)).text).toBe("unannounced");
    await client.end();
  });

  it("the line to the database goes silent: visitors are answered, events arrive once it is back, and it ends when asked to", async () => {
    const line = await silentLine(Number(new URL(database.url).port));
    const through = new URL(database.url);
    through.port = String(line.port);
    const start = () => startDelivery({ DATABASE_URL: through.href, MIRADA_DATABASE_SECONDS: "2" });
    const { port, child } = await start();
    const tell = async (name: string) => {
      const sent = await fetch(`http://127.0.0.1:${port}/v1/events`, {
        method: "POST",
        headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
        body: JSON.stringify({
          events: [{ id: randomUUID(), kind: "conversion", name, slot: "a", variant: "a-v", arm: "x" }],
        }),
      });
      expect(sent.status).toBe(202);
    };
    const ready = async () => (await fetch(`http://127.0.0.1:${port}/ready`)).json() as Promise<object>;
    const client = everySite();
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
    const { text } = await shown(port);
    line.silence();
    await tell("meanwhile");
    for (let count = 0; count < 5; count++) {
      expect(await shown(port)).toEqual({ status: 200, text });
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
      all.push(shown(servers[number % 2]!.port).then((answer) => void (answer.text === "unannounced" && good++)));
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
    const client = everySite();
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
