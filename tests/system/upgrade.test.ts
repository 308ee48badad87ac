/** Databases of earlier versions come up with everything they had; what is not ours, or newer, is left as it is. */
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterAll, afterEach, describe, expect, it } from "vitest";
import { accountByEmail, addAccount, isSetUpLink, listAccounts, makeSetUpLink } from "@/data/accounts";
import { loadDraft } from "@/data/draft";
import { listLenses } from "@/data/lenses";
import { migrate, WrongDatabase } from "@/data/migrate";
import { listPages } from "@/data/pages";
import { listPeople } from "@/data/people";
import { pool } from "@/data/pool";
import { liveRelease } from "@/data/releases";
import { hourRows, resultRows } from "@/data/results";
import { listSites, readSite } from "@/data/sites";
import { uniqueId } from "./support";

const server = process.env.DATABASE_URL ?? "";
const folder = "src/data/migrations";
const made: string[] = [];

/** An empty schema of its own, in which this process works until it ends: as an empty database would be. */
async function fresh(): Promise<pg.Client> {
  const schema = uniqueId("upgrade").replaceAll("-", "_");
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  await client.query(`create schema ${schema}`);
  await client.query(`set search_path to ${schema}`);
  await client.query("select set_config('mirada.site', '*', false)");
  made.push(schema);
  await pool().end();
  delete (globalThis as { miradaPool?: pg.Pool }).miradaPool;
  const url = new URL(server);
  url.searchParams.set("options", `-c search_path=${schema}`);
  process.env.DATABASE_URL = url.href;
  return client;
}
/** The migrations up to one, in a folder of their own. */
function until(last: string): string {
  const own = mkdtempSync(join(tmpdir(), "mirada-migrations-"));
  for (const name of readdirSync(folder)) if (name <= last) cpSync(join(folder, name), join(own, name));
  return own;
}
/** Everything in a schema, as text: to see that nothing has changed. */
const whole = async (client: pg.Client) =>
  JSON.stringify(
    (
      await client.query(
        `select c.relname, pg_get_expr(d.adbin, d.adrelid), a.attname, format_type(a.atttypid, a.atttypmod)
         from pg_class c join pg_attribute a on a.attrelid = c.oid left join pg_attrdef d on d.adrelid = c.oid and d.adnum = a.attnum
         where c.relnamespace = current_schema()::regnamespace order by 1, 3`,
      )
    ).rows,
  );

let client: pg.Client | undefined;
afterEach(async () => {
  await client?.end();
  client = undefined;
});
afterAll(async () => {
  await pool().end();
  const last = new pg.Client({ connectionString: server });
  await last.connect();
  for (const schema of made) await last.query(`drop schema ${schema} cascade`);
  await last.end();
});

describe("a database of the first release", () => {
  it("comes up with its site, draft, releases, lenses and pages, and waits for its first person", async () => {
    client = await fresh();
    await client.query(readFileSync("tests/fixtures/first-release.sql", "utf8").replaceAll("public.", ""));
    const before = {
      slots: (await client.query("select id from slots order by position")).rows.map((row) => row.id),
      variants: Number((await client.query("select count(*) from variants")).rows[0].count),
      lenses: (await client.query("select id from lenses order by position")).rows.map((row) => row.id),
      release: (await client.query("select number, sha256 from releases order by number desc limit 1")).rows[0],
      pages: Number((await client.query("select count(*) from pages")).rows[0].count),
    };
    const { applied } = await migrate();
    expect(applied[0]).toBe("002-delivery.sql");
    const [site] = await listSites();
    expect(site).toMatchObject({
      origins: [expect.stringMatching(/^https:/)],
      archivedAt: null,
      release: before.release.number,
    });
    const id = site!.id;
    const draft = (await loadDraft(id))!.ruleset;
    expect(draft.slots.map((slot) => slot.id)).toEqual(before.slots);
    expect(draft.slots.flatMap((slot) => slot.variants)).toHaveLength(before.variants);
    expect((await listLenses(id)).map((lens) => lens.id)).toEqual(before.lenses);
    expect((await liveRelease(id))?.sha256).toBe(before.release.sha256);
    expect(await listPages(id)).toHaveLength(before.pages);
    expect(await listAccounts()).toEqual([]);
    // Once more changes nothing.
    expect((await migrate()).applied).toEqual([]);
  });
});

describe("a database that was counted by hours alone", () => {
  it("has the same by days of each site’s own calendar", async () => {
    client = await fresh();
    const own = until("014-tag-seen.sql");
    await migrate(own);
    rmSync(own, { recursive: true });
    const settings = JSON.stringify({ site: { origin: "https://a.example", zone: "Asia/Tokyo" } });
    await client.query("insert into sites (site, name, settings) values ('a', 'A', $1)", [settings]);
    const hour = (at: string, kind: string, name: string, country: string, count: number) =>
      client!.query(
        `insert into event_hours (site, hour, kind, slot, variant, arm, name, country, source, device, count, firsts, value)
         values ('a', $1, $2, 's', 'v', 'x', $3, $4, 'direct', 'phone', $5, 1, $6)`,
        [at, kind, name, country, count, count * 10],
      );
    await hour("2026-03-10T14:00Z", "exposure", "", "JP", 5);
    await hour("2026-03-10T16:00Z", "exposure", "", "PT", 7);
    await hour("2026-03-10T16:00Z", "click", "/a", "PT", 2);
    await hour("2026-03-10T17:00Z", "click", "/b", "PT", 3);
    await hour("2026-03-10T17:00Z", "conversion", "order", "PT", 1);
    await migrate();
    const rows = await resultRows("a", "s", "2026-03-01", "2026-03-31");
    const of = (dimension: string) =>
      rows
        .filter((row) => row.of === dimension)
        .map(({ key, kind, name, count, firsts, value }) => [key, kind, name, count, firsts, value]);
    // In Tokyo it is the next day from 15:00 UTC on.
    expect(of("day")).toEqual([
      ["2026-03-10", "exposure", "", 5, 1, 50],
      ["2026-03-11", "click", "", 5, 2, 50],
      ["2026-03-11", "conversion", "order", 1, 1, 10],
      ["2026-03-11", "exposure", "", 7, 1, 70],
    ]);
    expect(of("country").filter(([, kind]) => kind === "exposure")).toEqual([
      ["JP", "exposure", "", 5, 1, 50],
      ["PT", "exposure", "", 7, 1, 70],
    ]);
    expect(await hourRows("a", "s", "2026-03-11", "2026-03-11")).toHaveLength(4);
  });
});

