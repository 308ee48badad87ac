"use client";
import { t } from "@/core/messages/t";
import { useCallback, useEffect, useMemo, useState } from "react";
import { createEngine, type Engine } from "@/core/decision/engine";
import { runnable, type Runnable } from "@/core/draft/runnable";
import type { Decision } from "@/core/decision/decision";
import type { Ruleset } from "@/core/formats/ruleset";
import { parseInstant, type Place, type Visit } from "@/core/formats/visit";
import { onPage, type PageFacts } from "@/core/lens/pages";
import { readablePath } from "@/core/visit/url";
import { visitAt } from "@/core/lens/travel";
import type { Actions } from "../actions";

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
  /** Travels in time; the visitor's past moves along. */
  travel: (at: number) => void;
  engine: Engine;
  runnable: Runnable;
  decision: Decision;
  /** Where the visit's address was found to be; undefined: not asked for or not known. */
  placed: Place | undefined;
}

export const pathOf = (visit: Visit): string => readablePath(new URL(visit.url).pathname);

/** Decides the visit at hand under the draft, here in the browser, by the same engine that answers visitors. */
export function useLook(
  ruleset: Ruleset,
  facts: PageFacts,
  start: Visit,
  placeOf: Actions["placeOf"],
  otherHosts: readonly string[],
): Look {
  const [bare, setBare] = useState(start);
  const [found, setFound] = useState<{ ip: string; place: Place | undefined }>();
  const asked = bare.place ? undefined : bare.ip;
  useEffect(() => {
    if (!asked) return;
    let stale = false;
    placeOf(asked).then(
      (place) => !stale && setFound({ ip: asked, place: place ?? undefined }),
      () => undefined,
    );
    return () => {
      stale = true;
    };
  }, [asked, placeOf]);
  const placed = found && found.ip === asked ? found.place : undefined;

  const made = useMemo(() => {
    const ready = runnable(ruleset);
    return {
      runnable: ready,
      engine: createEngine(ready.ruleset, { lookup: () => placed, mayLeadTo: (host) => otherHosts.includes(host) }),
    };
  }, [ruleset, placed, otherHosts]);
  const path = pathOf(bare);
  // What the site tells of a page belongs to the page, not to the visitor: it follows the address.
  const visit = useMemo(() => onPage(bare, facts), [bare, facts]);
  const decision = useMemo(() => {
    try {
      return made.engine.decide(visit, { trace: true });
    } catch (error) {
      // What visitors would get then; the screens stay.
      console.error(t("The visit could not be decided"), error);
      return made.engine.withoutRules(visit);
    }
  }, [made, visit]);
  const travel = useCallback(
    (at: number) => setBare((old) => (parseInstant(old.at) === at ? old : visitAt(old, at))),
    [],
  );
  return { visit, path, setVisit: setBare, travel, ...made, decision, placed };
}
