import { randomBytes } from "node:crypto";
import type { Visit } from "@/core/formats/visit";
import { pool } from "./pool";

/** What a preview pass lets be seen: a visit, under the draft or what is live, with variants pinned. */
export interface Look {
  visit: Visit;
  source: "draft" | "live";
  /** Variants pinned, as the engine takes them. */
  pins: Record<string, string | null>;
  /** A pop-up that opens at once, whatever the rules say. */
  popup?: string | undefined;
}

/** How long a pass is good for. A lens in use asks for new ones. */
const minutes = 30;

/** Makes a pass: an unguessable name (144 random bits) for a look, bound to a session and short-lived. */
export async function makePass(site: string, session: string, look: Look): Promise<string> {
  const id = randomBytes(18).toString("base64url");
  await pool().query(
    `with gone as (delete from preview_passes where expires_at < now())
     insert into preview_passes (id, site, session, look, expires_at) values ($1, $2, $3, $4, now() + $5 * interval '1 minute')`,
    [id, site, session, JSON.stringify(look), minutes],
  );
  return id;
}

/** The look of a pass; undefined if there is none, it has expired, or it is for another site. */
export async function readPass(site: string, id: string): Promise<Look | undefined> {
  if (!/^[A-Za-z0-9_-]{24}$/.test(id)) return undefined;
  const found = await pool().query<{ look: Look }>(
    "select look from preview_passes where id = $1 and site = $2 and expires_at > now()",
    [id, site],
  );
  return found.rows[0]?.look;
}
