import { holdoutSlot } from "../decision/holdout";
import type { Arm, Ruleset } from "../formats/ruleset";

/** A slot or pop-up of which something is counted, or all of them together beside the holdout. */
export interface Counted {
  /** A slot's id, `popup:ID`, or the holdout's. */
  id: string;
  name: string;
  /** By which goal its tests are read first. */
  goal?: string;
  variants: readonly { id: string; name: string; arms: readonly Arm[] }[];
}

const everything = { type: "", fields: {}, tokens: {} };

/** The holdout as a test of two arms: whoever sees the variants, beside whoever sees none. */
const together = (holdout: number): Counted => ({
  id: holdoutSlot,
  name: "All of it together",
  variants: [
    {
      id: "",
      name: "all variants and pop-ups",
      arms: [
        { id: "in", weight: 100 - holdout, content: everything },
        { id: "out", weight: holdout, content: null },
      ],
    },
  ],
});

/** What an arm is called where it is read. */
export const armName = (counted: Pick<Counted, "id">, arm: string): string =>
  counted.id === holdoutSlot ? (arm === "out" ? "Held out" : "Sees them") : `Arm ${arm}`;

/**
 * What may have been counted, by its id.
 * @param rulesets the last counts: what is live is what was counted, those before it tell names of what is gone from it
 */
export function countedThings(rulesets: readonly Ruleset[]): Map<string, Counted> {
  const out = new Map<string, Counted>();
  for (const { site } of rulesets) if (site.holdout !== undefined) out.set(holdoutSlot, together(site.holdout));
  for (const { slots, popups } of rulesets) {
    for (const { id, name, goal, variants } of slots) {
      const gone = (out.get(id)?.variants ?? []).filter((item) => !variants.some((other) => other.id === item.id));
      out.set(id, { id, name, ...(goal === undefined ? {} : { goal }), variants: [...variants, ...gone] });
    }
    for (const popup of popups) {
      const { id, name, goal } = popup;
      const counted = { id: `popup:${id}`, name: `Pop-up ${name}`, variants: [popup] };
      out.set(counted.id, { ...counted, ...(goal === undefined ? {} : { goal }) });
    }
  }
  return out;
}
