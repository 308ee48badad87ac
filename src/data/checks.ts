import { checkSchema, type Check } from "@/core/formats/check";
import type { Part } from "./lists";
import { of, type Queryable } from "./pool";

export async function listChecks(site: string, db: Queryable = of(site), part: Part = {}): Promise<Check[]> {
  const found = await db.query<{ body: unknown }>(
    "select body from checks where site = $1 order by position, id limit $2 offset $3",
    [site, part.most, part.from],
  );
  return found.rows.flatMap(({ body }) => {
    const read = checkSchema.safeParse(body);
    return read.success ? [read.data] : [];
  });
}

/** Adds checks at the end; one whose id is there already is replaced. */
export async function saveChecks(site: string, checks: readonly Check[], db: Queryable = of(site)): Promise<void> {
  for (const check of checks)
    await db.query(
      `insert into checks (site, id, position, body)
       select $1, $2, coalesce(max(position), 0) + 1, $3 from checks where site = $1
       on conflict (site, id) do update set body = excluded.body`,
      [site, check.id, JSON.stringify(check)],
    );
}

export async function deleteCheck(site: string, id: string, db: Queryable = of(site)): Promise<void> {
  await db.query("delete from checks where site = $1 and id = $2", [site, id]);
}
