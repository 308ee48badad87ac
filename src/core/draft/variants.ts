/** Edits that the variants of a slot are made, copied, moved and taken out by. */
import { isPagesOwn, takenAway, unchanged } from "../content/own";
import type { Content, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { SiteDraft } from "../formats/site-draft";
import type { Edit } from "./edit";
import { freshIdIn, insertItem, moveItem, removeItem, setItem } from "./lists";

/** An id made of a name, that no variant of the ruleset has yet. */
export const freshId = (name: string, ruleset: Pick<Ruleset, "slots">): string =>
  freshIdIn(name, new Set(ruleset.slots.flatMap((slot) => slot.variants.map((variant) => variant.id))), "variant");

const list = (slot: Slot): string[] => ["slots", slot.id, "variants"];

/** A slot with nothing in it, on every page. */
export const newSlot = (id: string, name: string): Slot => ({
  id,
  name,
  pages: null,
  take: 1,
  variants: [],
  fallback: null,
});

/** Whether a slot has something of the page's own in its place: a place that is made beside another has nothing. */
export const hasOwnContent = (slot: Pick<Slot, "at">): boolean => slot.at === undefined || slot.at.how === "replace";

/** A block of the kind that the slot holds, with nothing in it. */
export function blankContent(slot: Slot, ruleset: Ruleset): Content {
  const held = slot.fallback ?? slot.variants[0]?.arms[0]?.content;
  if (held ? isPagesOwn(held) : slot.at?.how === "replace") return unchanged();
  return { type: held?.type ?? ruleset.blockTypes[0]?.id ?? "", fields: {}, tokens: {} };
}

/** A variant before all others, with the content given. Without a rule it would hide all below it, so it starts switched off. */
function addFirst(slot: Slot, ruleset: Ruleset, name: string, content: Content): { edit: Edit; id: string } {
  const id = freshId(name, ruleset);
  const item: Variant = { id, name, on: false, rule: null, arms: [{ id: "a", weight: 100, content }] };
  return { id, edit: insertItem(list(slot), item, 0) };
}

/** Adds a variant of what stands there, to be changed, before all others. */
export const addOwn = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, "A changed copy", unchanged());
/** Adds a variant that takes the place away, before all others. */
export const addNothing = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, "Nothing", takenAway());

/** Adds a blank variant before all others. */
export const addBlank = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, "New variant", blankContent(slot, ruleset));

/** Adds a variant with the fallback's content before all others. */
export const addFromFallback = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } | undefined =>
  slot.fallback ? addFirst(slot, ruleset, "Fallback, copy", structuredClone(slot.fallback)) : undefined;

/** Adds a copy of a variant right above it, with what it picks from the library. */
export function addCopy(slot: Slot, variant: Variant, draft: SiteDraft): { edits: Edit[]; id: string } {
  const name = `${variant.name}, copy`;
  const id = freshId(name, draft);
  const item = { ...structuredClone(variant), id, name };
  const picks = draft.picks
    .filter((pick) => pick.variant === variant.id)
    .map((pick, index) =>
      insertItem(["picks"], { ...pick, id: `${pick.id}-${id}`.slice(0, 64), variant: id } as never, index),
    );
  return { id, edits: [insertItem(list(slot), item, slot.variants.indexOf(variant)), ...picks] };
}

/** Takes a variant out, with what it picks from the library. */
export const remove = (slot: Slot, variant: Variant, draft: SiteDraft): Edit[] => [
  removeItem(list(slot), slot.variants, variant),
  ...draft.picks
    .filter((pick) => pick.variant === variant.id)
    .map((pick) => removeItem(["picks"], draft.picks as never, pick as never)),
];

export const move = (slot: Slot, variant: Variant, to: number): Edit =>
  moveItem(list(slot), slot.variants, variant, to);

/** Sets one property of a variant. */
export const set = <K extends keyof Variant & string>(
  slot: Slot,
  variant: Variant,
  key: K,
  after: Variant[K] | undefined,
): Edit => setItem(list(slot), variant, key, after);
