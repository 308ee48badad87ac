import { t } from "@/core/messages/t";
import { applyEdits, asRead, invertAll, type Edit } from "@/core/draft/edit";
import { changedPlaces, placeName } from "@/core/draft/words";
import { readBy } from "@/core/formats/read";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import { lacking, refusal } from "@/core/people/roles";
import { lastAt, tell } from "@/data/audit";
import { loadDraft, saveDraft } from "@/data/draft";
import { isKept, keepChange, markUndone, nextRedo, nextUndo, type Change } from "@/data/edits";
import { listPeople, type SignedIn } from "@/data/people";
import { holdSite } from "@/data/sites";
import { followOrigin } from "./sites";
import { transaction, type Queryable } from "@/data/pool";
import { announceDesk } from "@/data/sessions";

/** What undo and redo would do next, in words. */
export interface Marks {
  undo: string | null;
  redo: string | null;
}

/** Somebody else was there first: what was to be set, and what stands there now. */
export interface Stale {
  /** The place, by names. */
  where: string;
  path: string;
  by: string;
  at: string;
  now: unknown;
}

/** Why nothing was changed. */
type NotChanged = { ok: false; problem: string; stale?: Stale };
type Done = { ok: true; version: number; says: string } & Marks;
/** What a change of the draft gives: the draft as it now is, and the edits that led there from the version before, if they alone did. */
export type Changed = (Done & { ruleset: SiteDraft; from?: { version: number; edits: readonly Edit[] } }) | NotChanged;
/** The same for whoever has the draft already: only what changed. */
export type Told = (Done & ({ ruleset: SiteDraft } | { edits: readonly Edit[] })) | NotChanged;

/** A change as it is told to somebody who has a version of the draft: the whole draft only if another one. */
export function toldTo(known: number | null | undefined, changed: Changed): Told {
  if (!changed.ok) return changed;
  const { from, ruleset, ...rest } = changed;
  return from && from.version === known ? { ...rest, edits: from.edits } : { ...rest, ruleset };
}

/**
 * Applies edits to the draft, all or none, and keeps them as one change that can be taken back.
 * @param name given by whoever sends it: one that comes again, because its answer was lost, changes nothing more
 */
export const changeDraft = (who: SignedIn, says: string, edits: readonly Edit[], name?: string): Promise<Changed> =>
  transaction(who.site, (db) => changeDraftIn(who, says, edits, db, name));

/** The same within a transaction that is under way. */
export async function changeDraftIn(
  who: SignedIn,
  says: string,
  edits: readonly Edit[],
  db: Queryable,
  name?: string,
): Promise<Changed> {
  if (name !== undefined) {
    const draft = await loadDraft(who.site, db, true);
    if (draft && (await isKept(who.site, who.id, name, db)))
      return { ok: true, ...draft, says, ...(await marks(who.site, who.id, db)) };
  }
  const done = await apply(who, says, edits, db);
  if (!done.ok) return done;
  await keepChange(who.site, who.id, says, done.from?.edits ?? edits, db, name);
  return { ...done, says, ...(await marks(who.site, who.id, db)) };
}

/** Takes one's own last change back. */
export const undoChange = (who: SignedIn): Promise<Changed> => step(who, "undo");
/** Does the change that one took back last again. */
export const redoChange = (who: SignedIn): Promise<Changed> => step(who, "redo");

function step(who: SignedIn, way: "undo" | "redo"): Promise<Changed> {
  return transaction(who.site, async (db) => {
    await holdSite(who.site, db);
    const change = await (way === "undo" ? nextUndo : nextRedo)(who.site, who.id, db);
    if (!change) return { ok: false, problem: t("There is nothing to {way}.", { way }) };
    const says =
      way === "undo" ? t("Undone: {says}", { says: change.says }) : t("Done again: {says}", { says: change.says });
    const done = await apply(who, says, way === "undo" ? invertAll(change.edits) : change.edits, db);
    if (!done.ok) {
      if (!done.stale) return done;
      // What somebody else has set since stays, and is no wall: the next step goes on behind it.
      await markUndone(who.site, change.number, way === "undo", db);
      const { where, by } = done.stale;
      return {
        ...done,
        problem: t("{where} was set by {by} since, and stays. The next step goes on behind it.", { where, by }),
      };
    }
    await markUndone(who.site, change.number, way === "undo", db);
    return { ...done, says: change.says, ...(await marks(who.site, who.id, db)) };
  });
}

const says = (change: Change | undefined): string | null => change?.says ?? null;

/** What undo and redo would do next for somebody. */
export async function marks(site: string, person: string, db: Queryable): Promise<Marks> {
  return { undo: says(await nextUndo(site, person, db)), redo: says(await nextRedo(site, person, db)) };
}

async function apply(who: SignedIn, says: string, edits: readonly Edit[], db: Queryable) {
  const { site } = who;
  const ability = lacking(who.roles, edits);
  if (ability) return { ok: false as const, problem: refusal(who.roles, ability) };
  const draft = await loadDraft(site, db, true);
  if (!draft) return { ok: false as const, problem: t("There is no such site.") };
  const applied = applyEdits(draft.ruleset, edits);
  if (!applied.ok) {
    const edit = edits[applied.edit ?? -1];
    const stale = edit && (await staleBy(site, edit, applied.now, draft.ruleset, db));
    return { ok: false as const, problem: applied.problem, ...(stale ? { stale } : {}) };
  }
  const read = readBy(siteDraftSchema, applied.value);
  if (!read.ok) return { ok: false as const, problem: `${read.problems[0]?.path}: ${read.problems[0]?.problem}` };
  if (read.value.site.id !== site) return { ok: false as const, problem: "/site/id: a site keeps its id." };
  const { origin } = read.value.site;
  const taken = origin === draft.ruleset.site.origin ? undefined : await followOrigin(site, origin, db);
  if (taken) return { ok: false as const, problem: `/site/origin: ${taken}` };
  const version = await saveDraft(site, draft.ruleset, read.value, db);
  const all = asRead(edits, draft.ruleset, read.value);
  const from = all ? { from: { version: draft.version, edits: all } } : {};
  await tell(site, who.id, { kind: "draft", says, ...changedPlaces(edits) }, db);
  await announceDesk(site, db);
  return { ok: true as const, ruleset: read.value, version, ...from };
}

/** Who was there first, and what they left. Only where something was set: what was deleted cannot be chosen between. */
async function staleBy(
  site: string,
  edit: Edit,
  now: unknown,
  draft: SiteDraft,
  db: Queryable,
): Promise<Stale | undefined> {
  if (edit.do !== "set" || now === undefined) return undefined;
  const path = edit.at.join("/");
  const last = await lastAt(site, path, db);
  const by = last && (await listPeople(site, db)).find((person) => person.id === last.person)?.name;
  return { where: placeName(path, draft), path, by: by ?? "Somebody else", at: last?.at ?? "", now };
}
