/** Lists of a site that may be long: they are read in parts, and each has a mark by which a change of it is told. */
import { of, type Queryable } from "./pool";

export const listNames = ["pages", "lenses", "links", "checks", "products"] as const;
export type ListName = (typeof listNames)[number];

/** Which part of a list is read: so many at most, after the first so many. Left out: all of it. */
export interface Part {
  from?: number;
  most?: number;
}

/** How a list stands: how many it holds, and a mark that is another one once anything of it has changed. */
export interface ListState {
  count: number;
  mark: string;
}

/** What tells the rows of each list apart. */
const keys: Record<ListName, string> = { pages: "path", lenses: "id", links: "id", checks: "id", products: "sku" };

/** How some lists of a site stand. The rows are marked where they are; none is read. */
async function statesOf(site: string, names: readonly ListName[], db: Queryable): Promise<Map<ListName, ListState>> {
  const each = names.map(
    (name) => `select '${name}' as name, count(*)::integer as count,
      md5(coalesce(string_agg(md5(t::text), '' order by position, ${keys[name]}), '')) as mark
      from ${name} t where site = $1`,
  );
  const found = await db.query<ListState & { name: ListName }>(each.join(" union all "), [site]);
  return new Map(found.rows.map(({ name, ...state }) => [name, state]));
}

export const listState = async (site: string, name: ListName, db: Queryable = of(site)): Promise<ListState> =>
  (await statesOf(site, [name], db)).get(name) as ListState;

/** The marks of all lists of a site. */
export async function listMarks(site: string, db: Queryable = of(site)): Promise<Record<ListName, string>> {
  const found = await statesOf(site, listNames, db);
  return Object.fromEntries([...found].map(([name, { mark }]) => [name, mark])) as Record<ListName, string>;
}
