"use client";
import { useSearchParams } from "next/navigation";
import { createContext, useContext, useEffect, useMemo, useState } from "react";
import { differences, type Difference } from "@/core/draft/difference";
import type { Check } from "@/core/formats/check";
import type { Ruleset } from "@/core/formats/ruleset";
import { rulesetOf } from "@/core/draft/picks";
import type { SiteDraft } from "@/core/formats/site-draft";
import type { Visit } from "@/core/formats/visit";
import { factsByPath, type PageFacts } from "@/core/visit/pages";
import type { Step } from "@/core/visit/journey";
import type { OpenedDesk } from "@/server/desk";
import { useFindings, type FindingsState } from "../../findings/use-findings";
import type { Actions } from "../actions";
import { widthOf, type Width } from "../devices";
import { VisitSentence } from "../sentence/sentence";
import { Topline } from "./topline";
import { useDraft, type Draft } from "./use-draft";
import { useLook, type Look, type SitePage } from "./use-look";

export interface Lens {
  id: string;
  name: string;
  visit: Visit;
  /** The pages looked at after the first. */
  steps: Step[];
}
export type Product = OpenedDesk["products"][number];

/** What every screen works on: the draft, the lens at hand, the site, and what may be asked of the server. */
export interface DeskState {
  draft: Draft;
  /** The draft as it is worked on, with its library. */
  ruleset: SiteDraft;
  look: Look;
  lenses: readonly Lens[];
  setLenses: (lenses: Lens[]) => void;
  /** The lens that was picked, by its id. */
  lens: string | null;
  pickLens: (lens: Lens) => void;
  width: Width;
  setWidth: (width: Width) => void;
  live: { ruleset: Ruleset; number: number } | undefined;
  setLive: (live: { ruleset: Ruleset; number: number }) => void;
  /** In what the draft differs from what is live. */
  changed: readonly Difference[];
  checks: readonly Check[];
  setChecks: (checks: Check[]) => void;
  /** What the analysis found in the draft. */
  findings: FindingsState;
  pages: readonly SitePage[];
  setPages: (pages: readonly SitePage[]) => void;
  /** What the site tells of them, by path. */
  facts: PageFacts;
  /** Other hosts that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: readonly string[];
  setOtherHosts: (hosts: readonly string[]) => void;
  products: readonly Product[];
  now: string;
  storefront: string;
  actions: Actions;
}

const Context = createContext<DeskState | undefined>(undefined);

export function useDesk(): DeskState {
  const desk = useContext(Context);
  if (!desk) throw new Error("useDesk needs a Desk around it");
  return desk;
}

interface Props {
  opened: OpenedDesk;
  storefront: string;
  actions: Actions;
  children: React.ReactNode;
}

/** The desk on which all screens lie: it keeps draft and lens while the marketer goes from one to another. */
export function Desk({ opened, storefront, actions, children }: Props) {
  const { products, now } = opened;
  const [pages, setPages] = useState<readonly SitePage[]>(opened.pages);
  const [otherHosts, setOtherHosts] = useState<readonly string[]>(opened.otherHosts);
  const draft = useDraft(opened, actions);
  const { ruleset } = draft;
  const [lenses, setLenses] = useState<readonly Lens[]>(opened.lenses);
  const [checks, setChecks] = useState<readonly Check[]>(opened.checks);
  const wanted = useSearchParams().get("lens");
  const first = opened.lenses.find((item) => item.id === wanted) ?? opened.lenses[0];
  const [lens, setLens] = useState<string | null>(first?.id ?? null);
  const facts = useMemo(() => factsByPath(pages), [pages]);
  const judged = useMemo(() => rulesetOf(ruleset), [ruleset]);
  const start = first?.visit ?? { at: now, url: `${ruleset.site.origin}/` };
  const look = useLook(judged, facts, start, actions.placeOf, otherHosts);
  const [width, setWidth] = useState<Width>(first ? widthOf(first.visit) : "desktop");
  const [live, setLive] = useState(opened.live);
  const changed = useMemo(() => (live ? differences(live.ruleset, judged) : []), [live, judged]);

  const findings = useFindings(look.runnable.ruleset, pages);
  const { undoLast, redoNext } = draft;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const field = (event.target as HTMLElement).closest("input, textarea, [contenteditable]");
      if (field || !(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) undoLast();
      else if ((key === "z" && event.shiftKey) || key === "y") redoNext();
      else return;
      event.preventDefault();
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [undoLast, redoNext]);

  const state: DeskState = {
    draft,
    ruleset,
    look,
    lenses,
    setLenses,
    lens,
    pickLens(next) {
      setLens(next.id);
      look.setVisit(next.visit);
      setWidth(widthOf(next.visit));
    },
    width,
    setWidth,
    live,
    setLive,
    changed,
    checks,
    setChecks,
    findings,
    pages,
    setPages,
    facts,
    otherHosts,
    setOtherHosts,
    products,
    now,
    storefront,
    actions,
  };
  return (
    <Context value={state}>
      <div className="desk">
        <Topline />
        <VisitSentence />
        {children}
      </div>
    </Context>
  );
}
