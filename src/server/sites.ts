import { t } from "@/core/messages/t";
import { urlOf } from "@/core/text/is-url";
import * as z from "zod";
import { copiedDraft, idOfName, movedCheck, movedLens, newDraft } from "@/core/draft/new-site";
import { siteSchema } from "@/core/formats/ruleset";
import { roles } from "@/core/people/roles";
import { originProblem } from "@/core/formats/origin";
import { listAccounts, type Account } from "@/data/accounts";
import { tell } from "@/data/audit";
import { listChecks, saveChecks } from "@/data/checks";
import { saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { listLenses, saveLens } from "@/data/lenses";
import { listLinks, saveLinks } from "@/data/links";
import { addPages, listPages } from "@/data/pages";
import { addPerson, type SignedIn } from "@/data/people";
import { allSites, longTransaction, transaction, type Queryable } from "@/data/pool";
import { announceLive } from "@/data/releases";
import { announceDesk } from "@/data/sessions";
import {
  deleteSite,
  listSites,
  readSite,
  setArchived,
  setOrigins,
  takenOrigins,
  type LookedBy,
  type SiteRow,
} from "@/data/sites";
import { nowText } from "@/clock";
import { Refusal } from "./act";

const line = z.string().max(300);
/** What a site is made of, as it is typed. */
export const newSiteSchema = z.strictObject({
  name: z.string().max(80),
  /** As it stands in addresses; empty: made from the name. */
  id: z.string().max(64),
  /** `https://www.example.com` */
  origin: line,
  zone: line,
  currency: line,
  language: line,
  /** Another site as its start; empty: none. */
  copyOf: z.string().max(64),
});
export type NewSite = z.output<typeof newSiteSchema>;
export type NewSiteField = keyof NewSite;

/** What became of it: a problem is said at the field where it was made. */
export type SiteMade = { ok: true; site: string } | { ok: false; field: NewSiteField; problem: string };

const wrong = (field: NewSiteField, problem: string): SiteMade => ({ ok: false, field, problem });

/** Ids that stand for something else in addresses. */
const reserved = ["new", "all"];

/** Whether an origin that browsers write with a path after it was meant: https://www.example.com/ is taken, too. */
const tidied = (origin: string): string => {
  const text = origin.trim();
  const url = urlOf(text);
  return url && /^https?:$/.test(url.protocol) && url.pathname === "/" && url.search === "" && url.hash === ""
    ? url.origin
    : text;
};

/** Makes a site, with whoever makes it as the first of its people, in every role. */
export function makeSite(account: { id: string; name: string }, input: NewSite): Promise<SiteMade> {
  return longTransaction(allSites, (db) => makeSiteIn(account, input, db));
}

/** The same within a transaction that is under way. */
export async function makeSiteIn(
  account: { id: string; name: string },
  input: NewSite,
  db: Queryable,
): Promise<SiteMade> {
  const name = input.name.trim();
  if (name === "") return wrong("name", t("Please give the site a name."));
  const id = input.id.trim() || idOfName(name);
  if (!/^[a-z0-9][a-z0-9_-]{0,39}$/.test(id) || reserved.includes(id))
    return wrong("id", t("Small letters, digits, _ and -, 40 at most; it begins with a letter or digit."));
  const origin = tidied(input.origin);
  const odd = originProblem(origin);
  if (odd) return wrong("origin", odd);
  const read = siteSchema.safeParse({
    id,
    name,
    origin,
    zone: input.zone,
    currency: input.currency,
    language: input.language,
  });
  if (!read.success) {
    const [issue] = read.error.issues;
    return wrong(issue?.path[0] as NewSiteField, issue?.message ?? t("is not right"));
  }
  if (await readSite(id, db)) return wrong("id", t("There is a site {id} already.", { id }));
  const [taken] = await takenOrigins(id, [origin], db);
  if (taken) return wrong("origin", t("{origin} belongs to another site here already.", { origin }));
  const from = input.copyOf ? await loadDraft(input.copyOf, db) : undefined;
  if (input.copyOf && !from) return wrong("copyOf", t("There is no such site."));
  await createSite(from ? copiedDraft(read.data, from.ruleset) : newDraft(read.data), db);
  await setOrigins(id, [origin], null, db);
  await addPerson(id, account.id, roles, db);
  // There is nobody yet who could approve what its maker asks for: People has the switch.
  await saveDelivery(id, "secondPerson", false, db);
  if (from) {
    const old = from.ruleset.site.origin;
    await addPages(id, await listPages(input.copyOf, db), db);
    for (const lens of await listLenses(input.copyOf, db)) await saveLens(id, movedLens(lens, old, origin), db);
    const checks = await listChecks(input.copyOf, db);
    await saveChecks(
      id,
      checks.map((check) => movedCheck(check, old, origin)),
      db,
    );
    await saveLinks(id, await listLinks(input.copyOf, db), db);
  } else {
    await addPages(id, [{ path: "/", title: t("Home page"), facts: {} }], db);
    // Whoever looks first sees what most visitors get: nothing is remembered of them.
    const visit = { at: nowText(), url: `${origin}/`, consent: false };
    await saveLens(id, { id: "first-visit", name: t("A first-time visitor"), visit, steps: [] }, db);
  }
  const says = from
    ? t("{name} was made, as a copy of {site}", { name, site: from.ruleset.site.name })
    : t("{name} was made", { name });
  await tell(id, account.id, { kind: "settings", says }, db);
  return { ok: true, site: id };
}

/** What the list of sites shows. */
export interface SitesNow {
  sites: SiteRow[];
  /** Everybody with an account; for an administrator alone. */
  accounts: Account[];
}

/** The sites that somebody may work on. */
export const sitesOf = ({ id, administrator }: Pick<Account, "id" | "administrator">): Promise<SiteRow[]> =>
  listSites(administrator ? undefined : id);

export async function sitesNow(who: Pick<Account, "id" | "administrator">): Promise<SitesNow> {
  const [sites, accounts] = await Promise.all([sitesOf(who), who.administrator ? listAccounts() : []]);
  return { sites, accounts };
}

/** Where a site is found, and at which of its origins its pages are looked at. */
export interface Hosts {
  /** The others, beside the canonical one, which is a setting of the draft. */
  others: string[];
  lookedAt: string | null;
  lookedBy?: LookedBy | undefined;
}

/** Sets the other origins of a site. A problem in words, or nothing. */
export async function setHosts(who: SignedIn, { others, lookedAt, lookedBy }: Hosts): Promise<string | undefined> {
  for (const origin of others) {
    const problem = originProblem(origin);
    if (problem) return `${origin}: ${problem}`;
  }
  return transaction(allSites, async (db) => {
    const before = await readSite(who.site, db);
    if (!before) return t("There is no such site.");
    const canonical = before.origins[0] ?? before.origin;
    const origins = [...new Set([canonical, ...others])];
    if (lookedAt !== null && !origins.includes(lookedAt))
      return t("{lookedAt} is none of the site’s addresses.", { lookedAt });
    const [taken] = await takenOrigins(who.site, origins, db);
    if (taken) return t("{origin} belongs to another site here already.", { origin: taken.origin });
    await setOrigins(who.site, origins, lookedAt === canonical ? null : lookedAt, db, lookedBy);
    await tell(
      who.site,
      who.id,
      {
        kind: "settings",
        says: t("The site’s addresses are others"),
        before: { origins: before.origins, lookedAt: before.lookedAt, lookedBy: before.lookedBy },
        after: { origins, lookedAt, lookedBy: lookedBy ?? before.lookedBy },
      },
      db,
    );
    await announceLive(who.site, db);
    await announceDesk(who.site, db);
    return undefined;
  });
}

/**
 * The canonical origin of a draft has changed: the site's list of hosts follows, within the caller's transaction.
 * @returns a problem in words: another site has it
 */
export async function followOrigin(site: string, origin: string, db: Queryable): Promise<string | undefined> {
  const row = await readSite(site, db);
  if (!row || row.origins[0] === origin) return undefined;
  // Over the connections of one site no other's hosts hide: the list of hosts is the installation's.
  const [taken] = await takenOrigins(site, [origin], db);
  if (taken) return t("{origin} belongs to another site here already.", { origin });
  const others = row.origins.slice(1).filter((item) => item !== origin);
  await setOrigins(site, [origin, ...others], row.lookedAt === origin ? null : row.lookedAt, db);
  return undefined;
}

async function existing(site: string, db: Queryable): Promise<SiteRow> {
  const row = await readSite(site, db);
  if (!row) throw new Refusal(404, t("There is no such site."));
  return row;
}

/** Lays a site aside, or takes it up again: visitors of one that is laid aside get their pages' own content. */
export const archiveSite = (account: { id: string }, site: string, archived: boolean): Promise<void> =>
  transaction(allSites, async (db) => {
    const { name } = await existing(site, db);
    await setArchived(site, archived, db);
    await tell(
      site,
      account.id,
      {
        kind: "settings",
        says: archived ? t("{name} was archived", { name }) : t("{name} is worked on again", { name }),
      },
      db,
    );
    await announceLive(site, db);
    await announceDesk(site, db);
  });

/** Deletes a site that is archived. `name`: the site's name, typed once more. A problem in words, or nothing. */
export const removeSite = (site: string, name: string): Promise<string | undefined> =>
  longTransaction(allSites, async (db) => {
    const row = await existing(site, db);
    if (!row.archivedAt) return t("Only a site that is archived can be deleted: archive it first.");
    if (name.trim() !== row.name) return t("This is not its name: type {row}.", { row: row.name });
    await deleteSite(site, db);
    await announceLive(site, db);
    return undefined;
  });
