import { of } from "./pool";

/** A page whose tag has asked for a decision. */
export interface TagSeen {
  path: string;
  firstAt: string;
  lastAt: string;
}

/** So many are kept of a site: those that were heard from last. */
const most = { paths: 2000, origins: 50 };

/** Notes where the tag of a site was heard from. In one order everywhere, so that two never wait for each other. */
export async function noteTagSeen(site: string, paths: readonly string[], refused: readonly string[]): Promise<void> {
  if (paths.length > 0) {
    await of(site).query(
      `insert into tag_seen (site, path) select $1, path from unnest($2::text[]) as p (path) order by path
       on conflict (site, path) do update set last_at = now()`,
      [site, [...new Set(paths)]],
    );
    await of(site).query(
      `delete from tag_seen where site = $1 and path in
         (select path from tag_seen where site = $1 order by last_at desc, path offset $2)`,
      [site, most.paths],
    );
  }
  if (refused.length > 0) {
    await of(site).query(
      `insert into tag_refused (site, origin) select $1, origin from unnest($2::text[]) as o (origin) order by origin
       on conflict (site, origin) do update set last_at = now()`,
      [site, [...new Set(refused)]],
    );
    await of(site).query(
      `delete from tag_refused where site = $1 and origin in
         (select origin from tag_refused where site = $1 order by last_at desc, origin offset $2)`,
      [site, most.origins],
    );
  }
}

/** The pages whose tag was heard from, the latest first. */
export async function listTagSeen(site: string): Promise<TagSeen[]> {
  const found = await of(site).query<{ path: string; first_at: Date; last_at: Date }>(
    "select path, first_at, last_at from tag_seen where site = $1 order by last_at desc, path",
    [site],
  );
  return found.rows.map(({ path, first_at, last_at }) => ({
    path,
    firstAt: first_at.toISOString(),
    lastAt: last_at.toISOString(),
  }));
}

/** Origins whose pages carry the site's key and may not ask, the latest first. */
export async function listTagRefused(site: string): Promise<{ origin: string; lastAt: string }[]> {
  const found = await of(site).query<{ origin: string; last_at: Date }>(
    "select origin, last_at from tag_refused where site = $1 order by last_at desc, origin",
    [site],
  );
  return found.rows.map(({ origin, last_at }) => ({ origin, lastAt: last_at.toISOString() }));
}
