/** Edits that the variants of a slot are made, copied, moved and taken out by. */
import type { Content, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Edit } from "./edit";

/** An id made of a name, that no variant of the ruleset has yet. */
export function freshId(name: string, ruleset: Pick<Ruleset, "slots">): string {
  const taken = new Set(ruleset.slots.flatMap((slot) => slot.variants.map((variant) => variant.id)));
  const base =
    name
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 48) || "variant";
  for (let count = 1; ; count++) {
    const id = count === 1 ? base : `${base}-${count}`;
    if (!taken.has(id)) return id;
  }
}

const list = (slot: Slot): string[] => ["slots", slot.id, "variants"];

/** A block of the kind that the slot holds, with nothing in it. */
export function blankContent(slot: Slot, ruleset: Ruleset): Content {
  const type = slot.fallback?.type ?? slot.variants[0]?.arms[0]?.content?.type ?? ruleset.blockTypes[0]?.id ?? "";
  return { type, fields: {}, tokens: {} };
}

/** Adds a blank variant before all others: it shows as soon as its rule holds. */
export function addBlank(slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } {
  const id = freshId("new-variant", ruleset);
  const item: Variant = {
    id,
    name: "New variant",
    on: true,
    rule: null,
    arms: [{ id: "a", weight: 100, content: blankContent(slot, ruleset) }],
  };
  // Without a rule it would hide all below it, so it starts switched off.
  return { id, edit: { do: "insert", list: list(slot), index: 0, item: { ...item, on: false } } };
}

/** Adds a copy of a variant right above it. */
export function addCopy(slot: Slot, variant: Variant, ruleset: Ruleset): { edit: Edit; id: string } {
  const name = `${variant.name}, copy`;
  const id = freshId(name, ruleset);
  return {
    id,
    edit: {
      do: "insert",
      list: list(slot),
      index: slot.variants.indexOf(variant),
      item: { ...structuredClone(variant), id, name },
    },
  };
}

/** Adds a variant with the fallback's content before all others, switched off until its rule is made. */
export function addFromFallback(slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } | undefined {
  if (!slot.fallback) return undefined;
  const name = "Fallback, copy";
  const id = freshId(name, ruleset);
  const item: Variant = {
    id,
    name,
    on: false,
    rule: null,
    arms: [{ id: "a", weight: 100, content: structuredClone(slot.fallback) }],
  };
  return { id, edit: { do: "insert", list: list(slot), index: 0, item } };
}

export const remove = (slot: Slot, variant: Variant): Edit => ({
  do: "remove",
  list: list(slot),
  index: slot.variants.indexOf(variant),
  item: variant,
});

export const move = (slot: Slot, variant: Variant, to: number): Edit => ({
  do: "move",
  list: list(slot),
  id: variant.id,
  from: slot.variants.indexOf(variant),
  to,
});

/** Sets one property of a variant. */
export function set<K extends keyof Variant>(slot: Slot, variant: Variant, key: K, after: Variant[K]): Edit {
  return { do: "set", at: [...list(slot), variant.id, key], before: variant[key], after };
}
