import { randomBytes } from "node:crypto";
import type { Visit } from "@/core/formats/visit";
import { allSites, of, type Queryable } from "./pool";

/** Which rules a look is under: the draft's, those of what is live, of a release, or of what was asked to go live. */
export type LookSource = "draft" | "live" | `release ${number}` | `review ${number}`;

/** What a preview pass lets be seen: a visit, under the draft or what is live, with variants pinned. */
export interface Look {
  visit: Visit;
  source: LookSource;
  /** Variants pinned, as the engine takes them. */
  pins: Record<string, string | null>;
  /** A pop-up that opens at once, whatever the rules say; null: none opens. */
  popup?: string | null | undefined;
  /** Shown just as the visitor gets it: empty places take no room. */
  plain?: boolean | undefined;
}

/** How long a pass is good for. A lens in use asks for new ones. */
const minutes = 30;

/** Makes a pass: an unguessable name (144 random bits) for a look, bound to a session and short-lived. */
export async function makePass(site: string, session: string, look: Look): Promise<string> {
  const id = randomBytes(18).toString("base64url");
  await of(site).query(
    `with gone as (delete from preview_passes where expires_at < now())
     insert into preview_passes (id, site, session, look, expires_at) values ($1, $2, $3, $4, now() + $5 * interval '1 minute')`,
    [id, site, session, JSON.stringify(look), minutes],
  );
  return id;
}

/** What a shared link shows. */
export interface Share {
  site: string;
  title: string;
  look: Look;
  expiresAt: string;
}

/** Shares a look by link for so many minutes: whoever has its name (144 random bits) sees it, and can change nothing. */
export async function makeShare(
  site: string,
  { session, madeBy }: { session: string; madeBy: string },
  look: Look,
  title: string,
  lasting: number,
  db: Queryable = of(site),
): Promise<string> {
  const id = randomBytes(18).toString("base64url");
  await db.query(
    `insert into preview_passes (id, site, session, look, title, made_by, expires_at)
     values ($1, $2, $3, $4, $5, $6, now() + $7 * interval '1 minute')`,
    [id, site, session, JSON.stringify(look), title, madeBy, lasting],
  );
  return id;
}

/** A shared link as it is listed. */
export interface ListedShare {
  id: string;
  title: string;
  /** Who made it; "" where that is not known any more. */
  by: string;
  expiresAt: string;
}

/** A link ends with whoever made it: once they are none of the site's people any more. */
const stillHere = `(p.made_by is null or exists (
    select from accounts a where a.id = p.made_by and (a.administrator
      or exists (select from people w where w.site = p.site and w.id = a.id and w.left_at is null))))`;

/** The shared links of a site that are open, the next to end first. */
export async function listShares(site: string): Promise<ListedShare[]> {
  const found = await of(site).query<{ id: string; title: string; by: string | null; expires_at: Date }>(
    `select p.id, p.title, (select name from accounts where id = p.made_by) as by, p.expires_at from preview_passes p
     where p.site = $1 and p.title is not null and p.expires_at > now() and ${stillHere} order by p.expires_at, p.id`,
    [site],
  );
  return found.rows.map(({ id, title, by, expires_at: at }) => ({
    id,
    title,
    by: by ?? "",
    expiresAt: at.toISOString(),
  }));
}

/** What a shared link shows, of whichever site (or of one: `site`); undefined if there is none, or it has expired. */
export async function readShare(id: string, site = allSites): Promise<Share | undefined> {
  if (!/^[A-Za-z0-9_-]{24}$/.test(id)) return undefined;
  const found = await of(site).query<{ site: string; title: string; look: Look; expires_at: Date }>(
    `select p.site, p.title, p.look, p.expires_at from preview_passes p
     where (p.site = $1 or $1 = '${allSites}') and p.id = $2 and p.title is not null and p.expires_at > now() and ${stillHere}`,
    [site, id],
  );
  const row = found.rows[0];
  return row && { site: row.site, title: row.title, look: row.look, expiresAt: row.expires_at.toISOString() };
}

/** Ends a shared link at once. @returns what it was called; undefined: there was none */
export async function endShare(site: string, id: string, db: Queryable = of(site)): Promise<string | undefined> {
  const gone = await db.query<{ title: string }>(
    "delete from preview_passes where site = $1 and id = $2 and title is not null returning title",
    [site, id],
  );
  return gone.rows[0]?.title;
}

/** The look of a pass; undefined if there is none, it has expired, it is for another site, or its session has ended. */
export async function readPass(site: string, id: string): Promise<Look | undefined> {
  if (!/^[A-Za-z0-9_-]{24}$/.test(id)) return undefined;
  const found = await of(site).query<{ look: Look }>(
    `select p.look from preview_passes p join sessions s on s.id = p.session
       join accounts a on a.id = s.account
     where p.site = $1 and p.id = $2 and p.expires_at > now() and s.expires_at > now()
       and (a.administrator or exists (select from people w where w.site = p.site and w.id = a.id and w.left_at is null))`,
    [site, id],
  );
  return found.rows[0]?.look;
}
