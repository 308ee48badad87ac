/** The tables can be distributed by site (docs/scale.md): every key, every reference and every join carries the site. */
import { readdirSync, readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { migrate } from "@/data/migrate";
import { pool } from "@/data/pool";
import { everything } from "./support";

/** Not distributed but the same everywhere: what the installation has as a whole, people’s accounts and the hosts of all sites. */
const whole = [
  "migrations",
  "setup_steps",
  "installation",
  "accounts",
  "sessions",
  "failed_sign_ins",
  "processes",
  "site_hosts",
];

describe("every key and join carries the site", () => {
  beforeAll(() => migrate());
  afterAll(() => pool().end());

  it("in primary keys, unique indexes and foreign keys: the rule by which Citus distributes a table", async () => {
    const { rows } = await everything.query<{ table: string; name: string; columns: string[] }>(
      `select t.relname as table, i.relname as name, array_agg(a.attname::text order by k.n) as columns
       from pg_index x join pg_class i on i.oid = x.indexrelid join pg_class t on t.oid = x.indrelid
       join pg_namespace s on s.oid = t.relnamespace and s.nspname = 'public'
       cross join lateral unnest(x.indkey) with ordinality as k(attnum, n)
       left join pg_attribute a on a.attrelid = t.oid and a.attnum = k.attnum
       where x.indisunique and t.relkind in ('r', 'p') group by 1, 2`,
    );
    expect(rows.length).toBeGreaterThan(25);
    for (const { table, name, columns } of rows)
      if (!whole.includes(table)) expect([table, name, columns[0]]).toEqual([table, name, "site"]);
    const references = await everything.query<{ name: string; target: string; from: string[]; to: string[] }>(
      `select c.conrelid::regclass || '.' || c.conname as name, c.confrelid::regclass::text as target,
         (select array_agg(attname::text order by n) from unnest(c.conkey) with ordinality k(num, n)
          join pg_attribute on attrelid = c.conrelid and attnum = num) as from,
         (select array_agg(attname::text order by n) from unnest(c.confkey) with ordinality k(num, n)
          join pg_attribute on attrelid = c.confrelid and attnum = num) as to
       from pg_constraint c where c.contype = 'f'`,
    );
    for (const { name, target, from, to } of references.rows)
      if (!whole.includes(target) && !whole.includes(name.split(".")[0] ?? ""))
        expect([name, from[0], to[0]]).toEqual([name, "site", "site"]);
    const without = await everything.query(
      `select c.relname from pg_class c join pg_namespace s on s.oid = c.relnamespace and s.nspname = 'public'
       where c.relkind in ('r', 'p') and not exists (select 1 from pg_attribute a where a.attrelid = c.oid and a.attname = 'site')`,
    );
    // The list of hosts tells of each which site has it.
    expect(without.rows.map((row) => row.relname).sort()).toEqual(whole.filter((name) => name !== "site_hosts").sort());
  });

  it("in every statement of src/data: each names the site, and each join is on it", () => {
    const folder = "src/data";
    const allowed =
      /pg_notify|pg_advisory|pg_class|pg_roles|invitations set used_by|delete_site|migrations|setup_steps|event_partitions|listen |begin|commit|rollback|select 1|state = 'approved' and live_at/;
    let seen = 0;
    for (const file of readdirSync(folder).filter((name) => name.endsWith(".ts"))) {
      const text = readFileSync(`${folder}/${file}`, "utf8");
      for (const [, tick, quoted] of text.matchAll(/`((?:[^`\\]|\\.)*?)`|"((?:[^"\\\n]|\\.)*)"/g)) {
        const sql = tick ?? quoted ?? "";
        if (!/^\s*(select|insert into|update|delete from|with)\s/i.test(sql) || allowed.test(sql)) continue;
        seen += 1;
        // What belongs to the installation as a whole names no site.
        if (/\b(from|into|update)\s+(accounts|sessions|installation|failed_sign_ins|processes)\b/i.test(sql)) continue;
        expect([file, sql.slice(0, 80), /\bsite\b/.test(sql)]).toEqual([file, sql.slice(0, 80), true]);
        for (const [join] of sql.matchAll(/\bjoin\s+(?!lateral)[a-z_]+[\s\S]*?(?=\bjoin\b|\bwhere\b|$)/gi))
          if (!/^join (accounts|sessions|people p\s+on p\.id)/.test(join.trim()))
            expect([file, join.trim(), /\.site = [a-z]+\.site/.test(join)]).toEqual([file, join.trim(), true]);
      }
    }
    expect(seen).toBeGreaterThan(60);
  });
});
