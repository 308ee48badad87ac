/** How slots and variants of a draft stand beside what is live. */
import { same } from "./edit";
import type { Ruleset } from "../formats/ruleset";

export type Standing = "same" | "changed" | "new";

/**
 * How each slot and each of its variants stands: the same as live, changed, or not live yet; by the slot's id, and by the slot's and the
 * variant's with a blank between. A slot is changed where it is itself, or anything in it.
 */
export function standings(
  draft: Pick<Ruleset, "slots">,
  live: Pick<Ruleset, "slots"> | undefined,
): Map<string, Standing> {
  const out = new Map<string, Standing>();
  for (const slot of draft.slots) {
    const was = live?.slots.find(({ id }) => id === slot.id);
    out.set(slot.id, !was ? "new" : same(was, slot) ? "same" : "changed");
    for (const variant of slot.variants) {
      const before = was?.variants.find(({ id }) => id === variant.id);
      out.set(`${slot.id} ${variant.id}`, !before ? "new" : same(before, variant) ? "same" : "changed");
    }
  }
  return out;
}
