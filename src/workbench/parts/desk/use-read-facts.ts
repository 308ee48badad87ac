"use client";
import { useEffect, useRef } from "react";
import type { Actions } from "../actions";
import type { Draft } from "./use-draft";
import type { SitePage } from "./use-look";

/** Has the facts of the pages read anew once it is kept that other values are read from them. */
export function useReadFacts(
  { ruleset, saving }: Pick<Draft, "ruleset" | "saving">,
  may: boolean,
  actions: Pick<Actions, "readFacts">,
  take: (pages: readonly SitePage[]) => void,
): void {
  const collected = JSON.stringify(ruleset.collect);
  const read = useRef(collected);
  useEffect(() => {
    if (saving || !may || collected === read.current) return;
    read.current = collected;
    actions.readFacts().then(take, () => undefined);
  }, [collected, saving, may, actions, take]);
}
