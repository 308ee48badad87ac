import { randomBytes } from "node:crypto";
import type { Visit } from "@/core/formats/visit";
import { allSites, of } from "./pool";

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
  session: string,
  look: Look,
  title: string,
  lasting: number,
): Promise<string> {
  const id = randomBytes(18).toString("base64url");
  await of(site).query(
    `insert into preview_passes (id, site, session, look, title, expires_at)
     values ($1, $2, $3, $4, $5, now() + $6 * interval '1 minute')`,
    [id, site, session, JSON.stringify(look), title, lasting],
  );
  return id;
}

/** What a shared link shows, of whichever site (or of one: `site`); undefined if there is none, or it has expired. */
export async function readShare(id: string, site = allSites): Promise<Share | undefined> {
  if (!/^[A-Za-z0-9_-]{24}$/.test(id)) return undefined;
  const found = await of(site).query<{ site: string; title: string; look: Look; expires_at: Date }>(
    `select site, title, look, expires_at from preview_passes
     where (site = $1 or $1 = '${allSites}') and id = $2 and title is not null and expires_at > now()`,
    [site, id],
  );
  const row = found.rows[0];
  return row && { site: row.site, title: row.title, look: row.look, expiresAt: row.expires_at.toISOString() };
}

/** Ends a shared link at once. */
export async function endShare(site: string, id: string): Promise<void> {
  await of(site).query("delete from preview_passes where site = $1 and id = $2 and title is not null", [site, id]);
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
