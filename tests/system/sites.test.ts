/** Many sites in one installation: making, copying, archiving and deleting them, and that none sees anything of another. */
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { addAccount, setAdministrator } from "@/data/accounts";
import { readAudit } from "@/data/audit";
import { deliverySettings, saveDelivery } from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { listKeys, makeKey } from "@/data/keys";
import { listLenses, saveLens } from "@/data/lenses";
import { listLinks, saveLinks } from "@/data/links";
import { migrate } from "@/data/migrate";
import { addPerson, listPeople } from "@/data/people";
import { allSites, of, pool, transaction } from "@/data/pool";
import { liveRelease, putLive } from "@/data/releases";
import { beginSession, listSessions } from "@/data/sessions";
import { listSites, readSite } from "@/data/sites";
import { rulesetOf } from "@/core/draft/picks";
import { changeDraft } from "@/server/draft";
import { asPerson } from "@/server/members";
import { archiveSite, makeSite, removeSite, setHosts, type NewSite } from "@/server/sites";
import { bySession, everything, newPerson, somebody, uniqueId } from "./support";

const stem = uniqueId("many");
const input = (name: string, more: Partial<NewSite> = {}): NewSite => ({
  name,
  id: `${stem}-${name.toLowerCase()}`,
  origin: `https://${name.toLowerCase()}.${stem}.example`,
  zone: "Europe/Lisbon",
  currency: "EUR",
  language: "en",
  copyOf: "",
  ...more,
});
const owner = { id: "", name: "owner" };
const [first, second] = [`${stem}-one`, `${stem}-two`];

/** Puts the draft of a site live as it stands. */
async function live(site: string): Promise<void> {
  const draft = await loadDraft(site);
  await transaction(site, (db) =>
    putLive(
      { site, person: "test", note: "", ruleset: rulesetOf(draft!.ruleset), sha256: randomUUID(), draftVersion: 1 },
      db,
    ),
  );
}

beforeAll(async () => {
  await migrate();
  owner.id = await addAccount({ name: "owner", email: `${stem}@owner.example`, password: "none", administrator: true });
  expect(await makeSite(owner, input("One"))).toEqual({ ok: true, site: first });
  expect(await makeSite(owner, input("Two"))).toEqual({ ok: true, site: second });
});
afterAll(() => pool().end());

it("connections are of the site that asks, also where a build carries their module twice", async () => {
  vi.resetModules();
  const other = await import("@/data/pool");
  const again = await import("@/data/sites");
  expect(other.of).not.toBe(of);
  for (let count = 0; count < 5; count++) {
    // One after the other they share a connection.
    expect((await readSite(first))?.id).toBe(first);
    expect((await again.readSite(second))?.id).toBe(second);
  }
});

describe("making a site", () => {
  it.each<[keyof NewSite, Partial<NewSite>, string]>([
    ["name", { name: " " }, "give the site a name"],
    ["id", { id: "Not an id" }, "Small letters"],
    ["id", { id: "new" }, "Small letters"],
    ["id", { id: first }, "already"],
    ["origin", { origin: "www.shop.example" }, "written https://"],
    ["origin", { origin: "https://shop.example/page" }, "without a path"],
    ["origin", { origin: `https://one.${stem}.example` }, "belongs to another site"],
    ["zone", { zone: "Mars/Olympus" }, "time zone"],
    ["currency", { currency: "XYZ9" }, "currency"],
    ["language", { language: "?" }, "language"],
    ["copyOf", { copyOf: "no-such-site" }, "no such site"],
  ])("a wrong %s is said at its field, and nothing is made", async (field, more, says) => {
    const before = (await listSites()).length;
    const done = await makeSite(owner, input("Wrong", more));
    expect(done).toMatchObject({ ok: false, field });
    expect(done.ok || done.problem).toContain(says);
    expect((await listSites()).length).toBe(before);
  });

  it("makes its id of its name, takes an address with a slash, and has its maker in every role", async () => {
    const name = `Café ${stem}`;
    const done = await makeSite(owner, input("x", { id: "", name, origin: `https://cafe.${stem}.example/` }));
    expect(done).toEqual({ ok: true, site: `cafe-${stem}` });
    expect(await readSite(`cafe-${stem}`)).toMatchObject({
      name,
      origins: [`https://cafe.${stem}.example`],
      release: null,
    });
    // Its maker is alone, and can put live what they make.
    expect((await deliverySettings(`cafe-${stem}`)).secondPerson).toBe(false);
    expect(await listPeople(`cafe-${stem}`)).toMatchObject([
      { id: owner.id, roles: ["author", "editor", "approver", "developer"] },
    ]);
  });

  it("copies another as its start: what was made there, and none of its people, keys or releases", async () => {
    const here = `https://one.${stem}.example`;
    const visit = { at: "2026-11-24T10:15:00Z", url: `${here}/ferns?x=1` };
    await saveLens(first, { id: "l", name: "A lens", visit, steps: [] });
    await saveLinks(first, [{ id: "k", name: "A link", path: "/", tags: [], part: "", note: "", usedBy: "" }]);
    await somebody(first, "colleague");
    await transaction(first, (db) => makeKey(first, "public", "tag", "test", db));
    await live(first);
    const there = `https://copy.${stem}.example`;
    expect(await makeSite(owner, input("Copy", { copyOf: first }))).toMatchObject({ ok: true });
    const site = `${stem}-copy`;
    expect((await listLenses(site)).map((lens) => lens.visit.url)).toContain(`${there}/ferns?x=1`);
    expect((await listLinks(site)).map((link) => link.id)).toEqual(["k"]);
    const [from, copy] = [await loadDraft(first), await loadDraft(site)];
    expect(copy?.ruleset.blockTypes).toEqual(from?.ruleset.blockTypes);
    expect(copy?.ruleset.site).toMatchObject({ id: site, name: "Copy", origin: there });
    expect(await listKeys(site)).toEqual([]);
    expect((await listPeople(site)).map((person) => person.id)).toEqual([owner.id]);
    expect(await liveRelease(site)).toBeUndefined();
  });
});

