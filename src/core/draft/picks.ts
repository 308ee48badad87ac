import type { Ruleset, Variant } from "../formats/ruleset";
import type { LibraryBlock, Pick, SiteDraft } from "../formats/site-draft";
import type { Edit, Json } from "./edit";
import { fold } from "../text/fold";
import { audiencesIn } from "../ruleset/check";
import { hasPlaceFor } from "./variants";

/** The audience that a pick follows, by its id; undefined if it follows none. */
export const followed = (pick: Pick, variant: Variant | undefined): string | undefined =>
  pick.audience ?? (pick.forAudience && variant ? audiencesIn(variant.rule)[0] : undefined);

/** The labels that a block must have to be picked: those of the pick, and the name of the audience that it follows. */
export function wantedLabels(pick: Pick, variant: Variant | undefined, draft: SiteDraft): string[] {
  const audience = followed(pick, variant);
  if (audience === undefined) return pick.labels;
  return [...pick.labels, draft.audiences.find((item) => item.id === audience)?.name ?? audience];
}

const valueOf = (block: LibraryBlock, field: string): string | number | boolean | undefined => {
  const value = block.content.fields[field];
  return typeof value === "string" || typeof value === "number" || typeof value === "boolean" ? value : undefined;
};

function meets(block: LibraryBlock, where: NonNullable<Pick["where"]>): boolean {
  const value = valueOf(block, where.field);
  if (value === undefined) return false;
  const [own, other] = [fold(String(value)), fold(where.value)];
  switch (where.op) {
    case "is":
      return own === other;
    case "contains":
      return own.includes(other);
    case "above":
      return Number(value) > Number(where.value);
    case "below":
      return Number(value) < Number(where.value);
  }
}

/** Numbers by size, texts by letter; blocks without the field come last. */
function compare(a: string | number | boolean | undefined, b: typeof a): number {
  if (a === undefined || b === undefined) return a === b ? 0 : a === undefined ? 1 : -1;
  if (typeof a === "number" && typeof b === "number") return a - b;
  const [left, right] = [fold(String(a)), fold(String(b))];
  return left < right ? -1 : left > right ? 1 : 0;
}

/** The blocks that a pick chooses from, in its order: those that its slot has a place for. */
export function blocksFor(pick: Pick, draft: SiteDraft, variant: Variant | undefined): LibraryBlock[] {
  const wanted = wantedLabels(pick, variant, draft).map(fold);
  const { where, sort } = pick;
  const slot = draft.slots.find(({ variants }) => variants.some(({ id }) => id === pick.variant));
  const found = draft.library.filter(
    (block) =>
      (!slot || hasPlaceFor(slot, block.content)) &&
      wanted.every((label) => block.labels.some((own) => fold(own) === label)) &&
      (!where || meets(block, where)),
  );
  if (!sort) return found;
  const value = (block: LibraryBlock) => valueOf(block, sort.field);
  return [...found].sort((a, b) => {
    const [left, right] = [value(a), value(b)];
    const order = compare(left, right);
    return sort.descending && left !== undefined && right !== undefined ? -order : order;
  });
}

/** The block that a pick shows; undefined if there is none. */
export const pickedBlock = (pick: Pick, draft: SiteDraft, variant: Variant | undefined): LibraryBlock | undefined =>
  blocksFor(pick, draft, variant)[pick.nth - 1];

/**
 * The ruleset of a draft: every pick replaced by the block that it chooses. A variant of which a pick finds no block is
 * switched off, since it has nothing to show.
 */
export function rulesetOf(draft: SiteDraft): Ruleset {
  const { library: _library, picks, ...ruleset } = draft;
  if (picks.length === 0) return ruleset;
  const byVariant = new Map<string, Pick[]>();
  for (const pick of picks) byVariant.set(pick.variant, [...(byVariant.get(pick.variant) ?? []), pick]);
  return {
    ...ruleset,
    slots: ruleset.slots.map((slot) =>
      slot.variants.some((variant) => byVariant.has(variant.id))
        ? { ...slot, variants: slot.variants.map((variant) => picked(variant, byVariant.get(variant.id), draft)) }
        : slot,
    ),
  };
}

function picked(variant: Variant, picks: readonly Pick[] | undefined, draft: SiteDraft): Variant {
  let { on, arms } = variant;
  for (const pick of picks ?? []) {
    const block = pickedBlock(pick, draft, variant);
    if (!block) on = false;
    else arms = arms.map((arm) => (arm.id === pick.arm ? { ...arm, content: block.content } : arm));
  }
  return { ...variant, on, arms };
}

/** Gives an audience another name, and the blocks that bear the old one as a label, so that picks that follow it find the same. */
export function renameAudience(draft: SiteDraft, { id, name }: { id: string; name: string }, after: string): Edit[] {
  const set = (at: string[], before: Json, now: Json): Edit => ({ do: "set", at, before, after: now });
  const isOld = (label: string) => fold(label) === fold(name);
  return [
    set(["audiences", id, "name"], name, after),
    ...draft.library
      .filter(({ labels }) => after.trim() !== "" && labels.some(isOld))
      .map((block) =>
        set(
          ["library", block.id, "labels"],
          block.labels,
          block.labels.map((label) => (isOld(label) ? after.trim().slice(0, 60) : label)),
        ),
      ),
  ];
}

/** Whether a variant has nothing to show, since a pick of it finds no block. */
export const picksNothing = (draft: SiteDraft, variant: Variant): boolean =>
  draft.picks.some((pick) => pick.variant === variant.id && !pickedBlock(pick, draft, variant));

/** The variants that are switched on and have nothing to show, by their ids. */
export const emptyPicks = (draft: SiteDraft): ReadonlySet<string> =>
  new Set(
    draft.slots.flatMap(({ variants }) =>
      variants.flatMap((variant) => (variant.on && picksNothing(draft, variant) ? [variant.id] : [])),
    ),
  );

/** The pick of an arm, if it has one. */
export const pickOf = (draft: SiteDraft, variant: string, arm: string): Pick | undefined =>
  draft.picks.find((pick) => pick.variant === variant && pick.arm === arm);

/** Every label of the library, in the order of the alphabet, with how many blocks bear it. */
export function labelsOf(draft: SiteDraft): { label: string; count: number }[] {
  const counts = new Map<string, { label: string; count: number }>();
  for (const block of draft.library)
    for (const label of new Set(block.labels)) {
      const key = fold(label);
      const found = counts.get(key);
      if (found) found.count += 1;
      else counts.set(key, { label, count: 1 });
    }
  return [...counts.values()].sort((a, b) => (fold(a.label) < fold(b.label) ? -1 : 1));
}
