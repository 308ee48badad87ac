import { examplesSchema, type Examples } from "@/core/formats/examples";
import { allSites, of, type Queryable } from "./pool";

/** How the pages of a site are looked at. */
export type LookedBy = "tag" | "process";

/** A site, as lists show it. */
export interface SiteRow {
  id: string;
  name: string;
  /** Its canonical origin, as its draft has it. */
  origin: string;
  /** Under which origins it is found, the canonical one first; none of them is another site's. */
  origins: string[];
  /** The origin at which its pages are looked at, if not the canonical one. */
  lookedAt: string | null;
  /** How they are: by the tag that they carry, or by the in-process door. */
  lookedBy: LookedBy;
  archivedAt: string | null;
  /** The number of the release that is live. */
  release: number | null;
}

const asked = `select s.site as id, s.name, coalesce(s.settings->'site'->>'origin', '') as origin, s.looked_at as "lookedAt", s.looked_by as "lookedBy", s.archived_at as "archivedAt",
  coalesce((select array_agg(h.origin order by h.position) from site_hosts h where h.site = s.site), '{}') as origins,
  (select w.release from went_live w where w.site = s.site order by w.number desc limit 1) as release
  from sites s`;
type Row = Omit<SiteRow, "archivedAt"> & { archivedAt: Date | null };
const made = (row: Row): SiteRow => ({ ...row, archivedAt: row.archivedAt?.toISOString() ?? null });

/** All sites of the installation, by name; `account`: those alone whose people it belongs to. */
export async function listSites(account?: string, db: Queryable = of(allSites)): Promise<SiteRow[]> {
  const found = await db.query<Row>(
    `${asked} where $1::text is null
       or exists (select from people p where p.site = s.site and p.id = $1 and p.left_at is null)
     order by s.archived_at is not null, lower(s.name), s.site`,
    [account ?? null],
  );
  return found.rows.map(made);
}

export async function readSite(site: string, db: Queryable = of(site)): Promise<SiteRow | undefined> {
  const row = (await db.query<Row>(`${asked} where s.site = $1`, [site])).rows[0];
  return row && made(row);
}

/** Holds a site for the transaction, so that two changes of it never cross. */
export const holdSite = (site: string, db: Queryable): Promise<unknown> =>
  db.query("select 1 from sites where site = $1 for update", [site]);

/** The origin at which the pages of a site are looked at. */
export const lookOrigin = ({ lookedAt, origins, origin }: Pick<SiteRow, "lookedAt" | "origins" | "origin">): string =>
  lookedAt ?? origins[0] ?? origin;

/** The origins that are a site's own: that at which its pages are looked at first. */
export const ownOrigins = (row: Pick<SiteRow, "lookedAt" | "origins" | "origin">): string[] => [
  ...new Set([lookOrigin(row), ...row.origins]),
];

/** Which of some origins another site has already, with that site's id. */
export async function takenOrigins(
  site: string,
  origins: readonly string[],
  db: Queryable,
): Promise<{ origin: string; site: string }[]> {
  return (
    await db.query<{ origin: string; site: string }>(
      "select origin, site from site_hosts where origin = any($1) and site <> $2",
      [origins, site],
    )
  ).rows;
}

/** Sets under which origins a site is found (the canonical one first), and at which of them its pages are looked at. */
export async function setOrigins(
  site: string,
  origins: readonly string[],
  lookedAt: string | null,
  db: Queryable,
  lookedBy?: LookedBy,
): Promise<void> {
  await db.query("delete from site_hosts where site = $1", [site]);
  await db.query(
    "insert into site_hosts (site, origin, position) select $1, origin, number from unnest($2::text[]) with ordinality as o (origin, number)",
    [site, origins],
  );
  await db.query("update sites set looked_at = $2, looked_by = coalesce($3, looked_by) where site = $1", [
    site,
    lookedAt,
    lookedBy ?? null,
  ]);
}

/** What came with a site to be tried out with. */
export async function siteExamples(site: string, db: Queryable = of(site)): Promise<Examples> {
  const found = await db.query<{ examples: unknown }>("select examples from sites where site = $1", [site]);
  return examplesSchema.parse(found.rows[0]?.examples ?? {});
}

export async function setExamples(site: string, examples: Examples, db: Queryable): Promise<void> {
  await db.query("update sites set examples = $2 where site = $1", [site, JSON.stringify(examples)]);
}

export async function setArchived(site: string, archived: boolean, db: Queryable): Promise<void> {
  await db.query("update sites set archived_at = case when $2 then now() end where site = $1", [site, archived]);
}

/** Deletes a site with everything that it has, what is live and all results included. */
export async function deleteSite(site: string, db: Queryable): Promise<void> {
  await db.query("select delete_site($1)", [site]);
}
