import type { Ruleset } from "../formats/ruleset";

/** What can be paused on the live site without a release. */
export interface Pause {
  kind: "variant" | "popup" | "redirect";
  id: string;
}

/** A ruleset as it is served: what is paused counts as switched off, and nothing else is touched. */
export function withPauses(ruleset: Ruleset, pauses: readonly Pause[]): Ruleset {
  if (pauses.length === 0) return ruleset;
  const paused = (kind: Pause["kind"], id: string) => pauses.some((pause) => pause.kind === kind && pause.id === id);
  const off = <T extends { id: string; on: boolean }>(kind: Pause["kind"], items: T[]): T[] =>
    items.map((item) => (paused(kind, item.id) ? { ...item, on: false } : item));
  return {
    ...ruleset,
    slots: ruleset.slots.map((slot) => ({ ...slot, variants: off("variant", slot.variants) })),
    popups: off("popup", ruleset.popups),
    redirects: off("redirect", ruleset.redirects),
  };
}

/** What a pause is about, by name; undefined: the ruleset has no such thing. */
export function pausedName(ruleset: Ruleset, { kind, id }: Pause): string | undefined {
  if (kind === "popup") return ruleset.popups.find((item) => item.id === id)?.name;
  if (kind === "redirect") return ruleset.redirects.find((item) => item.id === id)?.name;
  for (const slot of ruleset.slots) {
    const variant = slot.variants.find((item) => item.id === id);
    if (variant) return `${slot.name}, ${variant.name}`;
  }
  return undefined;
}
