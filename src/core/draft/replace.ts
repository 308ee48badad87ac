import { same, type Edit } from "./edit";
import type { Ruleset } from "../formats/ruleset";
import type { SiteDraft } from "../formats/site-draft";
import { pickedBlock } from "./picks";

/** The edits that put another ruleset (or draft) in the place of this one, list by list. The site keeps its id. */
export function replaceDraft(before: SiteDraft, after: Partial<SiteDraft>): Edit[] {
  const next: Record<string, unknown> = { ...after };
  if (after.site) next.site = { ...after.site, id: before.site.id };
  delete next.format;
  return Object.entries(next).flatMap(([key, value]): Edit[] => {
    const old = before[key as keyof SiteDraft];
    return same(old, value) ? [] : [{ do: "set", at: [key], before: old, after: value }];
  });
}

/**
 * A draft with the rules and contents of a release. The library stays, and a pick stays where the block that it finds is what the
 * release shows there; elsewhere the variant has the release's content as its own.
 */
export function draftLike(draft: SiteDraft, release: Ruleset): SiteDraft {
  const all: SiteDraft = { ...release, library: draft.library, picks: draft.picks };
  const picks = draft.picks.filter((pick) => {
    const variant = release.slots.flatMap((slot) => slot.variants).find((item) => item.id === pick.variant);
    const arm = variant?.arms.find((item) => item.id === pick.arm);
    return arm !== undefined && same(arm.content, pickedBlock(pick, all, variant)?.content);
  });
  return { ...all, picks };
}
