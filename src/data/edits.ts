import type { KeptChange } from "@/core/draft/earlier";
import type { Edit } from "@/core/draft/edit";
import type { Queryable } from "./pool";

/** A change of the draft, in words and as values that can be taken back. */
export interface Change {
  number: number;
  says: string;
  edits: Edit[];
}
interface Row {
  number: string;
  says: string;
  edits: Edit[];
}
const change = (row: Row | undefined): Change | undefined => row && { ...row, number: Number(row.number) };

/** Whether a change of this name was kept already, by this person. */
export async function isKept(site: string, person: string, name: string, db: Queryable): Promise<boolean> {
  const found = await db.query("select 1 from edits where site = $1 and person = $2 and change_name = $3", [
    site,
    person,
    name,
  ]);
  return found.rows.length > 0;
}

/** Keeps a change of somebody's. What they had undone before it can no longer be done again. */
export async function keepChange(
  site: string,
  person: string,
  says: string,
  edits: readonly Edit[],
  db: Queryable,
  name?: string,
): Promise<void> {
  await db.query("delete from edits where site = $1 and person = $2 and undone", [site, person]);
  await db.query("insert into edits (site, person, says, edits, change_name) values ($1, $2, $3, $4, $5)", [
    site,
    person,
    says,
    JSON.stringify(edits),
    name ?? null,
  ]);
}

/** The latest changes that name a thing, newest first, undone ones left out: to find what it was before. */
export async function changesOf(site: string, id: string, db: Queryable): Promise<KeptChange[]> {
  const found = await db.query<Row & { at: Date }>(
    `select at, says, edits from edits where site = $1 and not undone and strpos(edits::text, $2) > 0
     order by number desc limit 300`,
    [site, JSON.stringify(id)],
  );
  return found.rows.map((row) => ({ at: row.at.toISOString(), says: row.says, edits: row.edits }));
}

/** The change that undo would take back: the last that this person made. */
export async function nextUndo(site: string, person: string, db: Queryable): Promise<Change | undefined> {
  const found = await db.query<Row>(
    "select number, says, edits from edits where site = $1 and person = $2 and not undone order by number desc limit 1",
    [site, person],
  );
  return change(found.rows[0]);
}

/** The change that redo would do again: the first that this person took back. */
export async function nextRedo(site: string, person: string, db: Queryable): Promise<Change | undefined> {
  const found = await db.query<Row>(
    "select number, says, edits from edits where site = $1 and person = $2 and undone order by number limit 1",
    [site, person],
  );
  return change(found.rows[0]);
}

export async function markUndone(site: string, number: number, undone: boolean, db: Queryable): Promise<void> {
  await db.query("update edits set undone = $3 where site = $1 and number = $2", [site, number, undone]);
}
