import { same, type Edit } from "./edit";
import type { SiteDraft } from "../formats/site-draft";

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
