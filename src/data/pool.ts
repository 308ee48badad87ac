import pg from "pg";

/** What queries need: a site's connections, or one client inside a transaction. */
export type Queryable = Pick<pg.Pool, "query">;

/** A build may carry this module several times in one process (its proxy and its pages): what is known of connections is one. */
const shared = globalThis as { miradaPool?: pg.Pool; miradaUsedFor?: WeakMap<pg.PoolClient, string> };

/** Whoever hears of connections that were lost while nobody used them (failures.ts). */
export const poolFailures: { hear?: (error: Error) => void } = {};

/**
 * So long a statement waits for its answer, and a transaction for its next statement, in milliseconds: a database, or the line to
 * it, may go silent without a word. What is known to take longer has an hour.
 */
const told = Number(process.env.MIRADA_DATABASE_SECONDS);
const patience = Math.ceil((told > 0 && told < 86_400 ? told : 30) * 1000);
const longPatience = 3_600_000;

/**
 * Whether a pooler stands between that hands connections out by transaction (pgbouncer's transaction mode): what a connection is told
 * then holds for one transaction alone.
 */
const byTransaction = process.env.MIRADA_DATABASE_POOLED === "yes";

/**
 * The pool of this process. Its connections see no site's rows until they are told which site they are for: `of` and
 * `transaction` do.
 * @throws Error if DATABASE_URL is not set
 */
export function pool(): pg.Pool {
  if (!shared.miradaPool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error("DATABASE_URL is not set: it says which PostgreSQL database is used");
    shared.miradaPool = new pg.Pool({
      connectionString,
      max: 10,
      connectionTimeoutMillis: 5000,
      query_timeout: patience,
      keepAlive: true,
      keepAliveInitialDelayMillis: 10_000,
    });
    // A connection lost while idle is no reason to end the process: the next query makes another.
    shared.miradaPool.on("error", (error) => poolFailures.hear?.(error));
    // Nor is one that is lost between two statements of somebody who has it: their next statement fails.
    shared.miradaPool.on("connect", (client) => client.on("error", () => undefined));
  }
  return shared.miradaPool;
}

/** In the place of a site: for what the installation does as a whole. */
export const allSites = "*";

/** For which site each connection was last used. */
const usedFor = (shared.miradaUsedFor ??= new WeakMap());

/** Does something on a connection that sees the rows of one site alone (row-level security, migration 012). */
async function withClient<T>(site: string, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  let failure: unknown;
  try {
    if (!byTransaction && usedFor.get(client) !== site) {
      usedFor.delete(client);
      await client.query("select set_config('mirada.site', $1, false)", [site]);
      usedFor.set(client, site);
    }
    return await work(client);
  } catch (error) {
    failure = error;
    throw error;
  } finally {
    // A connection that was lost is not used again.
    client.release(isDatabaseAway(failure) ? (failure as Error) : undefined);
  }
}

/** The connections of a site: a query over them sees that site's rows alone. */
export function of(site: string): Queryable {
  const using: typeof withClient = byTransaction ? transaction : withClient;
  const query = (...args: unknown[]) =>
    using(site, (client) => (client.query as (...args: unknown[]) => Promise<unknown>)(...args));
  return { query: query as Queryable["query"] };
}

/** The same client, with time for statements that take long. */
const withTime = (client: pg.PoolClient): pg.PoolClient =>
  Object.create(client, {
    query: {
      value(text: string | pg.QueryConfig, values?: unknown[]) {
        const asked = { ...(typeof text === "string" ? { text, values } : text), query_timeout: longPatience };
        return client.query(asked);
      },
    },
  }) as pg.PoolClient;

async function inTransaction<T>(
  client: pg.PoolClient,
  site: string,
  begin: string,
  work: (client: pg.PoolClient) => Promise<T>,
): Promise<T> {
  try {
    const telling = `; select set_config('mirada.site', ${pg.escapeLiteral(site)}, true)`;
    await client.query(byTransaction ? `${begin}${telling}` : begin);
    const result = await work(client);
    await client.query("commit");
    return result;
  } catch (error) {
    // A line that has gone silent would not answer this either; it is closed.
    if (!isDatabaseAway(error)) await client.query("rollback").catch(() => undefined);
    throw error;
  }
}

/** What is begun over a line that goes silent is given up by the server, too: nobody waits for its locks. */
const beginBriefly = `begin; set local idle_in_transaction_session_timeout = ${patience}`;

/** Runs `work` in one transaction on a site: all of it, or nothing. */
export const transaction = <T>(site: string, work: (client: pg.PoolClient) => Promise<T>): Promise<T> =>
  withClient(site, (client) => inTransaction(client, site, beginBriefly, work));

/** The same for migrations, seeds and whole sites: a single statement, or the thinking between two, may take minutes. */
export const longTransaction = <T>(site: string, work: (client: pg.PoolClient) => Promise<T>): Promise<T> =>
  withClient(site, (client) => inTransaction(withTime(client), site, "begin", work));

/** SQLSTATE classes and codes of the system that say: the server is going, starting or not to be reached. */
const awayCodes = /^(08|25P03|57P0|53300|ECONN|ETIMEDOUT|EPIPE|ENOTFOUND|EHOSTUNREACH)/;

/** Whether something failed because the database is away, and not because of what it was asked. */
export function isDatabaseAway(error: unknown): boolean {
  if (typeof error !== "object" || error === null) return false;
  const { code, message } = error as { code?: unknown; message?: unknown };
  return (
    awayCodes.test(String(code)) ||
    /connection terminated|is not queryable|timeout exceeded when trying to connect|query read timeout/i.test(
      String(message),
    )
  );
}

/** Whether the database is there and lets nobody in: a wrong name or password, a database or a right that is missing. */
export const isLockedOut = (error: unknown): boolean =>
  /^(28[0-9A-Z]{3}|3D000|42501)$/.test(String((error as { code?: unknown } | null)?.code));
