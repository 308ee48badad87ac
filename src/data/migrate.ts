import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { Umzug } from "umzug";
import { allSites, longTransaction } from "./pool";

/** The database cannot be used as it is, and why; nothing of it was changed. */
export class WrongDatabase extends Error {}

/** What bringing a database up to date did. */
export interface Migrated {
  /** The files that were applied, in their order. */
  applied: string[];
  /** Set where row-level security, the second lock between sites, does not hold for the user of this connection. */
  warning?: string;
}

/**
 * Applies the numbered SQL files that have not been applied yet, in order, in one transaction: all of them or none. Of two
 * processes at once the second waits.
 * @throws WrongDatabase if the database is of a newer version, or holds something else
 */
export async function migrate(folder = join(process.cwd(), "src/data/migrations")): Promise<Migrated> {
  return longTransaction(allSites, async (client) => {
    await client.query("select pg_advisory_xact_lock(4300)");
    const known = readdirSync(folder)
      .filter((name) => name.endsWith(".sql"))
      .sort();
    const { rows } = await client.query<{ ours: boolean; tables: number }>(
      `select to_regclass('migrations') is not null as ours, count(*)::int as tables
       from pg_class where relnamespace = current_schema()::regnamespace and relkind in ('r', 'p')`,
    );
    const found = rows[0] as { ours: boolean; tables: number };
    if (!found.ours && found.tables > 0)
      throw new WrongDatabase(
        `this database holds ${found.tables} tables of something else: give Mirada an empty database of its own`,
      );
    await client.query(
      "create table if not exists migrations (name text primary key, at timestamptz not null default now())",
    );
    const done = async () =>
      (await client.query<{ name: string }>("select name from migrations order by name")).rows.map(({ name }) => name);
    const newer = (await done()).filter((name) => !known.includes(name));
    if (newer.length > 0)
      throw new WrongDatabase(
        `this database was used by a newer version (it has ${newer.at(-1)}): install that version, or restore a backup from before`,
      );
    const umzug = new Umzug({
      migrations: known.map((name) => ({ name, up: () => client.query(readFileSync(join(folder, name), "utf8")) })),
      storage: {
        executed: done,
        logMigration: async ({ name }) =>
          void (await client.query("insert into migrations (name) values ($1)", [name])),
        unlogMigration: () => Promise.reject(new Error("migrations only go forward: restore a backup instead")),
      },
      logger: undefined,
    });
    const applied = (await umzug.up()).map(({ name }) => name);
    const { rows: users } = await client.query<{ name: string; free: boolean }>(
      "select rolname as name, rolsuper or rolbypassrls as free from pg_roles where rolname = current_user",
    );
    return {
      applied,
      ...(users[0]?.free
        ? {
            warning: `The database user ${users[0].name} may bypass row-level security, so the second lock between sites does not hold. Use a user that is no superuser (docs/install.md).`,
          }
        : {}),
    };
  });
}
