import pg from "pg";

/** How long it takes until a lost connection is tried again, in milliseconds. */
const again = 2000;
/** How often it is asked whether the other end is still there, and how long its answer may take, in milliseconds. */
const lookEvery = 15_000;
const patience = 5000;

/** Notices need a connection that stays: where a pooler stands in between, one past it. */
const address = () => process.env.MIRADA_DATABASE_DIRECT ?? process.env.DATABASE_URL;

/**
 * Hears what is announced on a channel, for the life of the process: a lost connection is made anew. Notices meanwhile are lost,
 * so whoever must know for sure also asks from time to time.
 */
export async function listen(channel: string, heard: (payload: string) => void): Promise<void> {
  const client = new pg.Client({
    connectionString: address(),
    connectionTimeoutMillis: patience,
    query_timeout: patience,
    keepAlive: true,
  });
  let ended = false;
  let looking: NodeJS.Timeout | undefined;
  const end = (): void => {
    if (ended) return;
    ended = true;
    clearInterval(looking);
    client.end().catch(() => undefined);
    setTimeout(() => void listen(channel, heard), again).unref();
  };
  client.on("error", end);
  client.on("end", end);
  client.on("notification", ({ payload }) => payload && heard(payload));
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
    // A line that has gone silent brings no notices, and no error either.
    looking = setInterval(() => client.query("select 1").catch(end), lookEvery);
    looking.unref();
  } catch {
    end();
  }
}