describe("the addresses of a site", () => {
  it("are no other site’s, neither by settings nor by the draft", async () => {
    const who = await somebody(second, "developer");
    const taken = `https://one.${stem}.example`;
    expect(await setHosts(who, { others: [taken], lookedAt: null })).toContain("belongs to another site");
    expect(await setHosts(who, { others: ["staging.example"], lookedAt: null })).toContain("written https://");
    const staging = `https://staging.${stem}.example`;
    expect(await setHosts(who, { others: [], lookedAt: staging })).toContain("none of the site’s");
    expect(await setHosts(who, { others: [staging], lookedAt: staging })).toBeUndefined();
    expect(await readSite(second)).toMatchObject({
      origins: [`https://two.${stem}.example`, staging],
      lookedAt: staging,
    });
    const move = (before: string, after: string) =>
      changeDraft(who, "Address", [{ do: "set", at: ["site", "origin"], before, after }], randomUUID());
    expect(await move(`https://two.${stem}.example`, taken)).toMatchObject({
      ok: false,
      problem: expect.stringContaining("belongs to another site"),
    });
    const fresh = `https://new.${stem}.example`;
    expect(await move(`https://two.${stem}.example`, fresh)).toMatchObject({ ok: true });
    expect((await readSite(second))?.origins).toEqual([fresh, staging]);
    expect(await move(fresh, `https://two.${stem}.example`)).toMatchObject({ ok: true });
  });

  it("its id stays", async () => {
    const who = await somebody(second, "renamer");
    const edit = { do: "set" as const, at: ["site", "id"], before: second, after: first };
    expect(await changeDraft(who, "Id", [edit], randomUUID())).toMatchObject({ ok: false });
  });
});

describe("people", () => {
  it("have roles by site, and a session sees what each site lets its person see", async () => {
    const id = await newPerson(first, "both", ["author"]);
    await transaction(second, (db) => addPerson(second, id, ["developer"], db));
    const session = await beginSession(id, "a test", pool());
    expect((await bySession(first, session))?.roles).toEqual(["author"]);
    expect((await bySession(second, session))?.roles).toEqual(["developer"]);
    expect(await bySession(`${stem}-copy`, session)).toBeUndefined();
    expect((await listSites(id)).map((site) => site.id).sort()).toEqual([first, second].sort());
    expect((await listSessions(`${stem}-copy`)).some((row) => row.person === id)).toBe(false);
  });

  it("an administrator looks into every site, with no role where nobody gave one", async () => {
    const id = await addAccount({
      name: "admin",
      email: `${stem}@admin.example`,
      password: "none",
      administrator: true,
    });
    const account = { id, name: "admin", email: "", administrator: true, session: "s" };
    expect((await asPerson(account, first))?.roles).toEqual([]);
    expect(await asPerson({ ...account, administrator: false }, first)).toBeUndefined();
  });

  it("the last administrator stays, also when two go at once", async () => {
    const before = await everything.query<{ id: string }>("select id from accounts where administrator");
    await everything.query("update accounts set administrator = false");
    try {
      const two = await Promise.all(
        ["a", "b"].map((name) =>
          addAccount({ name, email: `${stem}@${name}.example`, password: "none", administrator: true }),
        ),
      );
      const done = await Promise.all(two.map((id) => transaction(allSites, (db) => setAdministrator(id, false, db))));
      expect(done.sort()).toEqual([false, true]);
    } finally {
      await everything.query("update accounts set administrator = id = any($1)", [before.rows.map((row) => row.id)]);
    }
  });
});

