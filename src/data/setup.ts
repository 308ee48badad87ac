import { allSites, longTransaction, pool, type Queryable } from "./pool";

/** What became of a step of set-up: it was done before, now, or now after an earlier try that was interrupted. */
export type StepEnd = "done before" | "done" | "done anew";

/**
 * Does a step of set-up once, whole or not at all: what it writes, and that it is done, are one transaction. Of two processes
 * that come at the same time the second waits and finds it done.
 * @param begun told before the work: whether an earlier try was interrupted, and left nothing
 */
export async function setUpOnce(
  name: string,
  work: (db: Queryable) => Promise<void>,
  begun?: (interrupted: boolean) => void,
): Promise<StepEnd> {
  const marked = await pool().query("insert into setup_steps (name) values ($1) on conflict (name) do nothing", [name]);
  const isFirst = marked.rowCount === 1;
  return longTransaction(allSites, async (db) => {
    const found = await db.query<{ done_at: Date | null }>(
      "select done_at from setup_steps where name = $1 for update",
      [name],
    );
    if (found.rows[0]?.done_at) return "done before";
    begun?.(!isFirst);
    await work(db);
    await db.query("update setup_steps set done_at = now() where name = $1", [name]);
    return isFirst ? "done" : "done anew";
  });
}
