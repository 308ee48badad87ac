/** Edits of several things at once: variants and things of lists are switched and taken out, variants taken to another slot of the site. */
import type { Slot, Variant } from "../formats/ruleset";
import type { SiteDraft } from "../formats/site-draft";
import { applyEdits, type Edit } from "./edit";
import { usesOf, type Used } from "../ruleset/uses";
import { insertItem, removeItem, setItem, type ListName, type Thing } from "./lists";
import { copiedPicks, freshId, hasPlaceFor, remove, set } from "./variants";

/** A variant by its id, and the slot that it is in. */
export interface InSlot {
  slot: string;
  variant: string;
}

/** What taking variants to another slot comes to. */
export interface Taken {
  edits: Edit[];
  /** The ids that they have in the slot. */
  ids: string[];
  /** Those that stay where they are: what they show has no place in that slot. */
  left: Variant[];
}

function each(draft: SiteDraft, chosen: readonly InSlot[]): { slot: Slot; variant: Variant }[] {
  return chosen.flatMap((one) => {
    const slot = draft.slots.find(({ id }) => id === one.slot);
    const variant = slot?.variants.find(({ id }) => id === one.variant);
    return slot && variant ? [{ slot, variant }] : [];
  });
}

/** Makes edits one after the other, each on what those before it left. */
function inTurn(draft: SiteDraft, chosen: readonly InSlot[], make: (now: SiteDraft, one: InSlot) => Edit[]): Edit[] {
  let now = draft;
  const out: Edit[] = [];
  for (const one of chosen) {
    const edits = make(now, one);
    const applied = applyEdits(now, edits);
    if (!applied.ok) continue;
    now = applied.value;
    out.push(...edits);
  }
  return out;
}

/** Switches variants on or off; those that are so already stay as they are. */
export const switchAll = (draft: SiteDraft, chosen: readonly InSlot[], on: boolean): Edit[] =>
  each(draft, chosen).flatMap(({ slot, variant }) => (variant.on === on ? [] : [set(slot, variant, "on", on)]));

/** Takes variants out, with what they pick from the library. */
export const removeAll = (draft: SiteDraft, chosen: readonly InSlot[]): Edit[] =>
  inTurn(draft, chosen, (now, one) => each(now, [one]).flatMap(({ slot, variant }) => remove(slot, variant, now)));

const fits = (slot: Slot, variant: Variant): boolean =>
  variant.arms.every(({ content }) => content === null || hasPlaceFor(slot, content));

/**
 * Takes variants to a slot, below what it has, in their order.
 * @param way `move`: they keep their ids and whether they are on, and leave where they were; `copy`: new ones, switched off
 */
export function takeTo(draft: SiteDraft, chosen: readonly InSlot[], to: string, way: "move" | "copy"): Taken {
  const target = draft.slots.find(({ id }) => id === to);
  if (!target) return { edits: [], ids: [], left: [] };
  const asked = each(draft, chosen).filter(({ slot }) => way === "copy" || slot !== target);
  const going = asked.filter(({ variant }) => fits(target, variant));
  const ids: string[] = [];
  const list = ["slots", to, "variants"];
  const edits = inTurn(
    draft,
    going.map(({ slot, variant }) => ({ slot: slot.id, variant: variant.id })),
    (now, one) =>
      each(now, [one]).flatMap(({ slot, variant }) => {
        const end = now.slots.find(({ id }) => id === to)?.variants.length ?? 0;
        if (way === "move") {
          ids.push(variant.id);
          // What it picks is told by its id, and goes with it.
          const [out] = remove(slot, variant, { ...now, picks: [] });
          return out ? [out, insertItem(list, variant, end)] : [];
        }
        const id = freshId(variant.name, now);
        ids.push(id);
        return [
          insertItem(list, { ...structuredClone(variant), id, on: false }, end),
          ...copiedPicks(variant, id, now),
        ];
      }),
  );
  return { edits, ids, left: asked.filter(({ variant }) => !fits(target, variant)).map(({ variant }) => variant) };
}

/** What taking several things out of a list comes to. */
export interface Removed {
  edits: Edit[];
  /** How many of them were taken out. */
  count: number;
  /** Those that stay: something else leans on them. */
  left: Thing[];
}

/**
 * Takes several things out of a list of the draft, also those that lean on each other; what something else leans on stays.
 * @param used what is asked for to find who leans on a thing
 */
export function removeThings(
  draft: SiteDraft,
  list: ListName,
  ids: ReadonlySet<string>,
  used: (id: string) => Used | undefined,
): Removed {
  let now = draft;
  const edits: Edit[] = [];
  const things = (): readonly Thing[] => now[list];
  const waiting = () => things().filter(({ id }) => ids.has(id));
  const isFree = ({ id }: Thing): boolean => {
    const what = used(id);
    return what === undefined || usesOf(what, now).length === 0;
  };
  for (let free = waiting().filter(isFree); free.length > 0; free = waiting().filter(isFree))
    for (const thing of free) {
      const edit = removeItem([list], things(), thing);
      const applied = applyEdits(now, [edit]);
      if (!applied.ok) return { edits, count: edits.length, left: waiting() };
      now = applied.value;
      edits.push(edit);
    }
  return { edits, count: edits.length, left: waiting() };
}

/** Takes slots out, with what their variants pick from the library; taken back, all stand where they stood. */
export function removeSlots(draft: SiteDraft, ids: ReadonlySet<string>): Edit[] {
  const gone = draft.slots.filter(({ id }) => ids.has(id));
  const variants = new Set(gone.flatMap((slot) => slot.variants.map(({ id }) => id)));
  const picks = draft.picks.filter((pick) => variants.has(pick.variant));
  // The last first: each is put back at its own place again.
  return [
    ...gone.toReversed().map((slot) => removeItem(["slots"], draft.slots, slot)),
    ...picks.toReversed().map((pick) => removeItem(["picks"], draft.picks, pick)),
  ];
}

/** Switches several things of a list on or off; those that are so already stay as they are. */
export const switchThings = (draft: SiteDraft, list: ListName, ids: ReadonlySet<string>, on: boolean): Edit[] =>
  (draft[list] as readonly (Thing & { on?: boolean })[]).flatMap((thing) =>
    !ids.has(thing.id) || thing.on === undefined || thing.on === on ? [] : [setItem([list], thing, "on", on)],
  );
