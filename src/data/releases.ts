import type { Ruleset } from "@/core/formats/ruleset";
import { of, type Queryable } from "./pool";

export interface ReleaseNote {
  number: number;
  madeAt: string;
  /** Who put it live, by id. */
  person: string;
  note: string;
  sha256: string;
  draftVersion: number;
}
export interface Release extends ReleaseNote {
  ruleset: Ruleset;
}
/** When which release went live, and by whom. */
export interface WentLive {
  number: number;
  release: number;
  at: string;
  person: string;
  why: string;
}
/** The channel on which it is announced that something of what is served has changed; its payload is the site. */
export const liveChannel = "mirada_live";

interface Row {
  number: number;
  made_at: Date;
  person: string;
  note: string;
  sha256: string;
  draft_version: string;
  ruleset: Ruleset;
}
const note = (row: Row): ReleaseNote => ({
  number: row.number,
  madeAt: row.made_at.toISOString(),
  person: row.person,
  note: row.note,
  sha256: row.sha256,
  draftVersion: Number(row.draft_version),
});
const columns = "number, made_at, person, note, sha256, draft_version";

/** Writes a release and makes it live, within the caller's transaction: visitors see all of it or nothing. `at` is now unless told. */
export async function putLive(
  release: { site: string; person: string; note: string; ruleset: Ruleset; sha256: string; draftVersion: number },
  db: Queryable,
  at?: Date,
): Promise<number> {
  const { site, person } = release;
  const found = await db.query<{ number: number }>(
    `insert into releases (site, number, person, note, ruleset, sha256, draft_version, made_at)
     select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, $6, coalesce($7, now()) from releases where site = $1 returning number`,
    [site, person, release.note, JSON.stringify(release.ruleset), release.sha256, release.draftVersion, at ?? null],
  );
  const number = found.rows[0]?.number as number;
  await goLive(site, number, person, release.note, db, at);
  return number;
}

/** Makes a release live that is there already. */
export async function goLive(
  site: string,
  number: number,
  person: string,
  why: string,
  db: Queryable,
  at?: Date,
): Promise<void> {
  await db.query(
    "insert into went_live (site, release, person, why, at) values ($1, $2, $3, $4, coalesce($5, now()))",
    [site, number, person, why, at ?? null],
  );
  await announceLive(site, db);
}

/** Tells every process that serves the site to read anew what it keeps of it. */
export const announceLive = (site: string, db: Queryable = of(site)): Promise<unknown> =>
  db.query("select pg_notify($1, $2)", [liveChannel, site]);

/** The release that is live; of a site that is archived there is none. */
export async function liveRelease(site: string, db: Queryable = of(site)): Promise<Release | undefined> {
  const found = await db.query<Row>(
    `select r.* from went_live w join releases r on r.site = w.site and r.number = w.release
       join sites s on s.site = w.site and s.archived_at is null
     where w.site = $1 order by w.number desc limit 1`,
    [site],
  );
  const row = found.rows[0];
  return row && { ...note(row), ruleset: row.ruleset };
}

export async function readRelease(
  site: string,
  number: number,
  db: Queryable = of(site),
): Promise<Release | undefined> {
  const found = await db.query<Row>("select * from releases where site = $1 and number = $2", [site, number]);
  const row = found.rows[0];
  return row && { ...note(row), ruleset: row.ruleset };
}

/** The latest releases, newest first, without their rulesets. */
export async function listReleases(site: string, most = 200): Promise<ReleaseNote[]> {
  const found = await of(site).query<Row>(
    `select ${columns} from releases where site = $1 order by number desc limit $2`,
    [site, most],
  );
  return found.rows.map(note);
}

/** When what went live, newest first. */
export async function wentLive(site: string, most = 500): Promise<WentLive[]> {
  const found = await of(site).query<Omit<WentLive, "number" | "at"> & { number: string; at: Date }>(
    "select number, release, at, person, why from went_live where site = $1 order by number desc limit $2",
    [site, most],
  );
  return found.rows.map((row) => ({ ...row, number: Number(row.number), at: row.at.toISOString() }));
}

/**
 * A mark of everything that is served of a site: changes with each release that goes live, each pause, each setting of delivery.
 * Cheap enough to ask often.
 */
export async function liveMark(site: string): Promise<string> {
  const found = await of(site).query<{ mark: string }>(
    `select concat_ws(' ',
       (select archived_at from sites where site = $1),
       (select number || ' ' || release from went_live where site = $1 order by number desc limit 1),
       (select string_agg(kind || id, ',' order by kind, id) from pauses where site = $1),
       (select md5(concat(trusted_proxies, other_hosts, origins)) from site_delivery where site = $1),
       (select string_agg(origin, ',' order by position) from site_hosts where site = $1),
       (select count(*) || ' ' || count(ended_at) from site_keys where site = $1)) as mark`,
    [site],
  );
  return found.rows[0]?.mark ?? "";
}
