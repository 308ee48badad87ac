import type { Part } from "./lists";
import { of, type Queryable } from "./pool";

/** Something that a site sells. */
export interface SiteProduct {
  sku: string;
  name: string;
  category: string;
  /** Minor units of the site's currency. */
  unitPrice: number;
}

export async function listProducts(site: string, db: Queryable = of(site), part: Part = {}): Promise<SiteProduct[]> {
  const found = await db.query<SiteProduct & { unitPrice: string }>(
    `select sku, name, category, unit_price as "unitPrice" from products where site = $1
     order by position, sku limit $2 offset $3`,
    [site, part.most, part.from],
  );
  return found.rows.map((row) => ({ ...row, unitPrice: Number(row.unitPrice) }));
}

export async function addProducts(site: string, products: readonly SiteProduct[], db: Queryable): Promise<void> {
  for (const [index, item] of products.entries())
    await db.query(
      `insert into products (site, sku, position, name, category, unit_price) values ($1, $2, $3, $4, $5, $6)
       on conflict (site, sku) do update set position = excluded.position, name = excluded.name,
         category = excluded.category, unit_price = excluded.unit_price`,
      [site, item.sku, index, item.name, item.category, item.unitPrice],
    );
}
