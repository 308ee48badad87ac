"use client";
import { t } from "@/core/messages/t";
import { useSearchParams } from "next/navigation";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { differences, nothingLive, type Difference } from "@/core/draft/difference";
import { keepSame, same } from "@/core/draft/edit";
import type { Ruleset } from "@/core/formats/ruleset";
import { restored } from "@/core/draft/besides";
import { emptyPicks, rulesetOf } from "@/core/draft/picks";
import type { SiteDraft } from "@/core/formats/site-draft";
import { factsByPath, withTold, type PageFacts, type ReadValues } from "@/core/lens/pages";
import type { DeskNews, KeptPause, ListItems, ListName, LookedBy, OpenedDesk, Present, Review } from "@/server/types";
import { useFindings, type FindingsState } from "../../findings/use-findings";
import { mayAs, type Ability } from "@/core/people/roles";
import { actionsOf, type Actions } from "../actions";
import { widthOf, type Width } from "../devices";
import { Panel } from "../panel";
import { FirstSteps } from "../help/first-steps";
import { VisitSentence } from "../sentence/sentence";
import { rememberSite } from "./last-site";
import { useLists, type Lists } from "./use-lists";
import { isByVisitor } from "./screens";
import { useScreen, useSiteId } from "./site-address";
import { Topline } from "./topline";
import { useDraft, type Draft } from "./use-draft";
import { ConflictDialog } from "./conflict-dialog";
import { SignedOut } from "./signed-out";
import { useKeptFocus } from "./use-kept-focus";
import { useNews } from "./use-news";
import { useReadFacts } from "./use-read-facts";
import { visitOfAddress } from "./visit-address";
import { useLook, type Look, type SitePage } from "./use-look";
import { setClock } from "@/clock";

export type Lens = ListItems["lenses"];
export type Product = ListItems["products"];

/** What every screen works on: the draft, the lens at hand, the site, and what may be asked of the server. */
export interface DeskState {
  draft: Draft;
  /** The draft as it is worked on, with its library. */
  ruleset: SiteDraft;
  look: Look;
  lenses: readonly Lens[];
  links: Lists["of"]["links"];
  /** The lens that was picked, by its id. */
  lens: string | null;
  pickLens: (lens: Lens) => void;
  width: Width;
  setWidth: (width: Width) => void;
  live: { ruleset: Ruleset; number: number } | undefined;
  /** What was asked to go live and is not decided, or waits for its time. */
  review: Review | null;
  pauses: readonly KeptPause[];
  setPauses: (pauses: KeptPause[]) => void;
  /** Who is signed in. */
  me: OpenedDesk["me"];
  may: (ability: Ability) => boolean;
  /** Whether a release needs a second person. */
  secondPerson: boolean;
  setSecondPerson: (needed: boolean) => void;
  /** Somebody's name by id. */
  nameOf: (person: string) => string;
  /** Who else has the workbench open. */
  present: readonly Present[];
  /** In what the draft differs from what is live. */
  changed: readonly Difference[];
  checks: Lists["of"]["checks"];
  /** The lists above, as far as they were read, and the ways to change them: `useNeeded` reads one to its end. */
  lists: Lists;
  /** What the analysis found in the draft. */
  findings: FindingsState;
  pages: readonly SitePage[];
  /** What the site tells of them, by path; what was read from pages that were opened comes with it. */
  facts: PageFacts;
  /** What was read from a page that was opened, by signal. */
  toldBy: (path: string) => ReadValues | undefined;
  takeTold: (path: string, values: ReadValues) => void;
  /** Other hosts that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: readonly string[];
  setOtherHosts: (hosts: readonly string[]) => void;
  products: readonly Product[];
  now: string;
  /** The site's id. */
  site: string;
  /** The origin at which its pages are looked at. */
  storefront: string;
  /** How they are: by the tag that they carry, or by the in-process door. */
  lookedBy: LookedBy;
  /** How this browser keeps the workbench. */
  kept: Kept;
  /** What came with the site to be tried out with. */
  examples: OpenedDesk["examples"];
  actions: Actions;
}

const Context = createContext<DeskState | undefined>(undefined);

export function useDesk(): DeskState {
  const desk = useContext(Context);
  if (!desk) throw new Error("useDesk needs a Desk around it");
  return desk;
}

/** Has lists read that a screen needs. @returns whether they are whole */
export function useNeeded(...names: readonly ListName[]): boolean {
  const { need, isWhole } = useDesk().lists;
  const all = names.join(" ");
  useEffect(() => {
    for (const name of all.split(" ")) need(name as ListName);
  }, [all, need]);
  return names.every(isWhole);
}

/** How a browser keeps the workbench, as it is known when it is opened. */
export interface Kept {
  /** Whether somebody closed the first steps on this site. */
  stepsClosed: boolean;
  /** How wide the part beside the page is, in pixels. */
  side: number;
}

interface Props {
  opened: OpenedDesk;
  storefront: string;
  lookedBy: LookedBy;
  kept: Kept;
  children: React.ReactNode;
}

/** What is live, from what it shares with the draft that it was told beside. */
const liveOf = (
  { told, ...live }: NonNullable<OpenedDesk["live"]>,
  draft: SiteDraft,
): NonNullable<DeskNews["live"]> => ({
  ...live,
  ruleset: restored(rulesetOf(draft), told) as Ruleset,
});

