import type { Visit } from "@/core/formats/visit";
import type { Part } from "./lists";
import { of, type Queryable } from "./pool";

/** A page of a site, with what the site tells of it. */
export interface SitePage {
  path: string;
  title: string;
  facts: NonNullable<Visit["page"]>;
}

export async function listPages(site: string, db: Queryable = of(site), part: Part = {}): Promise<SitePage[]> {
  const found = await db.query<SitePage>(
    "select path, title, facts from pages where site = $1 order by position, path limit $2 offset $3",
    [site, part.most, part.from],
  );
  return found.rows;
}

/** A page by its path. */
export async function readPage(site: string, path: string, db: Queryable = of(site)): Promise<SitePage | undefined> {
  const found = await db.query<SitePage>("select path, title, facts from pages where site = $1 and path = $2", [
    site,
    path,
  ]);
  return found.rows[0];
}

/** Adds pages after those that are there; known ones stay as they are. */
export async function addPages(site: string, pages: readonly SitePage[], db: Queryable): Promise<void> {
  await db.query(
    `insert into pages (site, path, position, title, facts)
     select $1, item.path, item.number + (select coalesce(max(position), 0) from pages where site = $1), item.title, item.facts
     from jsonb_to_recordset($2::jsonb) as item (path text, number integer, title text, facts jsonb)
     on conflict do nothing`,
    [site, JSON.stringify(pages.map((page, index) => ({ ...page, number: index + 1 })))],
  );
}

export async function removePages(site: string, paths: readonly string[], db: Queryable = of(site)): Promise<void> {
  await db.query("delete from pages where site = $1 and path = any ($2::text[])", [site, paths]);
}

/** Writes title and facts of pages that are known. */
export async function saveFacts(site: string, pages: readonly SitePage[], db: Queryable = of(site)): Promise<void> {
  await db.query(
    `update pages p set title = item.title, facts = item.facts
     from jsonb_to_recordset($2::jsonb) as item (path text, title text, facts jsonb)
     where p.site = $1 and p.path = item.path`,
    [site, JSON.stringify(pages)],
  );
}
