/** What fails is logged, and kept for whoever looks under Health: counted by what it was, never who asked. */
import { now } from "@/clock";
import { storable } from "@/core/formats/storable";
import { allSites, of, poolFailures, transaction } from "./pool";

/** So long a failure is kept after it came last, in days; and of each site so many kinds at most. */
const keptDays = 30;
const mostKept = 200;
/** What waits to be kept, of so many kinds at most: beyond them it is in the log alone. */
const mostWaiting = 500;
const flushAfter = 1000;
const flushAgain = 10_000;
const longestError = 300;

export interface Failure {
  /** Empty: it is of no site alone. */
  site: string;
  what: string;
  error: string;
  first: string;
  last: string;
  count: number;
}

/** A build may carry this module several times in one process. */
const shared = globalThis as { miradaFailures?: { waiting: Map<string, Failure>; timer: NodeJS.Timeout | undefined } };
const kept = (shared.miradaFailures ??= { waiting: new Map(), timer: undefined });

/** Writes a line for whoever runs this: what failed where. Never who asked: neither address, query nor body. */
export function logFailure(what: string, more: { site?: string } & Record<string, unknown>, error: unknown): void {
  const message = error instanceof Error ? error.message : String(error);
  console.error(JSON.stringify({ level: "error", what, ...more, error: message }));
  note(more.site ?? "", what, storable(message).slice(0, longestError));
}
poolFailures.hear = (error) => logFailure("a connection to the database was lost", {}, error);

/** Adds to what waits, counted with the same that is there. */
function add(failure: Failure, most = Infinity): void {
  const key = JSON.stringify([failure.site, failure.what, failure.error]);
  const known = kept.waiting.get(key);
  if (!known && kept.waiting.size >= most) return;
  const [first, last] = [known?.first ?? failure.first, known?.last ?? failure.last];
  kept.waiting.set(key, {
    ...failure,
    first: first < failure.first ? first : failure.first,
    last: last > failure.last ? last : failure.last,
    count: failure.count + (known?.count ?? 0),
  });
}
const writeIn = (milliseconds: number): void => {
  if (process.env.DATABASE_URL) kept.timer ??= setTimeout(() => void keepFailures(), milliseconds).unref();
};

function note(site: string, what: string, error: string): void {
  const at = new Date(now()).toISOString();
  add({ site, what, error, first: at, last: at, count: 1 }, mostWaiting);
  writeIn(flushAfter);
}

/** Writes what waits to the database; what cannot be written waits on. What comes meanwhile is written after it. */
export async function keepFailures(): Promise<void> {
  clearTimeout(kept.timer);
  kept.timer = undefined;
  const list = [...kept.waiting.values()];
  if (list.length === 0) return;
  kept.waiting.clear();
  try {
    await of(allSites).query(
      `insert into failures (site, what, error, first, last, count)
       select site, what, error, first, last, count from jsonb_to_recordset($1::jsonb)
         as f (site text, what text, error text, first timestamptz, last timestamptz, count bigint)
       on conflict (site, what, error) do update set
         last = greatest(failures.last, excluded.last), count = failures.count + excluded.count`,
      [JSON.stringify(list)],
    );
  } catch {
    // The database may be what failed.
    for (const failure of list) add(failure);
    writeIn(flushAgain);
  }
}

/** What failed lately of a site, and of all of them together: the newest first. */
export async function listFailures(site: string): Promise<Failure[]> {
  const { rows } = await of(site).query<
    Omit<Failure, "first" | "last" | "count"> & { first: Date; last: Date; count: string }
  >(
    `select site, what, error, first, last, count from failures
     where site in ('', $1) order by last desc, what, error limit $2`,
    [site, mostKept],
  );
  return rows.map((row) => ({
    ...row,
    first: row.first.toISOString(),
    last: row.last.toISOString(),
    count: Number(row.count),
  }));
}

/** Takes out what has not come for long, and of each site what is beyond the newest. */
export const forgetFailures = (): Promise<void> =>
  transaction(allSites, async (db) => {
    await db.query(
      `delete from failures f using (
         select site, what, error, row_number() over (partition by site order by last desc) as n from failures) old
       where f.site = old.site and f.what = old.what and f.error = old.error
         and (old.n > $1 or f.last < now() - make_interval(days => $2))`,
      [mostKept, keptDays],
    );
  });
