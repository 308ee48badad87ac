import { randomBytes } from "node:crypto";
import { allSites, of, type Queryable } from "./pool";
import { announceLive } from "./releases";

/** How a site is served, beside its rules. */
export interface DeliverySettings {
  /** Addresses or CIDR blocks of proxies whose X-Forwarded-For is believed. */
  trustedProxies: string[];
  /** Other hosts, with their ports, that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: string[];
  /** Origins whose pages may ask for decisions by script. */
  origins: string[];
  /** Whether a release needs a second person. */
  secondPerson: boolean;
  /** For how many days events are kept one by one. */
  eventDays: number;
  /** The secret part of the address of the calendar; null: there is none yet. */
  calendarKey: string | null;
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
export async function deliverySettings(site: string, db: Queryable = of(site)): Promise<DeliverySettings> {
  const ask = () =>
    db.query<DeliverySettings>(
      `select trusted_proxies as "trustedProxies", other_hosts as "otherHosts", origins, second_person as "secondPerson",
         event_days as "eventDays", calendar_key as "calendarKey", secret
       from site_delivery where site = $1`,
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
  return found.rows[0] as DeliverySettings;
}

/** The site of which this is the secret part of its calendar's address; undefined: of none. */
export async function siteOfCalendar(key: string): Promise<string | undefined> {
  if (!/^[A-Za-z0-9_-]{20,80}$/.test(key)) return undefined;
  const found = await of(allSites).query<{ site: string }>("select site from site_delivery where calendar_key = $1", [
    key,
  ]);
  return found.rows[0]?.site;
}

/** Sets one of the delivery settings; it holds at once. */
export async function saveDelivery<K extends keyof typeof settingColumns>(
  site: string,
  key: K,
  value: DeliverySettings[K],
  db: Queryable = of(site),
): Promise<void> {
  await deliverySettings(site, db);
  await db.query(`update site_delivery set ${settingColumns[key]} = $2 where site = $1`, [site, value]);
  await announceLive(site, db);
}
const settingColumns = {
  trustedProxies: "trusted_proxies",
  otherHosts: "other_hosts",
  origins: "origins",
  secondPerson: "second_person",
  eventDays: "event_days",
  calendarKey: "calendar_key",
} as const;

export async function listPlaceFiles(site: string, db: Queryable = of(site)): Promise<PlaceFile[]> {
  const found = await db.query<PlaceFile & { addedAt: Date }>(
    `select id, name, format, says, added_at as "addedAt" from place_files where site = $1 order by position, id`,
    [site],
  );
  return found.rows.map((row) => ({ ...row, addedAt: row.addedAt.toISOString() }));
}

/** A file in the form that is ready at once, if it has one, else as it was uploaded. */
export async function placeFileData(
  site: string,
  id: string,
): Promise<{ packed: Buffer; bytes: null } | { packed: null; bytes: Buffer } | undefined> {
  const found = await of(site).query<{ packed: Buffer; bytes: null } | { packed: null; bytes: Buffer }>(
    "select packed, case when packed is null then bytes end as bytes from place_files where site = $1 and id = $2",
    [site, id],
  );
  return found.rows[0];
}
/** Keeps the form that is ready at once of a file that was uploaded before there was one. */
export async function keepPacked(site: string, id: string, packed: Uint8Array): Promise<void> {
  await of(site).query("update place_files set packed = $3 where site = $1 and id = $2", [site, id, packed]);
}

export async function placeFileBytes(site: string, id: string, db: Queryable = of(site)): Promise<Buffer | undefined> {
  return (await db.query<{ bytes: Buffer }>("select bytes from place_files where site = $1 and id = $2", [site, id]))
    .rows[0]?.bytes;
}

/** Adds a file of place data after those that are there. @param file.packed the form that is ready at once, if it has one */
export async function addPlaceFile(
  site: string,
  file: Omit<PlaceFile, "addedAt"> & { packed?: Uint8Array | undefined },
  bytes: Uint8Array,
  db: Queryable = of(site),
): Promise<void> {
  await db.query(
    `insert into place_files (site, id, position, name, format, says, bytes, packed)
     select $1, $2, coalesce(max(position), 0) + 1, $3, $4, $5, $6, $7 from place_files where site = $1`,
    [site, file.id, file.name, file.format, file.says, bytes, file.packed ?? null],
  );
  await announceLive(site, db);
}

export async function deletePlaceFile(site: string, id: string, db: Queryable = of(site)): Promise<void> {
  await db.query("delete from place_files where site = $1 and id = $2", [site, id]);
  await announceLive(site, db);
}
