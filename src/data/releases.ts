import type { Ruleset } from "@/core/formats/ruleset";
import { pool, type Queryable } from "./pool";

export interface ReleaseNote {
  number: number;
  madeAt: string;
  note: string;
  sha256: string;
  draftVersion: number;
}
export interface Release extends ReleaseNote {
  ruleset: Ruleset;
}
/** The channel on which a release is announced; its payload is the site. */
export const liveChannel = "mirada_live";

interface Row {
  number: number;
  made_at: Date;
  note: string;
  sha256: string;
  draft_version: string;
  ruleset: Ruleset;
}
const note = (row: Row): ReleaseNote => ({
  number: row.number,
  madeAt: row.made_at.toISOString(),
  note: row.note,
  sha256: row.sha256,
  draftVersion: Number(row.draft_version),
});

/** Writes a release and makes it live, within the caller's transaction: visitors see all of it or nothing. */
export async function putLive(
  release: { site: string; session: string; note: string; ruleset: Ruleset; sha256: string; draftVersion: number },
  db: Queryable,
): Promise<number> {
  const found = await db.query<{ number: number }>(
    `insert into releases (site, number, session, note, ruleset, sha256, draft_version)
     select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, $6 from releases where site = $1 returning number`,
    [
      release.site,
      release.session,
      release.note,
      JSON.stringify(release.ruleset),
      release.sha256,
      release.draftVersion,
    ],
  );
  const number = found.rows[0]?.number as number;
  await db.query("insert into went_live (site, release) values ($1, $2)", [release.site, number]);
  await db.query("select pg_notify($1, $2)", [liveChannel, release.site]);
  return number;
}

/** The release that is live. */
export async function liveRelease(site: string, db: Queryable = pool()): Promise<Release | undefined> {
  const found = await db.query<Row>(
    `select r.* from went_live w join releases r on r.site = w.site and r.number = w.release
     where w.site = $1 order by w.number desc limit 1`,
    [site],
  );
  const row = found.rows[0];
  return row && { ...note(row), ruleset: row.ruleset };
}

/** Which release is live, without its ruleset: cheap enough to ask often. */
export async function liveNumber(site: string): Promise<number | undefined> {
  const found = await pool().query<{ release: number }>(
    "select release from went_live where site = $1 order by number desc limit 1",
    [site],
  );
  return found.rows[0]?.release;
}
