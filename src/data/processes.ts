/** The processes that run on one database: each says that it is there, and knows of the others. */
import { hostname } from "node:os";
import { setTimeout as wait } from "node:timers/promises";
import { keepFailures } from "./failures";
import { pool } from "./pool";

export type ProcessKind = "application" | "delivery" | "mirror";
/** What a process tells of itself. */
export interface ProcessState {
  ready: boolean;
  /** Events that wait to be written; refused and dropped since it was started. */
  waiting: number;
  refused: number;
  dropped: number;
}
export interface RunningProcess extends ProcessState {
  kind: ProcessKind;
  machine: string;
  port: number;
  started: string;
  /** So many seconds ago it was heard of. */
  heard: number;
  /** It was killed, or its line is down: it says every few seconds that it is there. */
  silent: boolean;
}

/** So often each says that it is there, in milliseconds. */
const every = 5000;
/** What was not heard of for so many seconds is silent. */
const silentAfter = 20;
/** And after so many hours it is forgotten: it is not to come back. */
const forgottenAfter = 24;
/** A process that ends waits no longer than so many milliseconds for a database that may be away. */
const briefly = 500;

/** A build may carry this module several times in one process. */
const shared = globalThis as { miradaProcesses?: { others: RunningProcess[]; asked: number } };
const known = (shared.miradaProcesses ??= { others: [], asked: 0 });

const columns = `kind, machine, port, started, extract(epoch from now() - seen)::float8 as heard, ready, waiting, refused, dropped`;
type Row = Omit<RunningProcess, "started" | "waiting" | "refused" | "dropped" | "silent"> & {
  started: Date;
  waiting: string;
  refused: string;
  dropped: string;
};
const fromRow = ({ started, waiting, refused, dropped, ...rest }: Row): RunningProcess => ({
  ...rest,
  silent: rest.heard > silentAfter,
  started: started.toISOString(),
  waiting: Number(waiting),
  refused: Number(refused),
  dropped: Number(dropped),
});

/** All that were heard of lately. */
export async function listProcesses(): Promise<RunningProcess[]> {
  const { rows } = await pool().query<Row>(`select ${columns} from processes order by kind, machine, port`);
  return rows.map(fromRow);
}

/**
 * Says again and again that this process is there, and hears of the others.
 * @returns a function that says that it ends
 */
export function announce(kind: ProcessKind, port: number, state: () => Promise<ProcessState>): () => Promise<void> {
  const me = [kind, hostname(), port] as const;
  let busy = false;
  let ended = false;
  const beat = async (): Promise<void> => {
    if (busy || ended) return;
    busy = true;
    try {
      const { ready, waiting, refused, dropped } = await state();
      await pool().query(
        `insert into processes (kind, machine, port, started, seen, ready, waiting, refused, dropped)
         values ($1, $2, $3, now() - make_interval(secs => $4), now(), $5, $6, $7, $8)
         on conflict (kind, machine, port) do update set started = excluded.started, seen = excluded.seen, ready = excluded.ready,
           waiting = excluded.waiting, refused = excluded.refused, dropped = excluded.dropped`,
        [...me, process.uptime(), ready, waiting, refused, dropped],
      );
      await pool().query("delete from processes where seen < now() - make_interval(hours => $1)", [forgottenAfter]);
      const all = await listProcesses();
      known.others = all.filter((one) => one.kind !== me[0] || one.machine !== me[1] || one.port !== me[2]);
      known.asked = performance.now();
    } catch {
      // The database is away: the others are as they were heard of last.
    } finally {
      busy = false;
    }
  };
  void beat();
  const timer = setInterval(() => void beat(), every).unref();
  return async () => {
    ended = true;
    clearInterval(timer);
    const gone = pool().query("delete from processes where kind = $1 and machine = $2 and port = $3", [...me]);
    const all = Promise.all([gone, keepFailures()]).catch(() => undefined);
    await Promise.race([all, wait(briefly, undefined, { ref: false })]);
  };
}

/**
 * What is known here of the other processes: from memory, so that it is told at once. Whoever may ask need not learn how machines are
 * called.
 */
export const otherProcesses = (): { process: ProcessKind; heard: number; ready: boolean }[] => {
  const since = (performance.now() - known.asked) / 1000;
  return known.others.map(({ kind, heard, ready }) => {
    const ago = Math.round(heard + since);
    return { process: kind, heard: ago, ready: ready && ago <= silentAfter };
  });
};