/** Takes the keyboard to what the screen is about: the slots on the main screen, else all below the lines at the top. */
function goToScreen(): void {
  const there = document.querySelector<HTMLElement>("main .slotside, main:not(.pages)");
  if (!there) return;
  there.tabIndex = -1;
  there.focus();
}

/** The desk on which all screens lie: it keeps draft and lens while the marketer goes from one to another. */
export function Desk({ opened, storefront, lookedBy, kept, children }: Props) {
  const { now, me, examples } = opened;
  const site = useSiteId();
  const actions = useMemo(() => actionsOf(site), [site]);
  const lists = useLists(opened.lists, actions);
  const { pages, lenses, links, checks, products } = lists.of;
  const [otherHosts, setOtherHosts] = useState<readonly string[]>(opened.otherHosts);
  const draft = useDraft(opened, me, site, actions);
  const { ruleset } = draft;
  const query = useSearchParams();
  const first = opened.lens;
  const [lens, setLens] = useState<string | null>(first?.id ?? null);
  const [told, setTold] = useState<ReadonlyMap<string, ReadValues>>(new Map());
  const takeTold = useCallback(
    (path: string, values: ReadValues) =>
      setTold((old) => (same(old.get(path), values) ? old : new Map([...old, [path, values]]))),
    [],
  );
  const [here] = useState(() => (opened.page ? [opened.page] : []));
  const facts = useMemo(() => withTold(factsByPath([...here, ...pages]), told), [here, pages, told]);
  useReadFacts(draft, mayAs(me, "slots"), actions, lists.again);
  const judged = useMemo(() => rulesetOf(ruleset), [ruleset]);
  const start = visitOfAddress(first?.visit ?? { at: now, url: `${ruleset.site.origin}/` }, query);
  const look = useLook(judged, facts, start, actions.placeOf, otherHosts);
  const [width, setWidth] = useState<Width>(first ? widthOf(first.visit) : "desktop");
  const [live, setLive] = useState<DeskNews["live"]>(() => opened.live && liveOf(opened.live, opened.ruleset));
  const [shared, setShared] = useState({ present: opened.present, names: opened.names, review: opened.review });
  const [pauses, setPauses] = useState<readonly KeptPause[]>(opened.pauses);
  const [secondPerson, setSecondPerson] = useState(opened.secondPerson);
  /** Counts what came of one's own changes: news that were asked for before are older. */
  const own = useRef(0);
  const known = { version: draft.version, mark: live?.mark ?? "", own: () => own.current };
  useNews(site, actions, known, (news) => {
    const { present, names, review } = news;
    setShared((old) => keepSame(old, { present, names, review }));
    setPauses((old) => keepSame(old, news.pauses));
    lists.hear(news.lists);
    if (news.live) setLive(news.live);
    if (news.draft) draft.take(news.draft);
  });
  useEffect(() => rememberSite(site), [site]);
  useKeptFocus();
  // The time of day is the server's, whatever this computer's clock says.
  useEffect(() => setClock(Date.parse(now)), [now]);
  const screen = useScreen();
  useEffect(() => {
    actions.here(screen).catch(() => undefined);
  }, [screen, actions]);
  const changed = useMemo(
    () => differences(live?.ruleset ?? nothingLive(judged), judged, emptyPicks(ruleset)),
    [live, judged, ruleset],
  );

  const findings = useFindings(look.runnable.ruleset, lists.isWhole("pages") ? pages : undefined);
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
    links,
    lens,
    pickLens(next) {
      setLens(next.id);
      look.setVisit(next.visit);
      setWidth(widthOf(next.visit));
    },
    width,
    setWidth,
    live,
    review: shared.review,
    pauses,
    setPauses(next) {
      own.current += 1;
      setPauses(next);
    },
    me,
    may: (ability) => mayAs(me, ability),
    secondPerson,
    setSecondPerson,
    nameOf: (person) => (person === "mirada" ? "Mirada" : (shared.names[person] ?? person)),
    present: shared.present,
    changed,
    checks,
    lists,
    findings,
    pages,
    facts,
    toldBy: (path) => told.get(path),
    takeTold,
    otherHosts,
    setOtherHosts,
    products,
    now,
    site,
    storefront,
    lookedBy,
    kept,
    examples,
    actions,
  };
  return (
    <Context value={state}>
      <div className="desk" style={{ "--side": `${kept.side}px` } as React.CSSProperties}>
        <a
          href="#screen"
          className="skip"
          onClick={(event) => {
            event.preventDefault();
            goToScreen();
          }}
        >
          {t("Skip to the screen")}
        </a>
        <Panel name={t("The top line")} of={[ruleset, live]}>
          <Topline />
        </Panel>
        {isByVisitor(screen) && (
          <div className="lead">
            <Panel name={t("The visit sentence")} of={[look.visit]}>
              <VisitSentence />
            </Panel>
            <FirstSteps />
          </div>
        )}
        <Panel name={t("This screen")} of={[screen, ruleset, look.visit]}>
          {children}
        </Panel>
        <ConflictDialog />
        <SignedOut />
      </div>
    </Context>
  );
}
