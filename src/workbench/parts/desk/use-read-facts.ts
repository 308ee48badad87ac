"use client";
import { useEffect, useRef } from "react";
import type { Actions } from "../actions";
import type { Draft } from "./use-draft";

/** Has the facts of the pages read anew once it is kept that other values are read from them. */
export function useReadFacts(
  { ruleset, saving }: Pick<Draft, "ruleset" | "saving">,
  may: boolean,
  actions: Pick<Actions, "readFacts">,
  again: (list: "pages") => void,
): void {
  const collected = JSON.stringify(ruleset.collect);
  const read = useRef(collected);
  useEffect(() => {
    if (saving || !may || collected === read.current) return;
    read.current = collected;
    actions.readFacts().then(
      () => again("pages"),
      () => undefined,
    );
  }, [collected, saving, may, actions, again]);
}
