import type { Lens } from "@/core/formats/lens";
import type { Part } from "./lists";
import { of, type Queryable } from "./pool";

export type { Lens };

export async function listLenses(site: string, db: Queryable = of(site), part: Part = {}): Promise<Lens[]> {
  const found = await db.query<Lens>(
    "select id, name, visit, steps from lenses where site = $1 order by position, id limit $2 offset $3",
    [site, part.most, part.from],
  );
  return found.rows;
}

export async function readLens(site: string, id: string, db: Queryable = of(site)): Promise<Lens | undefined> {
  const found = await db.query<Lens>("select id, name, visit, steps from lenses where site = $1 and id = $2", [
    site,
    id,
  ]);
  return found.rows[0];
}

/** Adds a lens at the end, or replaces the one with its id. */
export async function saveLens(site: string, lens: Lens, db: Queryable = of(site)): Promise<void> {
  await db.query(
    `insert into lenses (site, id, position, name, visit, steps)
     select $1, $2, coalesce(max(position), 0) + 1, $3, $4, $5 from lenses where site = $1
     on conflict (site, id) do update set name = excluded.name, visit = excluded.visit,
       steps = excluded.steps`,
    [site, lens.id, lens.name, JSON.stringify(lens.visit), JSON.stringify(lens.steps)],
  );
}

export async function deleteLens(site: string, id: string, db: Queryable = of(site)): Promise<void> {
  await db.query("delete from lenses where site = $1 and id = $2", [site, id]);
}
