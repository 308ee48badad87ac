import pg from "pg";

/** What queries need: a pool, or one client inside a transaction. */
export type Queryable = Pick<pg.Pool, "query">;

const shared = globalThis as { miradaPool?: pg.Pool };

/** The pool of this process. @throws Error if DATABASE_URL is not set. */
export function pool(): pg.Pool {
  if (!shared.miradaPool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString)
      throw new Error("DATABASE_URL is not set: start with npm run demo, or set it to a PostgreSQL database");
    shared.miradaPool = new pg.Pool({ connectionString, max: 10, connectionTimeoutMillis: 5000 });
    // A connection lost while idle is no reason to end the process: the next query makes another.
    shared.miradaPool.on("error", () => undefined);
  }
  return shared.miradaPool;
}

/** Runs `work` in one transaction: all of it, or nothing. */
export async function transaction<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  try {
    await client.query("begin");
    const result = await work(client);
    await client.query("commit");
    return result;
  } catch (error) {
    await client.query("rollback").catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

/** SQLSTATE classes and codes of the system that say: the server is going, starting or not to be reached. */
const awayCodes = /^(08|57P0|53300|ECONN|ETIMEDOUT|EPIPE|ENOTFOUND|EHOSTUNREACH)/;

/** Whether something failed because the database is away, and not because of what it was asked. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, message } = error as { code?: unknown; message?: unknown };
  return (
    awayCodes.test(String(code)) ||
    /connection terminated|timeout exceeded when trying to connect/i.test(String(message))
  );
}
