import { t } from "../messages/t";
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

/** The same without what its variants say and to whom: for whoever may read results, and nothing else. */
export const withoutContent = (counted: Counted): Counted => ({
  ...counted,
  variants: counted.variants.map(({ id, name, arms }) => ({
    id,
    name,
    // That an arm shows the fallback is what makes it a control.
    arms: arms.map((arm) => ({ id: arm.id, weight: arm.weight, content: arm.content && everything })),
  })),
});

/** The holdout as a test of two arms: whoever sees the variants, beside whoever sees none. */
const together = (holdout: number): Counted => ({
  id: holdoutSlot,
  name: t("All of it together"),
  variants: [
    {
      id: "",
      name: t("all variants and pop-ups"),
      arms: [
        { id: "in", weight: 100 - holdout, content: everything },
        { id: "out", weight: holdout, content: null },
      ],
    },
  ],
});

/** What an arm is called where it is read. */
export const armName = (counted: Pick<Counted, "id">, arm: string): string =>
  counted.id === holdoutSlot ? (arm === "out" ? t("Held out") : t("Sees them")) : t("Arm {arm}", { arm });

/**
 * What may have been counted, by its id.
 * @param draft tells names of what is gone from what is live, and by which goal a slot is read: that is chosen, not served
 * @param live what is live is what was counted
 */
export function countedThings(draft: Ruleset, live: Ruleset = draft): Map<string, Counted> {
  const out = new Map<string, Counted>();
  const holdout = live.site.holdout ?? draft.site.holdout;
  if (holdout !== undefined) out.set(holdoutSlot, together(holdout));
  const goalOf = (list: "slots" | "popups", id: string) => {
    const here = draft[list].find((item) => item.id === id) ?? live[list].find((item) => item.id === id);
    return here?.goal === undefined ? {} : { goal: here.goal };
  };
  for (const { slots, popups } of [draft, live]) {
    for (const { id, name, variants } of slots) {
      const gone = (out.get(id)?.variants ?? []).filter((item) => !variants.some((other) => other.id === item.id));
      out.set(id, { id, name, ...goalOf("slots", id), variants: [...variants, ...gone] });
    }
    for (const popup of popups)
      out.set(`popup:${popup.id}`, {
        id: `popup:${popup.id}`,
        name: t("Pop-up {popup}", { popup: popup.name }),
        ...goalOf("popups", popup.id),
        variants: [popup],
      });
  }
  return out;
}
