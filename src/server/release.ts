import { createHash } from "node:crypto";
import type { Problem } from "@/core/formats/problem";
import { rulesetOf } from "@/core/draft/picks";
import { checkRuleset } from "@/core/ruleset/check";
import { loadDraft } from "@/data/draft";
import { transaction } from "@/data/pool";
import { putLive } from "@/data/releases";

export type Released = { ok: true; number: number } | { ok: false; problem: string; problems: Problem[] };

/**
 * Makes an immutable release of the draft and puts it live, if nothing in it is unfinished.
 * @param version the version of the draft that was looked at: should it have changed since, nothing goes live unseen
 */
export function releaseDraft(site: string, session: string, note: string, version: number): Promise<Released> {
  return transaction(async (db) => {
    const draft = await loadDraft(site, db, true);
    if (!draft) return { ok: false, problem: "There is no such site.", problems: [] };
    if (draft.version !== version)
      return {
        ok: false,
        problem: "The draft was changed meanwhile. Look at the differences once more.",
        problems: [],
      };
    const ruleset = rulesetOf(draft.ruleset);
    const problems = checkRuleset(ruleset);
    if (problems.length > 0) return { ok: false, problem: "Something in the draft is not finished.", problems };
    const sha256 = createHash("sha256").update(JSON.stringify(ruleset)).digest("hex");
    const number = await putLive({ site, session, note, ruleset, sha256, draftVersion: version }, db);
    return { ok: true, number };
  });
}
