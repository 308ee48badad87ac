import pg from "pg";

/** How long it takes until a lost connection is tried again, in milliseconds. */
const again = 2000;

/**
 * Hears what is announced on a channel, for the life of the process: a lost connection is made anew. Notices meanwhile are lost,
 * so whoever must know for sure also asks from time to time.
 */
export async function listen(channel: string, heard: (payload: string) => void): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  let ended = false;
  const end = (): void => {
    if (ended) return;
    ended = true;
    client.end().catch(() => undefined);
    setTimeout(() => void listen(channel, heard), again).unref();
  };
  client.on("error", end);
  client.on("end", end);
  client.on("notification", ({ payload }) => payload && heard(payload));
  try {
    await client.connect();
    await client.query(`listen ${channel}`);
  } catch {
    end();
  }
}
