"use client";
import { t } from "@/core/messages/t";
import { useSnackbar } from "notistack";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { applyEdits, keepSame, valueAt, type Edit } from "@/core/draft/edit";
import { lacking, refusal } from "@/core/people/roles";
import type { SiteDraft } from "@/core/formats/site-draft";
import { uuid } from "../fresh";
import type { OpenedDesk, Stale } from "@/server/types";
import { whyNot, type Actions } from "../actions";
import { keepSending } from "./keep-sending";
import { unsentChanges, type Unsent } from "./unsent";

export interface DraftState {
  ruleset: SiteDraft;
  version: number;
  undo: string | null;
  redo: string | null;
}

/** A change that came too late: somebody else had changed the same. Both texts are there to choose between. */
export interface Conflict {
  says: string;
  edits: Edit[];
  stale: Stale;
}

/** The draft on the screen, and the ways to change it. */
export interface Draft extends DraftState {
  saving: boolean;
  /** The server cannot be reached: what was changed is kept here and sent again until it is answered. */
  unsent: boolean;
  /** Applies edits at once here and saves them; `says` names the change for undo and the audit trail. */
  edit(says: string, edits: Edit[]): void;
  undoLast(): void;
  redoNext(): void;
  /** Takes up the draft as somebody else left it. */
  take(state: DraftState): void;
  conflict: Conflict | undefined;
  /** Ends a conflict: with one's own text, or with theirs. */
  settle(mine: boolean): void;
}

type Result = Awaited<ReturnType<Actions["change"]>>;

/** The draft after a change that was answered; undefined: what was known is not what the server changed. */
function afterwards(result: Result & { ok: true }, known: SiteDraft): SiteDraft | undefined {
  if ("ruleset" in result) return result.ruleset;
  const applied = applyEdits(known, result.edits);
  return applied.ok ? applied.value : undefined;
}

type Me = Pick<OpenedDesk["me"], "id" | "roles">;

/** Keeps the draft: shows edits at once, saves them one after the other, and goes back to the server's word if one is refused. */
export function useDraft(initial: DraftState, { id: person, roles }: Me, site: string, actions: Actions): Draft {
  const [state, setState] = useState(initial);
  const [pending, setPending] = useState(0);
  const [conflict, setConflict] = useState<Conflict>();
  const { enqueueSnackbar } = useSnackbar();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const shown = useRef(initial.ruleset);
  const saved = useRef(initial);
  const waiting = useRef(0);
  const [unsent, setUnsent] = useState(false);

  const store = useMemo(() => unsentChanges(site, person), [site, person]);
  const [unkept, setUnkept] = useState(false);

  // What this browser does not keep would be lost with the page.
  const leaving = pending > 0 && unkept;
  useEffect(() => {
    if (!leaving) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [leaving]);

  const show = useCallback((ruleset: SiteDraft, more: Partial<DraftState> = {}) => {
    // What is shown already stays the very same: nothing that is being typed in loses its place.
    shown.current = keepSame(shown.current, ruleset);
    const now = shown.current;
    setState((old) => ({ ...old, ...more, ruleset: now }));
  }, []);
  const { news } = actions;
  const refresh = useCallback(async () => {
    const told = await news(-1, "").catch(() => undefined);
    // What was asked for before one's own last change was answered is older than that.
    if (told?.draft && told.draft.version >= saved.current.version) saved.current = told.draft;
    if (waiting.current === 0) show(saved.current.ruleset, saved.current);
  }, [news, show]);

  const send = useCallback(
    (ask: () => Promise<Result>, change?: Pick<Conflict, "says" | "edits">) => {
      waiting.current += 1;
      setPending((count) => count + 1);
      const done = (result: Result | { ok: false; problem: string }) => {
        waiting.current -= 1;
        setPending((count) => count - 1);
        const ruleset = result.ok ? afterwards(result, saved.current.ruleset) : undefined;
        if (result.ok && ruleset) {
          saved.current = { ruleset, version: result.version, undo: result.undo, redo: result.redo };
          // Later edits are on the screen already: only the last answer replaces what is shown.
          if (waiting.current === 0) show(ruleset, saved.current);
          else setState((old) => ({ ...old, version: result.version, undo: result.undo, redo: result.redo }));
          return;
        }
        if (result.ok) return void refresh();
        const stale = "stale" in result ? result.stale : undefined;
        if (stale && change) setConflict({ ...change, stale });
        else enqueueSnackbar(t("Not saved: {problem}", { problem: result.problem }), { variant: "error" });
        void refresh();
      };
      queue.current = queue.current.then(() =>
        ask().then(done, (error: unknown) => done({ ok: false, problem: whyNot(error) })),
      );
    },
    [enqueueSnackbar, show, refresh],
  );

  const sendChange = useCallback(
    (change: Unsent) => {
      const { name, says, edits } = change;
      if (!store.keep(change)) setUnkept(true);
      const ask = () => actions.change(says, [...edits], name, saved.current.version);
      // Answered or refused, it is no longer on its way: what was refused is said, and lies in the conflict.
      send(() => keepSending(ask, setUnsent).finally(() => store.drop(name)), { says, edits });
    },
    [send, store, actions],
  );
  // What an earlier page did not get rid of: it may have been saved and its answer lost, then it is not made again.
  const begun = useRef(false);
  useEffect(() => {
    const takeUp = () => {
      if (begun.current) return;
      begun.current = true;
      const left = store.read();
      for (const change of left) {
        const applied = applyEdits(shown.current, change.edits);
        if (applied.ok) show(applied.value);
        sendChange(change);
      }
      if (left.length > 0)
        enqueueSnackbar(
          left.length === 1
            ? t("Was not saved when this page was left, and is being sent: {says}", { says: left[0]?.says })
            : t("{left} changes were not saved when this page was left, and are being sent", { left: left.length }),
        );
    };
    const timer = setTimeout(takeUp);
    return () => clearTimeout(timer);
  }, [store, sendChange, show, enqueueSnackbar]);

  return useMemo(() => {
    const edit = (says: string, edits: Edit[]) => {
      const ability = lacking(roles, edits);
      if (ability) {
        enqueueSnackbar(t("Not changed: {refusal}", { refusal: refusal(roles, ability) }), { variant: "warning" });
        // Fields that hold what was typed go back to what stands there.
        setState((old) => ({ ...old, ruleset: { ...old.ruleset } }));
        return;
      }
      const applied = applyEdits(shown.current, edits);
      if (!applied.ok) {
        enqueueSnackbar(t("Not changed: {problem}", { problem: applied.problem }), { variant: "error" });
        return;
      }
      show(applied.value);
      // Sent again it is the same change: it has a name.
      sendChange({ name: uuid(), says, edits });
    };
    return {
      ...state,
      saving: pending > 0,
      unsent,
      edit,
      undoLast: () => send(() => actions.undo(saved.current.version)),
      redoNext: () => send(() => actions.redo(saved.current.version)),
      take(next) {
        // One's own edits that are still on their way come first: their answers bring the rest.
        if (waiting.current > 0 || next.version < saved.current.version) return;
        saved.current = next;
        show(next.ruleset, next);
      },
      conflict,
      settle(mine) {
        if (!conflict) return;
        setConflict(undefined);
        if (!mine) return;
        const anew = conflict.edits.map((item) =>
          item.do === "set" ? { ...item, before: valueAt(shown.current, item.at) } : item,
        );
        edit(conflict.says, anew);
      },
    };
  }, [state, pending, unsent, conflict, roles, enqueueSnackbar, show, send, sendChange, actions]);
}
