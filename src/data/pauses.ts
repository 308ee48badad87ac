import type { Pause } from "@/core/release/pause";
import { of, type Queryable } from "./pool";
import { announceLive } from "./releases";

/** What is paused, since when, by whom and why. */
export interface KeptPause extends Pause {
  at: string;
  person: string;
  reason: string;
}

export async function listPauses(site: string, db: Queryable = of(site)): Promise<KeptPause[]> {
  const found = await db.query<Omit<KeptPause, "at"> & { at: Date }>(
    "select kind, id, at, person, reason from pauses where site = $1 order by at",
    [site],
  );
  return found.rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Pauses something of what is live, at once. False if it was paused already. */
export async function addPause(
  site: string,
  { kind, id }: Pause,
  person: string,
  reason: string,
  db: Queryable,
): Promise<boolean> {
  const done = await db.query(
    "insert into pauses (site, kind, id, person, reason) values ($1, $2, $3, $4, $5) on conflict do nothing",
    [site, kind, id, person, reason],
  );
  await announceLive(site, db);
  return done.rowCount === 1;
}

export async function endPause(site: string, { kind, id }: Pause, db: Queryable): Promise<boolean> {
  const done = await db.query("delete from pauses where site = $1 and kind = $2 and id = $3", [site, kind, id]);
  await announceLive(site, db);
  return done.rowCount === 1;
}
