import { randomBytes } from "node:crypto";
import { of, type Queryable } from "./pool";
import { digest } from "./secret-names";
import { announceLive } from "./releases";

/** A key by which pages (public) or servers (secret) ask. Of a secret one only a digest is kept. */
export interface SiteKey {
  id: string;
  kind: "public" | "secret";
  name: string;
  /** The key itself, if it is public. */
  key: string | null;
  madeAt: string;
  endedAt: string | null;
}

const newKey = (site: string, kind: SiteKey["kind"]): string =>
  `${kind === "public" ? "page" : "server"}_${site}_${randomBytes(kind === "public" ? 12 : 30).toString("hex")}`;

/** Makes a key. @returns the key: a secret one can never be shown again */
export async function makeKey(
  site: string,
  kind: SiteKey["kind"],
  name: string,
  by: string,
  db: Queryable,
  key = newKey(site, kind),
): Promise<string> {
  await db.query("insert into site_keys (site, id, kind, name, key, made_by) values ($1, $2, $3, $4, $5, $6)", [
    site,
    `k-${randomBytes(6).toString("hex")}`,
    kind,
    name,
    kind === "public" ? key : digest(key),
    by,
  ]);
  await announceLive(site, db);
  return key;
}

export async function listKeys(site: string, db: Queryable = of(site)): Promise<SiteKey[]> {
  const found = await db.query<Omit<SiteKey, "madeAt" | "endedAt"> & { made_at: Date; ended_at: Date | null }>(
    `select id, kind, name, case kind when 'public' then key end as key, made_at, ended_at from site_keys
     where site = $1 order by made_at, id`,
    [site],
  );
  return found.rows.map(({ made_at, ended_at, ...row }) => ({
    ...row,
    madeAt: made_at.toISOString(),
    endedAt: ended_at?.toISOString() ?? null,
  }));
}

export async function endKey(site: string, id: string, db: Queryable): Promise<void> {
  await db.query("update site_keys set ended_at = now() where site = $1 and id = $2 and ended_at is null", [site, id]);
  await announceLive(site, db);
}

/** The keys that are good: a public one by itself, a secret one by its digest. */
export async function goodKeys(site: string, db: Queryable = of(site)): Promise<Map<string, SiteKey["kind"]>> {
  const found = await db.query<{ key: string; kind: SiteKey["kind"] }>(
    "select key, kind from site_keys where site = $1 and ended_at is null",
    [site],
  );
  return new Map(found.rows.map((row) => [row.key, row.kind]));
}

/** The site that a key names; undefined: it is no key. */
export const siteOfKey = (key: string): string | undefined => /^(?:page|server)_(.+)_[0-9a-f]{24,60}$/.exec(key)?.[1];
