import { of } from "./pool";

/** A page whose tag has asked for a decision. */
export interface TagSeen {
  path: string;
  firstAt: string;
  lastAt: string;
}

/** Where it is kept, by what, and how many of a site: those that were heard from last. */
const pages = { table: "tag_seen", column: "path", most: 2000 };
const origins = { table: "tag_refused", column: "origin", most: 50 };

/** In one order everywhere, so that two never wait for each other. */
async function note(site: string, { table, column, most }: typeof pages, places: readonly string[]): Promise<void> {
  if (places.length === 0) return;
  await of(site).query(
    `insert into ${table} (site, ${column}) select $1, place from unnest($2::text[]) as p (place) order by place
     on conflict (site, ${column}) do update set last_at = now()`,
    [site, [...new Set(places)]],
  );
  await of(site).query(
    `delete from ${table} where site = $1 and ${column} in
       (select ${column} from ${table} where site = $1 order by last_at desc, ${column} offset $2)`,
    [site, most],
  );
}

/** Notes on which pages the tag of a site was heard from, and from which origins it may not ask. */
export async function noteTagSeen(site: string, paths: readonly string[], refused: readonly string[]): Promise<void> {
  await note(site, pages, paths);
  await note(site, origins, refused);
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
