/** Whoever asks says who they are by a key: a server by a secret one, a page by a public one and its origin. */
import type { FastifyReply, FastifyRequest } from "fastify";
import { deliverySettings } from "@/data/delivery";
import { goodKeys, siteOfKey } from "@/data/keys";
import { digest } from "@/data/secret-names";
import { readSite } from "@/data/sites";
import { refusedTo } from "../heard";
import { liveRulesets, type Live } from "../live";
import { problem } from "./problem";

interface Claim {
  site: string;
  digest: string;
  /** How often it was asked by it in the second that began then, by the process's own clock. */
  asked: number;
  since: number;
}
/** So often is answered by one key, unless it is told otherwise: a choice. */
const perSecond = Number(process.env.MIRADA_PER_KEY) || 20_000;

/** Whether a key is used more often than that; each call counts. */
function isTooMuch(claim: Claim): boolean {
  const now = performance.now();
  if (now - claim.since >= 1000) Object.assign(claim, { asked: 0, since: now });
  claim.asked += 1;
  return claim.asked > perSecond;
}

/** What the authorizations met last claim: working a digest out for each request costs as much as the answer. */
const claims = new Map<string, Claim>();
/** The site of a secret key, and the key's digest: not yet whether the key is good. */
export function claimOf(authorization: string): Claim | undefined {
  const known = claims.get(authorization);
  if (known) return known;
  const key = /^Bearer (server_\S{1,200})$/i.exec(authorization)?.[1];
  const site = key && siteOfKey(key);
  if (!key || site === undefined) return undefined;
  if (claims.size >= 1000) claims.clear();
  const claim = { site, digest: digest(key), asked: 0, since: 0 };
  claims.set(authorization, claim);
  return claim;
}

/** What may be asked of a site by public keys. */
type Grants = Pick<Live, "keys" | "origins">;

export const siteOfPublicKey = (key: string): string | undefined =>
  key.startsWith("page_") ? siteOfKey(key) : undefined;

/** Whether a public key is good and the origin may ask: only then can its page read the answer. Else it has been answered so. */
async function mayAsk(key: string, grants: Grants | undefined, request: FastifyRequest, reply: FastifyReply) {
  if (grants?.keys.get(key) !== "public") {
    await problem(reply, 401, "This key is not good");
    return false;
  }
  const { origin } = request.headers;
  if (origin === undefined || !grants.origins.has(origin)) {
    const site = siteOfPublicKey(key);
    if (site !== undefined && origin !== undefined) refusedTo(site, origin);
    await problem(reply, 403, "This origin may not ask", "A developer of the site allows it under Settings, Connect.");
    return false;
  }
  reply.header("access-control-allow-origin", origin);
  return true;
}

/** The live ruleset of the site that a public key names; undefined once it has been answered that there is none. */
export async function byPublicKey(
  key: string,
  request: FastifyRequest,
  reply: FastifyReply,
): Promise<Live | undefined> {
  const site = siteOfPublicKey(key);
  const live = site === undefined ? undefined : await liveRulesets().get(site);
  return (await mayAsk(key, live, request, reply)) ? live : undefined;
}

/** The site that a public key names, also while nothing of it is live: its pages are looked at before they are served. */
export async function siteByPublicKey(
  key: string,
  request: FastifyRequest,
  reply: FastifyReply,
): Promise<string | undefined> {
  const site = siteOfPublicKey(key);
  const grants = site === undefined ? undefined : ((await liveRulesets().get(site)) ?? (await grantsOf(site)));
  return (await mayAsk(key, grants, request, reply)) ? site : undefined;
}

/** How long it is believed what may be asked of a site of which nothing is live, in milliseconds: its visitors ask already. */
const believed = 2000;
const mostKept = 1000;
const kept = new Map<string, { grants: Promise<Grants>; until: number }>();
/** The same of a site of which nothing is live. */
function grantsOf(site: string): Promise<Grants> {
  const known = kept.get(site);
  if (known && known.until > performance.now()) return known.grants;
  const read = async (): Promise<Grants> => {
    // Anybody can make a key up that names a site.
    const row = await readSite(site);
    if (!row) return { keys: new Map(), origins: new Set() };
    const [keys, { origins }] = await Promise.all([goodKeys(site), deliverySettings(site)]);
    return { keys, origins: new Set([...origins, ...row.origins]) };
  };
  const grants = read();
  grants.catch(() => kept.delete(site));
  if (kept.size >= mostKept) kept.clear();
  kept.set(site, { grants, until: performance.now() + believed });
  return grants;
}

/** The live ruleset of the site that a secret key names; undefined once it has been answered that there is none. */
export async function byServerKey(request: FastifyRequest, reply: FastifyReply): Promise<Live | undefined> {
  const claim = claimOf(request.headers.authorization ?? "");
  const live = claim && (liveRulesets().peek(claim.site) ?? (await liveRulesets().get(claim.site)));
  if (claim && live?.keys.get(claim.digest) === "secret") {
    if (!isTooMuch(claim)) return live;
    reply.header("retry-after", "1");
    await problem(reply, 429, "Too many requests", `By one key ${perSecond} a second are answered by one process.`);
    return undefined;
  }
  reply.header("www-authenticate", "Bearer");
  await problem(reply, 401, "A secret key of the site is needed", "Send it as: Authorization: Bearer server_…");
  return undefined;
}
