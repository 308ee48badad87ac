/** Edits that the variants of a slot are made, copied, moved and taken out by. */
import { said, t, text } from "../messages/t";
import { hiddenType, isPagesOwn, takenAway, unchanged } from "../content/own";
import type { Content, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { SiteDraft } from "../formats/site-draft";
import { isValueless } from "../formats/operators";
import type { Condition, Rule } from "../formats/rule";
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

/** Whether content can stand in a slot: what the page itself has, changed or hidden, stands in one place alone. */
export const hasPlaceFor = (slot: Slot, content: Content): boolean =>
  !isPagesOwn(content) || (slot.take === 1 && (content.type === hiddenType || hasOwnContent(slot)));

/** A block of the kind that the slot holds, with nothing in it. */
export function blankContent(slot: Slot, ruleset: Ruleset): Content {
  const held = slot.fallback ?? slot.variants[0]?.arms[0]?.content;
  if (held ? isPagesOwn(held) : slot.at?.how === "replace") return unchanged();
  return { type: held?.type ?? ruleset.blockTypes[0]?.id ?? "", fields: {}, tokens: {} };
}

/** A variant before all others, with the content given. Without a rule it would hide all below it, so it starts switched off. */
function addFirst(
  slot: Slot,
  ruleset: Ruleset,
  name: string,
  content: Content,
  rule: Rule = null,
  on = false,
): { edit: Edit; id: string } {
  const id = freshId(name, ruleset);
  const item: Variant = { id, name, on, rule, arms: [{ id: "a", weight: 100, content }] };
  return { id, edit: insertItem(list(slot), item, 0) };
}

/** For whom a place is often hidden: who, and by which rule; one without a value is to be filled in. */
export interface HiddenFor {
  who: string;
  rule: Condition;
}
export const hiddenFor: readonly HiddenFor[] = said([
  { who: text("visitors on phones"), rule: { signal: "device.kind", op: "is", value: "phone" } },
  { who: text("visitors on tablets"), rule: { signal: "device.kind", op: "is", value: "tablet" } },
  { who: text("visitors who come back"), rule: { signal: "history.returning", op: "isTrue" } },
  { who: text("first-time visitors"), rule: { signal: "history.returning", op: "isFalse" } },
  { who: text("visitors of a place"), rule: { signal: "place", op: "isIn" } },
  { who: text("visitors of a campaign"), rule: { signal: "campaign.name", op: "is" } },
  { who: text("visitors with a cookie"), rule: { signal: "cookie.", op: "is" } },
]);
/** Whether nothing is to be filled in. */
export const isWhole = ({ rule }: HiddenFor): boolean => isValueless(rule.op) || rule.value !== undefined;

/** Hides a place for some, before all others: at once where the rule is whole, else switched off until it is. */
export const addHidden = (slot: Slot, ruleset: Ruleset, hidden: HiddenFor): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, t("Nothing for {who}", { who: hidden.who }), takenAway(), hidden.rule, isWhole(hidden));

/** Adds a variant of what stands there, to be changed, before all others. */
export const addOwn = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, t("A changed copy"), unchanged());
/** Adds a variant that takes the place away, before all others. */
export const addNothing = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, t("Nothing"), takenAway());

/** Adds a blank variant before all others. */
export const addBlank = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } =>
  addFirst(slot, ruleset, t("New variant"), blankContent(slot, ruleset));

/** Adds a variant with the fallback's content before all others. */
export const addFromFallback = (slot: Slot, ruleset: Ruleset): { edit: Edit; id: string } | undefined =>
  slot.fallback ? addFirst(slot, ruleset, t("Fallback, copy"), structuredClone(slot.fallback)) : undefined;

/** Edits that let a copy of a variant pick what the variant picks. @param arm that arm's alone; undefined: all arms' */
export const copiedPicks = (variant: Variant, copy: string, draft: SiteDraft, arm?: string): Edit[] =>
  draft.picks
    .filter((pick) => pick.variant === variant.id && (arm === undefined || pick.arm === arm))
    .map((pick, index) =>
      insertItem(["picks"], { ...pick, id: `${pick.id}-${copy}`.slice(0, 64), variant: copy }, index),
    );

/**
 * Adds a copy of a variant right below it, switched off, with what it picks from the library.
 * @param arm of a test, that arm alone: the copy is none
 */
export function addCopy(slot: Slot, variant: Variant, draft: SiteDraft, arm?: string): { edits: Edit[]; id: string } {
  const name = t("{name}, copy", { name: variant.name });
  const id = freshId(name, draft);
  const copy = structuredClone(variant);
  const alone = copy.arms.find((item) => item.id === arm);
  const item = { ...copy, id, name, on: false, ...(alone ? { arms: [{ ...alone, weight: 100 }] } : {}) };
  const picks = copiedPicks(variant, id, draft, alone?.id);
  return { id, edits: [insertItem(list(slot), item, slot.variants.indexOf(variant) + 1), ...picks] };
}

/** Takes a variant out, with what it picks from the library. */
export const remove = (slot: Slot, variant: Variant, draft: SiteDraft): Edit[] => [
  removeItem(list(slot), slot.variants, variant),
  // The last first: each is put back at its own place again.
  ...draft.picks
    .filter((pick) => pick.variant === variant.id)
    .toReversed()
    .map((pick) => removeItem(["picks"], draft.picks, pick)),
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