describe("a database in which each site had its people", () => {
  it("has accounts now: one for each address, with roles by site; whoever kept the people is the administrator", async () => {
    client = await fresh();
    const own = until("011-change-names.sql");
    await migrate(own);
    rmSync(own, { recursive: true });
    const settings = (origin: string) => JSON.stringify({ site: { origin } });
    for (const [site, origin] of [
      ["a", "https://a.example"],
      ["b", "https://b.example"],
      ["c", "https://a.example"],
    ] as const)
      await client.query("insert into sites (site, name, settings) values ($1, $1, $2)", [site, settings(origin)]);
    const person = (site: string, id: string, email: string, roles: string[], joined: string) =>
      client!.query(
        "insert into people (site, id, name, email, roles, password, joined_at) values ($1, $2, $2, $3, $4, $5, $6)",
        [site, id, email, roles, `hash of ${id}`, joined],
      );
    await person("a", "p-1", "wren@post.example", ["author"], "2026-01-02");
    await person("a", "p-2", "keeper@post.example", ["developer", "editor"], "2026-01-03");
    await person("b", "p-3", "Wren@post.example", ["developer"], "2026-01-04");
    await client.query("insert into audit_trail (site, person, kind, says) values ('b', 'p-3', 'draft', 'x')");
    await migrate();
    expect(await accountByEmail("wren@POST.example")).toMatchObject({
      id: "p-1",
      password: "hash of p-1",
      administrator: false,
    });
    expect(await listPeople("b")).toMatchObject([{ id: "p-1", roles: ["developer"] }]);
    expect((await listPeople("a")).map((one) => [one.id, one.roles])).toEqual([
      ["p-1", ["author"]],
      ["p-2", ["developer", "editor"]],
    ]);
    expect((await listAccounts()).filter((one) => one.administrator).map((one) => one.id)).toEqual(["p-2"]);
    // What the other of the two did is still told by name.
    expect((await client.query("select name from accounts where id = 'p-3'")).rows).toEqual([{ name: "p-3" }]);
    // Two sites said that they have the same address: the first keeps it.
    expect((await readSite("a"))?.origins).toEqual(["https://a.example"]);
    expect((await readSite("c"))?.origins).toEqual([]);
  });
});

describe("the link by which an installation is set up", () => {
  it("is good for an hour, and only while there is nobody", async () => {
    client = await fresh();
    await migrate();
    const first = await makeSetUpLink();
    expect(await isSetUpLink(first)).toBe(true);
    const second = await makeSetUpLink();
    expect([await isSetUpLink(first), await isSetUpLink(second)]).toEqual([false, true]);
    await client.query("update installation set set_up_until = now() + interval '1 second' - interval '60 minutes'");
    expect(await isSetUpLink(second)).toBe(false);
    const third = await makeSetUpLink();
    await addAccount({ name: "One", email: "one@post.example", password: "none", administrator: true });
    expect(await isSetUpLink(third)).toBe(false);
  });
});

describe("what cannot be brought up to date is left as it is", () => {
  it("a database of a newer version", async () => {
    client = await fresh();
    await migrate();
    await client.query("insert into migrations (name) values ('999-later.sql')");
    const before = await whole(client);
    await expect(migrate()).rejects.toThrow(WrongDatabase);
    await expect(migrate()).rejects.toThrow("used by a newer version (it has 999-later.sql)");
    expect(await whole(client)).toBe(before);
  });

  it("a database that holds something else", async () => {
    client = await fresh();
    await client.query("create table invoices (id int)");
    const before = await whole(client);
    await expect(migrate()).rejects.toThrow("1 tables of something else");
    expect(await whole(client)).toBe(before);
  });

  it("a migration that stops half-way", async () => {
    client = await fresh();
    const own = until("011-change-names.sql");
    await migrate(own);
    const before = await whole(client);
    writeFileSync(join(own, "012-bad.sql"), "create table half (id int); alter table nothing_here add column x int;");
    await expect(migrate(own)).rejects.toThrow("nothing_here");
    expect(await whole(client)).toBe(before);
    rmSync(own, { recursive: true });
    // The right one then goes through.
    expect((await migrate()).applied).toContain("012-sites.sql");
  });

  it("of two processes that come at once one does it", async () => {
    client = await fresh();
    const done = await Promise.all([migrate(), migrate()]);
    expect(done.map(({ applied }) => applied.length > 0).sort()).toEqual([false, true]);
  });
});
