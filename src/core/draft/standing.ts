/** How slots and variants of a draft stand beside what is live. */
import type { Ruleset } from "../formats/ruleset";
import type { Difference } from "./difference";

export type Standing = "same" | "changed" | "new";

/**
 * How each slot and each of its variants stands: the same as live, changed, or not live yet; by the slot's id, and by the slot's and the
 * variant's with a blank between. A slot is changed where anything in it is.
 * @param changed in what the draft differs from what is live (`differences`)
 */
export function standings(
  draft: Pick<Ruleset, "slots">,
  live: Pick<Ruleset, "slots"> | undefined,
  changed: readonly Difference[],
): Map<string, Standing> {
  const out = new Map<string, Standing>();
  for (const slot of draft.slots) {
    const was = live?.slots.find(({ id }) => id === slot.id);
    const differs = changed.filter((item) => item.slot === slot.id);
    out.set(slot.id, !was ? "new" : differs.length > 0 ? "changed" : "same");
    for (const variant of slot.variants) {
      const before = was?.variants.some(({ id }) => id === variant.id);
      const other = differs.some((item) => item.variant === variant.id);
      out.set(`${slot.id} ${variant.id}`, !before ? "new" : other ? "changed" : "same");
    }
  }
  return out;
}
