import { pool, type Queryable } from "./pool";
import { digest, secretName, type SignedIn } from "./people";

/** A session ends after so many hours without use, and after so many days in any case. */
const idleHours = 12;
const mostDays = 14;
/** How long somebody counts as being here after a sign of life. */
const hereSeconds = 35;

/** The channel on which it is announced that something of a site's desk has changed; its payload is the site. */
export const deskChannel = "mirada_desk";

/** Tells everybody who works on a site that something has changed. */
export const announceDesk = (site: string, db: Queryable = pool()): Promise<unknown> =>
  db.query("select pg_notify($1, $2)", [deskChannel, site]);

/** Begins a session. @returns its secret name, for the browser alone */
export async function beginSession(site: string, person: string, browser: string, db: Queryable): Promise<string> {
  const name = secretName();
  await db.query("delete from sessions where site = $1 and expires_at < now()", [site]);
  await db.query(
    `insert into sessions (site, id, person, browser, expires_at)
     values ($1, $2, $3, $4, now() + $5 * interval '1 hour')`,
    [site, digest(name), person, browser.slice(0, 300), idleHours],
  );
  return name;
}

/** Who a session's name belongs to; undefined if it has ended. Using it keeps it open. */
export async function readSession(site: string, name: string): Promise<SignedIn | undefined> {
  const id = digest(name);
  const found = await pool().query<Omit<SignedIn, "site" | "session"> & { stale: boolean }>(
    `select p.id, p.name, p.email, p.roles, s.seen_at < now() - interval '1 minute' as stale
     from sessions s join people p on p.site = s.site and p.id = s.person
     where s.site = $1 and s.id = $2 and s.expires_at > now() and s.began_at > now() - $3 * interval '1 day'
       and p.left_at is null`,
    [site, id, mostDays],
  );
  const row = found.rows[0];
  if (!row) return undefined;
  const { stale, ...person } = row;
  if (stale)
    await pool().query(
      "update sessions set seen_at = now(), expires_at = now() + $3 * interval '1 hour' where site = $1 and id = $2",
      [site, id, idleHours],
    );
  return { ...person, site, session: id };
}

export async function endSession(site: string, id: string, db: Queryable = pool()): Promise<void> {
  await db.query("delete from sessions where site = $1 and id = $2", [site, id]);
  await announceDesk(site, db);
}

/** A session, as its owner and whoever keeps people see it. */
export interface SessionRow {
  id: string;
  person: string;
  beganAt: string;
  seenAt: string;
  browser: string;
}

export async function listSessions(site: string): Promise<SessionRow[]> {
  const found = await pool().query<{ id: string; person: string; began_at: Date; seen_at: Date; browser: string }>(
    "select id, person, began_at, seen_at, browser from sessions where site = $1 and expires_at > now() order by seen_at desc",
    [site],
  );
  return found.rows.map(({ began_at, seen_at, ...row }) => ({
    ...row,
    beganAt: began_at.toISOString(),
    seenAt: seen_at.toISOString(),
  }));
}

/** Somebody who has the workbench open now, and at which screen. */
export interface Present {
  person: string;
  name: string;
  session: string;
  screen: string;
}

/** A sign of life. `screen`: where it is at; undefined: still there. False: the session has ended. */
export async function beHere(site: string, session: string, screen?: string): Promise<boolean> {
  const found = await pool().query<{ changed: boolean }>(
    `with old as (select screen, here_until from sessions where site = $1 and id = $2)
     update sessions set here_until = now() + $4 * interval '1 second', screen = coalesce($3, sessions.screen)
     from old where sessions.site = $1 and sessions.id = $2
     returning old.here_until is null or old.here_until < now() or old.screen <> sessions.screen as changed`,
    [site, session, screen?.slice(0, 200) ?? null, hereSeconds],
  );
  if (found.rows[0]?.changed) await announceDesk(site);
  return found.rows.length > 0;
}

export async function beGone(site: string, session: string): Promise<void> {
  await pool().query("update sessions set here_until = null where site = $1 and id = $2", [site, session]);
  await announceDesk(site);
}

export async function whoIsHere(site: string): Promise<Present[]> {
  return (
    await pool().query<Present>(
      `select s.person, p.name, s.id as session, s.screen from sessions s
       join people p on p.site = s.site and p.id = s.person
       where s.site = $1 and s.here_until > now() order by p.name, s.id`,
      [site],
    )
  ).rows;
}

/** After so many failures within the quarter of an hour, signing in waits. */
const mostFailures = 8;

/** How many seconds are to be waited until one of these (hashed) may try again; 0: now. */
export async function signInWait(site: string, who: readonly string[]): Promise<number> {
  const found = await pool().query<{ wait: number }>(
    `select coalesce(max(extract(epoch from oldest + interval '15 minutes' - now())), 0)::int as wait
     from (select who, min(at) as oldest, count(*) as failures from failed_sign_ins
           where site = $1 and who = any($2) and at > now() - interval '15 minutes' group by who) lately
     where failures >= $3 * case when starts_with(who, 'net:') then 5 else 1 end`,
    [site, who, mostFailures],
  );
  return found.rows[0]?.wait ?? 0;
}

export async function noteFailure(site: string, who: readonly string[]): Promise<void> {
  await pool().query("delete from failed_sign_ins where site = $1 and at < now() - interval '1 day'", [site]);
  await pool().query("insert into failed_sign_ins (site, who) select $1, unnest($2::text[])", [site, who]);
}

export async function forgetFailures(site: string, who: readonly string[]): Promise<void> {
  await pool().query("delete from failed_sign_ins where site = $1 and who = any($2)", [site, who]);
}
