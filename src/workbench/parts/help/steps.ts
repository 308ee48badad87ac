/** The first steps on a site: what there is to do until something is live, and how far it is. */
import { t } from "@/core/messages/t";
import type { Slot } from "@/core/formats/ruleset";

export interface Progress {
  slots: readonly Pick<Slot, "id" | "variants">[];
  /** How many different visitors the site was viewed as. */
  visitors: number;
  live: boolean;
}

/** So many visitors are to be viewed as before something is published. */
export const visitorsWanted = 3;

export interface Step {
  name: string;
  /** What to do, in a sentence. */
  how: string;
  done: boolean;
}

/** The steps in their order. */
export function stepsOf({ slots, visitors, live }: Progress): Step[] {
  const variants = slots.flatMap((slot) => slot.variants);
  return [
    {
      name: t("Point at a part"),
      how: t("Choose a part of your page that is to have versions: it becomes a slot."),
      done: slots.length > 0,
    },
    {
      name: t("Change the copy"),
      how: t("Add a variant, and write what its visitors read."),
      done: variants.length > 0,
    },
    {
      name: t("Say who sees it"),
      how: t("Add a condition to the variant, such as a location or a campaign, and switch it on."),
      done: variants.some((variant) => variant.on && variant.rule !== null),
    },
    {
      name: t("View as {visitorsWanted} visitors", { visitorsWanted }),
      how: t(
        "Change the sentence at the top, or find a visitor who sees the variant: {min} of {visitorsWanted} so far.",
        { min: Math.min(visitors, visitorsWanted), visitorsWanted },
      ),
      done: visitors >= visitorsWanted,
    },
    { name: t("Publish"), how: t("Check what differs, and publish it."), done: live },
  ];
}
