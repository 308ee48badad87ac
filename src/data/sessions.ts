import type { Account } from "./accounts";
import { allSites, of, pool, transaction, type Queryable } from "./pool";
import { digest, secretName } from "./secret-names";

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

/** Begins a session of an account. @returns its secret name, for the browser alone */
export async function beginSession(account: string, browser: string, db: Queryable): Promise<string> {
  const name = secretName();
  await db.query("delete from sessions where expires_at < now()");
  await db.query(
    "insert into sessions (id, account, browser, expires_at) values ($1, $2, $3, now() + $4 * interval '1 hour')",
    [digest(name), account, browser.slice(0, 300), idleHours],
  );
  return name;
}

/** An account that is signed in, and by which session. */
export interface SignedInAccount extends Account {
  session: string;
}

/** Who a session's name belongs to; undefined if it has ended. Using it keeps it open. */
export async function readSession(name: string): Promise<SignedInAccount | undefined> {
  const id = digest(name);
  const found = await pool().query<Account & { stale: boolean }>(
    `select a.id, a.name, coalesce(a.email, '') as email, a.administrator,
       s.seen_at < now() - interval '1 minute' as stale
     from sessions s join accounts a on a.id = s.account
     where s.id = $1 and s.expires_at > now() and s.began_at > now() - $2 * interval '1 day'`,
    [id, mostDays],
  );
  const row = found.rows[0];
  if (!row) return undefined;
  const { stale, ...account } = row;
  if (stale)
    await pool().query(
      "update sessions set seen_at = now(), expires_at = now() + $2 * interval '1 hour' where id = $1",
      [id, idleHours],
    );
  return { ...account, session: id };
}

export async function endSession(id: string, db: Queryable = pool()): Promise<void> {
  await db.query("delete from sessions where id = $1", [id]);
}

/** Signs an account out everywhere; `but`: except in this session. */
export async function endSessionsOf(account: string, db: Queryable, but = ""): Promise<void> {
  await db.query("delete from sessions where account = $1 and id <> $2", [account, but]);
}

/** A session, as its owner and whoever keeps people see it. */
export interface SessionRow {
  id: string;
  person: string;
  beganAt: string;
  seenAt: string;
  browser: string;
}

/** The open sessions of a site's people. */
export async function listSessions(site: string): Promise<SessionRow[]> {
  const found = await of(site).query<{
    id: string;
    person: string;
    began_at: Date;
    seen_at: Date;
    browser: string;
  }>(
    `select s.id, s.account as person, s.began_at, s.seen_at, s.browser from sessions s
     join people p on p.id = s.account and p.left_at is null
     where p.site = $1 and s.expires_at > now() order by s.seen_at desc`,
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
  const found = await of(site).query<{ changed: boolean }>(
    `with open as (select account from sessions where id = $2 and expires_at > now()),
       old as (select screen, here_until from presence where site = $1 and session = $2),
       here as (
         insert into presence (site, session, account, screen, here_until)
         select $1, $2, account, coalesce($3, ''), now() + $4 * interval '1 second' from open
         on conflict (site, session) do update set here_until = excluded.here_until,
           screen = coalesce($3, presence.screen)
         returning screen)
     select old.here_until is null or old.here_until < now() or old.screen <> here.screen as changed
     from here left join old on true`,
    [site, session, screen?.slice(0, 200) ?? null, hereSeconds],
  );
  if (found.rows[0]?.changed) await announceDesk(site);
  return found.rows.length > 0;
}

export async function beGone(site: string, session: string): Promise<void> {
  await of(site).query("delete from presence where site = $1 and session = $2", [site, session]);
  await announceDesk(site);
}

export async function whoIsHere(site: string): Promise<Present[]> {
  return (
    await of(site).query<Present>(
      `select h.account as person, a.name, h.session, h.screen from presence h join accounts a on a.id = h.account
       where h.site = $1 and h.here_until > now() order by a.name, h.session`,
      [site],
    )
  ).rows;
}

/**
 * Counts a try to sign in, before it is known whether it is a good one, so that of many at once no more get through than one after the
 * other.
 * @param who by what it is counted (hashed); @param most so many within a quarter of an hour are let through
 * @returns how many seconds are to be waited; 0: it may be tried
 */
export const countTry = (who: string, most: number): Promise<number> =>
  transaction(allSites, async (db) => {
    await db.query("select pg_advisory_xact_lock(hashtextextended($1, 0))", [who]);
    await db.query("delete from failed_sign_ins where at < now() - interval '1 day'");
    await db.query("insert into failed_sign_ins (who) values ($1)", [who]);
    const found = await db.query<{ tries: number; wait: number }>(
      `select count(*)::int as tries, greatest(1, extract(epoch from min(at) + interval '15 minutes' - now()))::int as wait
       from failed_sign_ins where who = $1 and at > now() - interval '15 minutes'`,
      [who],
    );
    const row = found.rows[0];
    return row && row.tries > most ? row.wait : 0;
  });

/** Takes the last try back by which nothing was guessed. */
export async function takeTryBack(who: string): Promise<void> {
  await pool().query(
    "delete from failed_sign_ins where ctid = (select ctid from failed_sign_ins where who = $1 order by at desc limit 1)",
    [who],
  );
}

export async function forgetFailures(who: readonly string[]): Promise<void> {
  await pool().query("delete from failed_sign_ins where who = any($1)", [who]);
}
