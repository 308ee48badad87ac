/** Edits by which the things of a draft (audiences, markers, offers …) and the variants of a slot are added, copied, moved and taken out. */
import type { SiteDraft } from "../formats/site-draft";
import type { Edit, EditPath } from "./edit";

/** The lists of a draft whose items have an id and a name. */
export type ListName =
  | "audiences"
  | "placeLists"
  | "markers"
  | "popups"
  | "offers"
  | "redirects"
  | "goals"
  | "blockTypes"
  | "slots"
  | "library";
/** An item of such a list. */
export type Thing = { id: string; name: string };

/** An id made of a name, that none of `taken` has. At most 64 characters. */
export function freshIdIn(name: string, taken: ReadonlySet<string>, otherwise: string): string {
  const base =
    name
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 48) || otherwise;
  for (let count = 1; ; count++) {
    const id = count === 1 ? base : `${base}-${count}`;
    if (!taken.has(id)) return id;
  }
}

/** An id for a new thing of a list of the draft. */
export const freshThingId = (name: string, list: ListName, draft: SiteDraft): string =>
  freshIdIn(name, new Set((draft[list] as readonly Thing[]).map((item) => item.id)), "new");

/** Whatever a list of the draft holds: it is told apart by its id. */
type Identified = { id: string };

export const insertItem = <T extends Identified>(list: EditPath, item: T, index: number): Edit => ({
  do: "insert",
  list,
  index,
  item: { ...item },
});
export const removeItem = <T extends Identified>(list: EditPath, items: readonly T[], item: T): Edit => ({
  do: "remove",
  list,
  index: items.indexOf(item),
  item: { ...item },
});
export const moveItem = (list: EditPath, items: readonly Thing[], item: Thing, to: number): Edit => ({
  do: "move",
  list,
  id: item.id,
  from: items.indexOf(item),
  to,
});
/** Sets one property of an item; undefined leaves it out. */
export const setItem = <T extends Thing, K extends keyof T & string>(
  list: EditPath,
  item: T,
  key: K,
  after: T[K] | undefined,
): Edit => ({ do: "set", at: [...list, item.id, key], before: item[key], after });
