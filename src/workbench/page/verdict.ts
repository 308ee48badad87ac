import { t } from "@/core/messages/t";
import { picksNothing } from "@/core/draft/picks";
import type { SlotTrace } from "@/core/decision/decision";
import type { Variant } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import { variantVerdictText } from "@/core/decision/verdicts";
import type { Look } from "../parts/desk/use-look";

/** What became of a variant for the lens at hand, or why it takes no part. @param letter names a variant that beats it */
export function variantVerdict(
  variant: Variant,
  trace: SlotTrace["variants"][number] | undefined,
  look: Look,
  draft: SiteDraft,
  letter: (id: string) => string,
): string {
  if (look.runnable.unfinished.has(variant.id)) return t("Not finished");
  // Its switch is on: what is off is what it would show.
  if (variant.on && picksNothing(draft, variant)) return t("Nothing to show");
  return trace ? variantVerdictText(trace, letter) : "";
}
