/** Lists of a site as the workbench gets them: in parts, so that no screen waits for all of a long one. */
import { listChecks } from "@/data/checks";
import { listLenses } from "@/data/lenses";
import { listLinks } from "@/data/links";
import { listState, type ListName } from "@/data/lists";
import { listPages } from "@/data/pages";
import { of, transaction, type Queryable } from "@/data/pool";
import { listProducts } from "@/data/products";
import { announceDesk } from "@/data/sessions";
import { holdSite } from "@/data/sites";

/** So many come with the opening of the workbench, and with each asking after it. */
const [first, further] = [100, 500];

const readers = {
  pages: listPages,
  lenses: listLenses,
  links: listLinks,
  checks: listChecks,
  products: listProducts,
};
/** What each list holds. */
export type Items = { [L in ListName]: Awaited<ReturnType<(typeof readers)[L]>>[number] };

/** A part of a list. */
export interface ListPart<L extends ListName = ListName> {
  items: Items[L][];
  /** The mark of the whole list: parts of different marks do not belong together. */
  mark: string;
  /** After how many the next part begins; null: there is no more. */
  next: number | null;
}

/** The part of a list that begins after so many; the first one, which the workbench opens with, is short. */
export async function readPart<L extends ListName>(site: string, name: L, from: number): Promise<ListPart<L>> {
  const most = from === 0 ? first : further;
  const db = of(site);
  // The mark first: should something change in between, it is another one the next time, and all is read anew.
  const { mark, count } = await listState(site, name, db);
  const items = (await readers[name](site, db, { from, most })) as Items[L][];
  return { items, mark, next: from + most < count ? from + most : null };
}

/** What a change of a list is answered with: only what was kept. Whoever knew the list by its old mark now has it by the new one. */
export interface ListChanged<L extends ListName = ListName> {
  was: string;
  mark: string;
  /** What was kept, as it is now. */
  kept: Items[L][];
}

/** A change of a list, its line in the audit trail and its notice: all or nothing, one after the other on a site. */
export const changeList = <L extends ListName>(
  site: string,
  name: L,
  change: (db: Queryable) => Promise<Items[L][] | undefined>,
): Promise<ListChanged<L>> =>
  transaction(site, async (db) => {
    await holdSite(site, db);
    const was = (await listState(site, name, db)).mark;
    const kept = await change(db);
    await announceDesk(site, db);
    return { was, mark: (await listState(site, name, db)).mark, kept: kept ?? [] };
  });
