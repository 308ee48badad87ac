/** A pooler in between that hands connections out by transaction: pgbouncer, of Debian. */
import { spawn, type ChildProcess } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import net from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { asOwner, startPostgres } from "../../scripts/lib/postgres.mjs";
import { ensureDebian, freePort, isFile } from "../../scripts/lib/steps.mjs";
import { draftOf, serve, visitors, type Served } from "./served";

const site = "pooled";
const folder = mkdtempSync(join(tmpdir(), "mirada-pooler-"));
let database: Awaited<ReturnType<typeof startPostgres>>;
let pooler: ChildProcess;
let on: Served;

const isOpen = (port: number) =>
  new Promise<boolean>((done) => {
    const probe = net.connect(port, "127.0.0.1", () => (probe.destroy(), done(true)));
    probe.on("error", () => done(false));
  });

beforeAll(async () => {
  const program = "/usr/sbin/pgbouncer";
  await ensureDebian(["pgbouncer"], () => isFile(program));
  database = await startPostgres("pooled", { reset: true, throwaway: true });
  const port = await freePort();
  const { port: behind } = new URL(database.url);
  writeFileSync(
    join(folder, "pgbouncer.ini"),
    [
      "[databases]",
      `postgres = host=127.0.0.1 port=${behind} dbname=postgres user=mirada`,
      "[pgbouncer]",
      "listen_addr = 127.0.0.1",
      `listen_port = ${port}`,
      "unix_socket_dir =",
      "auth_type = any",
      "pool_mode = transaction",
      // So few that every connection serves one after the other.
      "default_pool_size = 3",
      "",
    ].join("\n"),
  );
  chmodSync(folder, 0o755);
  const [path, args] = asOwner(program, ["-q", join(folder, "pgbouncer.ini")]);
  pooler = spawn(path, args, { stdio: "ignore" });
  await vi.waitFor(async () => expect(await isOpen(port)).toBe(true), 15_000);
  process.env.MIRADA_DATABASE_POOLED = "yes";
  process.env.MIRADA_DATABASE_DIRECT = database.url;
  on = await serve(site, Object.assign(new URL(database.url), { port: String(port) }).href);
}, 120_000);
afterAll(async () => {
  await on.end();
  pooler.kill("SIGTERM");
  database.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe("behind a pooler that hands connections out by transaction", () => {
  it("a query sees the rows of its own site alone, whoever used the connection before", async () => {
    const { createSite, loadDraft } = await import("@/data/draft");
    const { allSites, of, transaction } = await import("@/data/pool");
    const sites = ["one", "two", "three"].map((name) => `${site}-${name}`);
    for (const id of sites) await transaction(allSites, (db) => createSite(draftOf(id, id), db));
    const seen = async (id: string) => (await of(id).query<{ site: string }>("select distinct site from slots")).rows;
    const rounds = Array.from({ length: 300 }, (_, round) => sites[round % sites.length]!);
    const found = await Promise.all(rounds.map(seen));
    expect(found).toEqual(rounds.map((id) => [{ site: id }]));
    // What is told to a connection does not outlast its transaction.
    const { pool } = await import("@/data/pool");
    expect((await pool().query("select distinct site from slots")).rows).toEqual([]);
    await expect(
      transaction(sites[0]!, (db) => db.query("update slots set body = body where site = $1", [sites[1]])),
    ).resolves.toMatchObject({ rowCount: 0 });
    for (const id of sites) expect((await loadDraft(id))?.ruleset.site.id).toBe(id);
  });

  it("visitors are answered, events count once, and a release is taken up by its notice", async () => {
    await on.putLive("first", database.url);
    const { port } = await on.startDelivery();
    const load = visitors(on, port, "first");
    await new Promise((next) => setTimeout(next, 1500));
    await load.end();
    expect(load.bad.slice(0, 3)).toEqual([]);
    const client = on.everySite(database.url);
    await client.connect();
    const count = async (sql: string) => Number((await client.query(sql, [site])).rows[0].n);
    await expect
      .poll(() => count("select count(*) as n from events where site = $1"), { timeout: 20_000 })
      .toBe(load.ids.size);
    expect(await count("select sum(count) as n from event_hours where site = $1")).toBe(load.ids.size);
    await client.end();
    await on.putLive("second", database.url);
    await expect.poll(async () => (await on.shown(port)).text, { timeout: 1500, interval: 50 }).toBe("second");
  }, 60_000);
});
