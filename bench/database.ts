/** A database for the figures that need one: started for them alone, and gone after them. */
export async function withDatabase(work: () => Promise<void>): Promise<void> {
  // A file of its own, had at run time: it uses Node's own modules only.
  const { startPostgres } = (await import(
    `${process.cwd()}/scripts/lib/postgres.mjs`
  )) as typeof import("../scripts/lib/postgres.mjs"); // eslint-disable-line @typescript-eslint/consistent-type-imports
  const database = await startPostgres("bench", { reset: true, throwaway: true, durable: true });
  process.env.DATABASE_URL = database.url;
  // Filling takes longer than what anybody would wait for.
  process.env.MIRADA_DATABASE_SECONDS ??= "3600";
  const [{ migrate }, { pool }] = [await import("@/data/migrate"), await import("@/data/pool")];
  try {
    await migrate();
    await work();
  } finally {
    await pool().end();
    await database.stop();
  }
}
