import { allSites, of, type Queryable } from "./pool";
import { digest, secretName } from "./secret-names";

/** What a link to results shows: one slot (or pop-up) and its days, and nothing else of the site. */
export interface ResultLink {
  site: string;
  slot: string;
  /** "": the first that is reached. */
  goal: string;
  /** YYYY-MM-DD */
  from: string;
  /** Null: until the day on which it is looked at. */
  until: string | null;
}

/** A link as it is listed: under what it can be ended, never its name. */
export type ListedLink = Omit<ResultLink, "site" | "goal"> & { id: string; madeBy: string; endsAt: string };

/** Makes a link that is good for so many days. @returns its name (192 random bits): whoever has it may look */
export async function makeResultLink(
  { site, slot, goal, from, until }: ResultLink,
  madeBy: string,
  days: number,
  db: Queryable,
): Promise<string> {
  const name = secretName();
  await db.query(
    `insert into result_links (site, id, slot, goal, first_day, last_day, made_by, ends_at)
     values ($1, $2, $3, $4, $5, $6, $7, now() + $8 * interval '1 day')`,
    [site, digest(name), slot, goal, from, until, madeBy, days],
  );
  return name;
}

/** What the link of a name shows; undefined: there is none, or it has ended. */
export async function readResultLink(name: string): Promise<(ResultLink & { endsAt: string }) | undefined> {
  if (!/^[A-Za-z0-9_-]{32}$/.test(name)) return undefined;
  const found = await of(allSites).query<ResultLink & { ends_at: Date }>(
    `select site, slot, goal, to_char(first_day, 'YYYY-MM-DD') as from, to_char(last_day, 'YYYY-MM-DD') as until, ends_at
     from result_links where id = $1 and ends_at > now()`,
    [digest(name)],
  );
  const row = found.rows[0];
  if (!row) return undefined;
  const { ends_at, ...link } = row;
  return { ...link, endsAt: ends_at.toISOString() };
}

/** The links of a site that are good still, the latest first. */
export async function listResultLinks(site: string): Promise<ListedLink[]> {
  const found = await of(site).query<Omit<ListedLink, "endsAt"> & { ends_at: Date }>(
    `select id, slot, to_char(first_day, 'YYYY-MM-DD') as from, to_char(last_day, 'YYYY-MM-DD') as until,
       made_by as "madeBy", ends_at
     from result_links where site = $1 and ends_at > now() order by made_at desc`,
    [site],
  );
  return found.rows.map(({ ends_at, ...row }) => ({ ...row, endsAt: ends_at.toISOString() }));
}

/** Ends a link at once, and forgets those that have ended by themselves. @returns its slot; undefined: it had ended already */
export async function endResultLink(site: string, id: string, db: Queryable): Promise<string | undefined> {
  const gone = await db.query<{ id: string; slot: string }>(
    "delete from result_links where site = $1 and (id = $2 or ends_at <= now()) returning id, slot",
    [site, id],
  );
  return gone.rows.find((row) => row.id === id)?.slot;
}
