"use client";
import { useEffect, useMemo, useState } from "react";
import { createEngine } from "@/core/decision/engine";
import { onPage } from "@/core/lens/pages";
import { useDesk, useNeeded } from "../parts/desk/desk";

/** So many pages are asked at a time, so that nothing waits for them. */
const atOnce = 50;

/**
 * The paths on which each slot is, by its id, as far as they were found out: slots are asked for page by page, as visitors would.
 * @returns `whole`: whether all pages were asked
 */
export function useSlotPages(): { pagesOf: ReadonlyMap<string, readonly string[]>; whole: boolean } {
  const { look, pages, facts } = useDesk();
  const listed = useNeeded("pages");
  const { ruleset } = look.runnable;
  const engine = useMemo(() => {
    // What is in them says nothing of where they are.
    const slots = ruleset.slots.map((slot) => ({ ...slot, variants: [], fallback: null }));
    return createEngine({ ...ruleset, slots, popups: [], offers: [], markers: [], redirects: [] });
  }, [ruleset]);
  const [found, setFound] = useState<{ pagesOf: ReadonlyMap<string, readonly string[]>; whole: boolean }>({
    pagesOf: new Map(),
    whole: false,
  });
  const { at, url } = look.visit;
  const { origin } = new URL(url);
  useEffect(() => {
    if (!listed) return;
    const pagesOf = new Map<string, string[]>();
    let next = 0;
    let timer: ReturnType<typeof setTimeout>;
    const more = () => {
      for (const { path } of pages.slice(next, next + atOnce)) {
        const visit = onPage({ at, url: new URL(path, origin).href }, facts);
        for (const slot of Object.keys(engine.decide(visit).slots))
          pagesOf.set(slot, [...(pagesOf.get(slot) ?? []), path]);
      }
      next += atOnce;
      if (next < pages.length) timer = setTimeout(more);
      else setFound({ pagesOf, whole: true });
    };
    timer = setTimeout(more);
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- where slots are does not hang on the time that is looked at
  }, [listed, pages, facts, engine, origin]);
  return found;
}
