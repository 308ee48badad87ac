import { randomBytes } from "node:crypto";
import { allSites, of } from "./pool";

/** For whom a mirror is open: a session of the workbench, or whoever has a shared link. */
export type MirrorFor = { session: string } | { share: string };

/** How long a mirror is open after it was asked for, in hours; asking again keeps it open. */
const hours = 12;
const letters = "abcdefghijklmnopqrstuvwxyz234567";
/** An unguessable name that may stand in a host (RFC 1035): 120 random bits. */
const freshName = (): string => [...randomBytes(24)].map((byte) => letters[byte % 32]).join("");

/** Opens the mirror of a site, or keeps it open. @returns the first label of its hosts */
export async function openMirror(site: string, who: MirrorFor): Promise<string> {
  const [column, value] = "session" in who ? ["session", who.session] : ["share", who.share];
  const found = await of(site).query<{ id: string }>(
    `with gone as (delete from mirrors where site = $1 and expires_at < now())
     insert into mirrors (site, id, ${column}, expires_at) values ($1, $2, $3, now() + $4 * interval '1 hour')
     on conflict (site, ${column}) where ${column} is not null do update set expires_at = excluded.expires_at
     returning id`,
    [site, freshName(), value, hours],
  );
  return found.rows[0]?.id as string;
}

/** The site of a mirror; undefined if there is none, it has ended, or its session or shared link has. */
export async function readMirror(id: string): Promise<string | undefined> {
  const found = await of(allSites).query<{ site: string }>(
    `select m.site from mirrors m
       left join sessions s on s.id = m.session and s.expires_at > now()
       left join accounts a on a.id = s.account
     where m.id = $1 and m.expires_at > now() and (
       a.administrator
       or exists (select from people w where w.site = m.site and w.id = a.id and w.left_at is null)
       or exists (select from preview_passes p where p.site = m.site and p.id = m.share and p.title is not null and p.expires_at > now()))`,
    [id],
  );
  return found.rows[0]?.site;
}
