"use client";
import { useSnackbar } from "notistack";
import { useCallback, useMemo, useRef, useState } from "react";
import { applyEdits, same, type Edit } from "@/core/draft/edit";
import type { SiteDraft } from "@/core/formats/site-draft";
import type { Actions } from "../actions";

export interface DraftState {
  ruleset: SiteDraft;
  version: number;
  undo: string | null;
  redo: string | null;
}

/** The draft on the screen, and the ways to change it. */
export interface Draft extends DraftState {
  saving: boolean;
  /** Applies edits at once here and saves them; `says` names the change for undo and the audit trail. */
  edit(says: string, edits: Edit[]): void;
  undoLast(): void;
  redoNext(): void;
}

type Result = Awaited<ReturnType<Actions["change"]>>;

/** Keeps the draft: shows edits at once, saves them one after the other, and goes back to the server's word if one is refused. */
export function useDraft(initial: DraftState, actions: Actions): Draft {
  const [state, setState] = useState(initial);
  const [pending, setPending] = useState(0);
  const { enqueueSnackbar } = useSnackbar();
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const shown = useRef(initial.ruleset);
  const saved = useRef(initial);
  const waiting = useRef(0);
  const site = initial.ruleset.site.id;

  const show = useCallback((ruleset: SiteDraft, more: Partial<DraftState> = {}) => {
    shown.current = ruleset;
    setState((old) => ({ ...old, ...more, ruleset }));
  }, []);

  const send = useCallback(
    (ask: () => Promise<Result>) => {
      waiting.current += 1;
      setPending((count) => count + 1);
      const done = (result: Result | undefined) => {
        waiting.current -= 1;
        setPending((count) => count - 1);
        if (result?.ok) {
          saved.current = { ruleset: result.ruleset, version: result.version, undo: result.undo, redo: result.redo };
          // Later edits are on the screen already: only the last answer replaces what is shown.
          // What is shown already stays the very same: nothing that is being typed in loses its place.
          if (waiting.current === 0)
            show(same(result.ruleset, shown.current) ? shown.current : result.ruleset, {
              version: result.version,
              undo: result.undo,
              redo: result.redo,
            });
          else setState((old) => ({ ...old, version: result.version, undo: result.undo, redo: result.redo }));
          return;
        }
        enqueueSnackbar(
          result ? `Not saved: ${result.problem}` : "Not saved: the server could not be reached. Try again.",
          { variant: "error" },
        );
        if (waiting.current === 0) show(saved.current.ruleset, saved.current);
      };
      queue.current = queue.current.then(() => ask().then(done, () => done(undefined)));
    },
    [enqueueSnackbar, show],
  );

  return useMemo(
    () => ({
      ...state,
      saving: pending > 0,
      edit(says, edits) {
        const applied = applyEdits(shown.current, edits);
        if (!applied.ok) {
          enqueueSnackbar(`Not changed: ${applied.problem}`, { variant: "error" });
          return;
        }
        show(applied.value);
        send(() => actions.change({ site, says, edits }));
      },
      undoLast: () => send(() => actions.undo(site)),
      redoNext: () => send(() => actions.redo(site)),
    }),
    [state, pending, enqueueSnackbar, show, send, actions, site],
  );
}
