// npm run backup -- FILE and npm run restore -- FILE: everything in the database, in one file of pg_dump's own format.
import { existsSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { ensureDebian, main, run, Stop } from "./lib/steps.mjs";
import { findBin, startPostgres } from "./lib/postgres.mjs";

await main(async () => {
  const [what, file] = process.argv.slice(2);
  if (!["backup", "restore"].includes(what ?? "") || !file)
    throw new Stop(`Say which file: npm run ${what ?? "backup"} -- mirada.dump`);
  if (what === "restore" && !existsSync(file)) throw new Stop(`There is no file ${file}.`);
  await ensureDebian(["postgresql"], () => findBin() !== undefined);
  // A running demo's own database is reached by its DATABASE_URL; a stopped one is started for this.
  const own = process.env.DATABASE_URL ? undefined : await startPostgres("postgres");
  const url = own?.url ?? process.env.MIRADA_DATABASE_DIRECT ?? process.env.DATABASE_URL;
  try {
    const path = resolve(file);
    // Of every site: row-level security would else show none.
    const env = { PGOPTIONS: "-c mirada.site=*" };
    const dump = ["--format=custom", "--no-owner", "--enable-row-security", "--file", path, url];
    if (what === "backup") await run(`${findBin()}/pg_dump`, dump, { env });
    else {
      // All or nothing: what is there is replaced in one transaction, partitions and all.
      const folder = mkdtempSync(join(tmpdir(), "mirada-restore-"));
      try {
        const sql = join(folder, "restore.sql");
        await run(`${findBin()}/pg_restore`, ["--no-owner", "--no-privileges", "--file", sql, path], { quiet: true });
        const first = ["drop schema public cascade", "create schema public"].flatMap((text) => ["--command", text]);
        await run(
          `${findBin()}/psql`,
          ["--quiet", "--set", "ON_ERROR_STOP=1", "--single-transaction", ...first, "--file", sql, url],
          { quiet: true },
        );
      } finally {
        rmSync(folder, { recursive: true, force: true });
      }
    }
    console.log(what === "backup" ? `Everything is in ${path}.` : `The database is as it was in ${path}.`);
  } finally {
    own?.stop();
  }
});
