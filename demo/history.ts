import type { Ruleset } from "@/core/formats/ruleset";

const day = 86_400_000;

/** What Brackenfold had live over the weeks before today: the home page learnt to greet more of its visitors, step by step. */
export function demoHistory(now: Ruleset, start: number): { from: number; note: string; ruleset: Ruleset }[] {
  const without = (...variants: string[]): Ruleset => ({
    ...now,
    slots: now.slots.map((slot) => ({
      ...slot,
      variants: slot.variants.filter((item) => !variants.includes(item.id)),
    })),
  });
  return [
    { from: start, note: "The first release", ruleset: without("partner", "frost") },
    { from: start + 9 * day + 9.5 * 3_600_000, note: "Readers of Stone & Moss are greeted", ruleset: without("frost") },
    { from: start + 19 * day + 14 * 3_600_000, note: "A frost warning for the north", ruleset: now },
  ];
}
