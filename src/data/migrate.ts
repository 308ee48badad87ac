import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { transaction } from "./pool";

/** Applies the numbered SQL files that have not been applied yet, in order, in one transaction. */
export async function migrate(folder = join(process.cwd(), "src/data/migrations")): Promise<string[]> {
  return transaction(async (client) => {
    await client.query("select pg_advisory_xact_lock(4300)");
    await client.query(
      "create table if not exists migrations (name text primary key, at timestamptz not null default now())",
    );
    const done = new Set(
      (await client.query<{ name: string }>("select name from migrations")).rows.map((row) => row.name),
    );
    const fresh = readdirSync(folder)
      .filter((name) => name.endsWith(".sql") && !done.has(name))
      .sort();
    for (const name of fresh) {
      await client.query(readFileSync(join(folder, name), "utf8"));
      await client.query("insert into migrations (name) values ($1)", [name]);
    }
    return fresh;
  });
}
