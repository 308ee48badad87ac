import type { CampaignLink } from "@/core/campaigns/link";
import type { Part } from "./lists";
import { of, transaction, type Queryable } from "./pool";

export async function listLinks(site: string, db: Queryable = of(site), part: Part = {}): Promise<CampaignLink[]> {
  const found = await db.query<CampaignLink>(
    `select id, name, path, tags, part, note, used_by as "usedBy" from links where site = $1
     order by position, id limit $2 offset $3`,
    [site, part.most, part.from],
  );
  return found.rows;
}

/** Keeps links, all or none: known ones are replaced where they stand, new ones come after. */
export async function saveLinks(site: string, links: readonly CampaignLink[], db?: Queryable): Promise<void> {
  const save = async (to: Queryable) => {
    for (const link of links)
      await to.query(
        `insert into links (site, id, position, name, path, tags, part, note, used_by)
         select $1, $2, coalesce(max(position), 0) + 1, $3, $4, $5, $6, $7, $8 from links where site = $1
         on conflict (site, id) do update set name = excluded.name, path = excluded.path, tags = excluded.tags,
           part = excluded.part, note = excluded.note, used_by = excluded.used_by`,
        [site, link.id, link.name, link.path, JSON.stringify(link.tags), link.part, link.note, link.usedBy],
      );
  };
  await (db ? save(db) : transaction(site, save));
}

export async function deleteLink(site: string, id: string, db: Queryable = of(site)): Promise<void> {
  await db.query("delete from links where site = $1 and id = $2", [site, id]);
}
