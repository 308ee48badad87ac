import { applyEdits, invertAll, type Edit } from "@/core/draft/edit";
import { readBy } from "@/core/formats/read";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import { loadDraft, saveDraft } from "@/data/draft";
import { keepChange, markUndone, nextRedo, nextUndo, type Change } from "@/data/edits";
import { transaction, type Queryable } from "@/data/pool";

/** What a change of the draft gives: the draft as it now is, or why nothing was changed. */
export type Changed =
  | { ok: true; ruleset: SiteDraft; version: number; says: string; undo: string | null; redo: string | null }
  | { ok: false; problem: string; now?: unknown };

/** Applies edits to the draft, all or none, and keeps them as one change that can be taken back. */
export function changeDraft(site: string, session: string, says: string, edits: readonly Edit[]): Promise<Changed> {
  return transaction(async (db) => {
    const done = await apply(site, edits, db);
    if (!done.ok) return done;
    await keepChange(site, session, says, edits, db);
    return { ...done, says, ...(await marks(site, db)) };
  });
}

/** Takes the last change back. */
export const undoChange = (site: string): Promise<Changed> => step(site, "undo");
/** Does the change that was last taken back again. */
export const redoChange = (site: string): Promise<Changed> => step(site, "redo");

function step(site: string, way: "undo" | "redo"): Promise<Changed> {
  return transaction(async (db) => {
    await db.query("select 1 from sites where site = $1 for update", [site]);
    const change = way === "undo" ? await nextUndo(site, db) : await nextRedo(site, db);
    if (!change) return { ok: false, problem: `There is nothing to ${way}.` };
    const done = await apply(site, way === "undo" ? invertAll(change.edits) : change.edits, db);
    if (!done.ok) return done;
    await markUndone(site, change.number, way === "undo", db);
    return { ...done, says: change.says, ...(await marks(site, db)) };
  });
}

const says = (change: Change | undefined): string | null => change?.says ?? null;

/** What undo and redo would do next, in words. */
export async function marks(site: string, db: Queryable): Promise<{ undo: string | null; redo: string | null }> {
  return { undo: says(await nextUndo(site, db)), redo: says(await nextRedo(site, db)) };
}

async function apply(site: string, edits: readonly Edit[], db: Queryable) {
  const draft = await loadDraft(site, db, true);
  if (!draft) return { ok: false as const, problem: "There is no such site." };
  const applied = applyEdits(draft.ruleset, edits);
  if (!applied.ok) return applied;
  const read = readBy(siteDraftSchema, applied.value);
  if (!read.ok) return { ok: false as const, problem: `${read.problems[0]?.path}: ${read.problems[0]?.problem}` };
  const version = await saveDraft(site, draft.ruleset, read.value, db);
  return { ok: true as const, ruleset: read.value, version };
}
