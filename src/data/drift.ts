import type { Finding } from "@/core/analysis/findings";
import { allSites, of, type Queryable } from "./pool";

/** Where a page no longer fits a slot (`variant` empty) or a version, as visitors' pages have told. */
export interface Drift {
  path: string;
  slot: string;
  variant: string;
  why: string;
}
export interface KeptDrift extends Drift {
  since: string;
  lastAt: string;
  /** How many visitors got the page's own content instead: each counts once a session. */
  visitors: number;
}

/** So many places are kept of a site: a page that is drawn anew each time could tell of any number. */
const most = 500;

export async function countDrift(site: string, drifts: readonly Drift[]): Promise<void> {
  // In one order everywhere, so that two never wait for each other.
  const rows = [...drifts].sort((a, b) => (a.path + a.slot + a.variant < b.path + b.slot + b.variant ? -1 : 1));
  await of(site).query(
    `insert into drift (site, path, slot, variant, why)
     select distinct on (path, slot, variant) $1, path, slot, variant, why from jsonb_to_recordset($2::jsonb) as d (path text, slot text, variant text, why text)
     where (select count(*) from drift o where o.site = $1) < $3
       or exists (select from drift o where o.site = $1 and o.path = d.path and o.slot = d.slot and o.variant = d.variant)
     on conflict (site, path, slot, variant) do update
       set visitors = drift.visitors + 1, last_at = now(), why = excluded.why`,
    [site, JSON.stringify(rows), most],
  );
}

export async function listDrift(site: string): Promise<KeptDrift[]> {
  const found = await of(site).query<Drift & { since: Date; last_at: Date; visitors: string }>(
    "select path, slot, variant, why, since, last_at, visitors from drift where site = $1 order by last_at desc, path, slot, variant",
    [site],
  );
  return found.rows.map(({ since, last_at, visitors, ...row }) => ({
    ...row,
    since: since.toISOString(),
    lastAt: last_at.toISOString(),
    visitors: Number(visitors),
  }));
}

/** Forgets what was told of a place: it is told again if it is still so. */
export async function forgetDrift(
  site: string,
  { path, slot, variant }: Omit<Drift, "why">,
  db: Queryable,
): Promise<void> {
  await db.query("delete from drift where site = $1 and path = $2 and slot = $3 and variant = $4", [
    site,
    path,
    slot,
    variant,
  ]);
}

/**
 * Some of the sites whose pages were not looked at for a day; from now on they count as looked at, so that no two processes do it.
 * A few at a time: should a process end meanwhile, the others stay for the next.
 */
export async function sitesToLookAt(): Promise<string[]> {
  const found = await of(allSites).query<{ site: string }>(
    `insert into page_looks (site)
     select s.site from sites s left join page_looks l on l.site = s.site
     where s.archived_at is null and (l.at is null or l.at < now() - interval '1 day')
       and exists (select from went_live w where w.site = s.site)
     order by l.at nulls first limit 10
     on conflict (site) do update set at = now() where page_looks.at < now() - interval '1 day'
     returning site`,
  );
  return found.rows.map((row) => row.site);
}
export async function saveLook(site: string, found: readonly Finding[]): Promise<void> {
  await of(site).query(
    "insert into page_looks (site, found) values ($1, $2) on conflict (site) do update set at = now(), found = excluded.found",
    [site, JSON.stringify(found)],
  );
}
export async function readLook(site: string): Promise<{ at: string; found: Finding[] } | undefined> {
  const row = (
    await of(site).query<{ at: Date; found: Finding[] }>("select at, found from page_looks where site = $1", [site])
  ).rows[0];
  return row && { at: row.at.toISOString(), found: row.found };
}
