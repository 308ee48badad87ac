import type { Visit } from "@/core/formats/visit";
import { pool, type Queryable } from "./pool";

/** A page of a site, with what the site tells of it. */
export interface SitePage {
  path: string;
  title: string;
  facts: NonNullable<Visit["page"]>;
}

export async function listPages(site: string): Promise<SitePage[]> {
  return (
    await pool().query<SitePage>("select path, title, facts from pages where site = $1 order by position", [site])
  ).rows;
}

export async function addPages(site: string, pages: readonly SitePage[], db: Queryable): Promise<void> {
  for (const [index, page] of pages.entries())
    await db.query("insert into pages (site, path, position, title, facts) values ($1, $2, $3, $4, $5)", [
      site,
      page.path,
      index,
      page.title,
      JSON.stringify(page.facts),
    ]);
}
