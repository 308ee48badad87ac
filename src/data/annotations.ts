import { randomUUID } from "node:crypto";
import { of, type Queryable } from "./pool";

/** What happened on a day of the site's calendar, in words. */
export interface Annotation {
  id: string;
  /** YYYY-MM-DD */
  day: string;
  says: string;
  /** The id of whoever wrote it. */
  madeBy: string;
}

/** Annotations of the days from one until another, oldest first. */
export async function readAnnotations(site: string, from: string, until: string): Promise<Annotation[]> {
  const found = await of(site).query<Annotation>(
    `select id, to_char(day, 'YYYY-MM-DD') as day, says, made_by as "madeBy" from annotations
     where site = $1 and day between $2 and $3 order by day, made_at`,
    [site, from, until],
  );
  return found.rows;
}

export async function annotate(
  site: string,
  { day, says, madeBy }: Omit<Annotation, "id">,
  db: Queryable,
): Promise<void> {
  await db.query("insert into annotations (site, id, day, says, made_by) values ($1, $2, $3, $4, $5)", [
    site,
    randomUUID(),
    day,
    says,
    madeBy,
  ]);
}

/** Takes one out. @returns what it was; undefined: it is gone already */
export async function dropAnnotation(
  site: string,
  id: string,
  db: Queryable,
): Promise<Pick<Annotation, "day" | "says"> | undefined> {
  const gone = await db.query<Pick<Annotation, "day" | "says">>(
    "delete from annotations where site = $1 and id = $2 returning to_char(day, 'YYYY-MM-DD') as day, says",
    [site, id],
  );
  return gone.rows[0];
}
