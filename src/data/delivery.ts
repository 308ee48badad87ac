import { randomBytes } from "node:crypto";
import { pool, type Queryable } from "./pool";
import { liveChannel } from "./releases";

/** How a site is served, beside its rules. */
export interface DeliverySettings {
  /** Addresses or CIDR blocks of proxies whose X-Forwarded-For is believed. */
  trustedProxies: string[];
  /** Other hosts, with their ports, that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: string[];
  /** Signs what is kept in visitors' browsers. */
  secret: Buffer;
}

/** A file of place data, without its bytes. */
export interface PlaceFile {
  id: string;
  name: string;
  format: "csv" | "mmdb";
  says: string;
  addedAt: string;
}

/** How a site is served; its secret is made when first asked for. */
export async function deliverySettings(site: string, db: Queryable = pool()): Promise<DeliverySettings> {
  const ask = () =>
    db.query<{ trusted_proxies: string[]; other_hosts: string[]; secret: Buffer }>(
      "select trusted_proxies, other_hosts, secret from site_delivery where site = $1",
      [site],
    );
  let found = await ask();
  if (found.rows.length === 0) {
    await db.query("insert into site_delivery (site, secret) values ($1, $2) on conflict do nothing", [
      site,
      randomBytes(32),
    ]);
    found = await ask();
  }
  const row = found.rows[0] as { trusted_proxies: string[]; other_hosts: string[]; secret: Buffer };
  return { trustedProxies: row.trusted_proxies, otherHosts: row.other_hosts, secret: row.secret };
}

/** Tells every process that serves the site to read anew what it keeps of it. */
const announce = (site: string, db: Queryable) => db.query("select pg_notify($1, $2)", [liveChannel, site]);

export async function saveTrustedProxies(site: string, blocks: readonly string[]): Promise<void> {
  await deliverySettings(site);
  await pool().query("update site_delivery set trusted_proxies = $2 where site = $1", [site, blocks]);
  await announce(site, pool());
}

export async function saveOtherHosts(site: string, hosts: readonly string[], db: Queryable = pool()): Promise<void> {
  await deliverySettings(site, db);
  await db.query("update site_delivery set other_hosts = $2 where site = $1", [site, hosts]);
  await announce(site, db);
}

export async function listPlaceFiles(site: string, db: Queryable = pool()): Promise<PlaceFile[]> {
  const found = await db.query<PlaceFile & { addedAt: Date }>(
    `select id, name, format, says, added_at as "addedAt" from place_files where site = $1 order by position, id`,
    [site],
  );
  return found.rows.map((row) => ({ ...row, addedAt: row.addedAt.toISOString() }));
}

export async function placeFileBytes(site: string, id: string, db: Queryable = pool()): Promise<Buffer | undefined> {
  return (await db.query<{ bytes: Buffer }>("select bytes from place_files where site = $1 and id = $2", [site, id]))
    .rows[0]?.bytes;
}

/** Adds a file of place data after those that are there. */
export async function addPlaceFile(
  site: string,
  file: Omit<PlaceFile, "addedAt">,
  bytes: Uint8Array,
  db: Queryable = pool(),
): Promise<void> {
  await db.query(
    `insert into place_files (site, id, position, name, format, says, bytes)
     select $1, $2, coalesce(max(position), 0) + 1, $3, $4, $5, $6 from place_files where site = $1`,
    [site, file.id, file.name, file.format, file.says, bytes],
  );
  await announce(site, db);
}

export async function deletePlaceFile(site: string, id: string): Promise<void> {
  await pool().query("delete from place_files where site = $1 and id = $2", [site, id]);
  await announce(site, pool());
}