describe("archiving and deleting", () => {
  it("an archived site serves nothing, and can be taken up again; only then can it be deleted, by its name", async () => {
    const name = "Gone";
    const site = `${stem}-gone`;
    await makeSite(owner, input(name));
    await live(site);
    const who = await somebody(site, "worker");
    expect(await removeSite(site, name)).toContain("archive it first");
    await archiveSite(owner, site, true);
    expect(await liveRelease(site)).toBeUndefined();
    await archiveSite(owner, site, false);
    expect((await liveRelease(site))?.number).toBe(1);
    await archiveSite(owner, site, true);
    expect(await removeSite(site, "Another name")).toContain("not its name");
    expect(await removeSite(site, name)).toBeUndefined();
    expect(await readSite(site)).toBeUndefined();
    // Nothing of it is left in any table; whoever worked there still has an account.
    const { rows } = await everything.query<{ name: string }>(
      `select c.relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'site'
       where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition`,
    );
    for (const { name: table } of rows)
      expect([table, (await everything.query(`select from ${table} where site = $1`, [site])).rowCount]).toEqual([
        table,
        0,
      ]);
    expect((await everything.query("select from accounts where id = $1", [who.id])).rowCount).toBe(1);
    // Its address is free again, and its id.
    expect(await makeSite(owner, input(name))).toMatchObject({ ok: true });
  });

  it("a release of another site stays as it is while one is deleted", async () => {
    await expect(of(first).query("delete from releases where site = $1", [first])).rejects.toThrow("never changes");
  });
});

describe("the second lock: a query that forgets which site it is for", () => {
  it("sees the rows of the connection’s own site alone, in every table", async () => {
    const { rows } = await everything.query<{ name: string; columns: string[] }>(
      `select c.relname as name, array_agg(a.attname::text) as columns
       from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
       where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
       group by 1 having 'site' = any(array_agg(a.attname::text))`,
    );
    const locked = rows.filter(({ name }) => name !== "site_hosts");
    expect(locked.length).toBeGreaterThan(25);
    let seen = 0;
    for (const { name } of locked) {
      const found = await of(first).query<{ site: string }>(`select distinct site from ${name}`);
      seen += found.rows.length;
      for (const { site } of found.rows) expect([name, site]).toEqual([name, first]);
      // Whoever has not said for which site they ask sees nothing at all.
      const client = await pool().connect();
      try {
        await client.query("select set_config('mirada.site', '', false)");
        expect([name, (await client.query(`select from ${name}`)).rowCount]).toEqual([name, 0]);
      } finally {
        client.release(true);
      }
    }
    expect(seen).toBeGreaterThan(8);
  });

  it("changes nothing of another’s, and writes nothing there", async () => {
    const lenses = async () => (await everything.query("select site, id, name from lenses order by 1, 2")).rows;
    const before = await lenses();
    expect((await of(second).query("update lenses set name = 'taken' where id <> 'first-visit'")).rowCount).toBe(0);
    expect((await of(second).query("delete from lenses where id <> 'first-visit'")).rowCount).toBe(0);
    await expect(
      of(second).query("insert into lenses (site, id, position, name, visit) values ($1, 'x', 0, 'x', '{}')", [first]),
    ).rejects.toThrow("row-level security");
    expect(await lenses()).toEqual(before);
  });

  it("holds for functions of the product that are given a wrong site by mistake", async () => {
    const foreign = of(second);
    expect(await listLenses(first, foreign)).toEqual([]);
    expect(await listKeys(first, foreign)).toEqual([]);
    expect(await listLinks(first, foreign)).toEqual([]);
    expect(await loadDraft(first, foreign)).toBeUndefined();
    expect(await listPeople(first, foreign)).toEqual([]);
    await saveDelivery(first, "secondPerson", true);
    expect((await readAudit(second, {})).some((line) => line.says.includes("One"))).toBe(false);
  });
});
