"use client";
import { useCallback, useMemo, useState } from "react";
import { createEngine, type Engine } from "@/core/decision/engine";
import { runnable, type Runnable } from "@/core/draft/runnable";
import type { Decision } from "@/core/formats/decision";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { readablePath } from "@/core/visit/url";

/** A page of the site, with what the site tells of it. */
export interface SitePage {
  path: string;
  title: string;
  facts: NonNullable<Visit["page"]>;
}

/** What is looked at: the draft made ready, the visit, and what it gets. */
export interface Look {
  visit: Visit;
  path: string;
  setVisit: (visit: Visit) => void;
  engine: Engine;
  runnable: Runnable;
  decision: Decision;
}

export const pathOf = (visit: Visit): string => readablePath(new URL(visit.url).pathname);

/** Decides the visit at hand under the draft, here in the browser, by the same engine that answers visitors. */
export function useLook(ruleset: Ruleset, pages: readonly SitePage[], start: Visit): Look {
  const [bare, setBare] = useState(start);
  const made = useMemo(() => {
    const ready = runnable(ruleset);
    return { runnable: ready, engine: createEngine(ready.ruleset) };
  }, [ruleset]);
  const path = pathOf(bare);
  // What the site tells of a page belongs to the page, not to the visitor: it follows the address.
  const visit = useMemo(
    () => ({ ...bare, page: pages.find((page) => page.path === path)?.facts }) as Visit,
    [bare, pages, path],
  );
  const decision = useMemo(() => made.engine.decide(visit, { trace: true }), [made, visit]);
  const setVisit = useCallback((next: Visit) => setBare(next), []);
  return { visit, path, setVisit, ...made, decision };
}
