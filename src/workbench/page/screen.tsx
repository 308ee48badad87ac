"use client";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { Redo2, Undo2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useCallback, useEffect, useMemo, useState } from "react";
import { differences } from "@/core/draft/difference";
import type { Ruleset } from "@/core/formats/ruleset";
import { takePaste } from "@/core/visit/phrases";
import { readDevice } from "@/core/visit/device";
import type { Actions } from "../parts/actions";
import type { Width } from "../parts/devices";
import { useDraft, type DraftState } from "../parts/use-draft";
import { LiveDialog } from "./live-dialog";
import { PageFrame } from "./page-frame";
import { Ribbon } from "./ribbon";
import { VisitSentence, type Lens } from "./sentence";
import { SlotPanel, type Pinned } from "./slot-panel";
import { useLook, type SitePage } from "./use-look";
import { VariantEditor } from "./variant-editor";

interface Props {
  initial: DraftState;
  live: { ruleset: Ruleset; number: number } | undefined;
  pages: SitePage[];
  lenses: Lens[];
  /** The time at which the screen was opened. */
  now: string;
  storefront: string;
  actions: Actions;
}

const widthOf = (lens: Lens): Width => {
  const kind = readDevice(lens.visit.userAgent, lens.visit.hints)?.kind;
  return kind === "phone" || kind === "tablet" ? kind : "desktop";
};

/** The main screen: the visit sentence, the page, the slot and the ribbon. */
export function PageScreen({ initial, live: wasLive, pages, lenses: known, now, storefront, actions }: Props) {
  const draft = useDraft(initial, actions);
  const { ruleset } = draft;
  const [lenses, setLenses] = useState(known);
  const first = known[0];
  const [lens, setLens] = useState<string | null>(first?.id ?? null);
  const look = useLook(ruleset, pages, first?.visit ?? { at: now, url: `${ruleset.site.origin}/` });
  const [width, setWidth] = useState<Width>(first ? widthOf(first) : "desktop");
  const [live, setLive] = useState(wasLive);
  const [wanted, setWanted] = useState<string>();
  const [open, setOpen] = useState<{ slot: string; variant: string | null }>();
  const [pin, setPin] = useState<Pinned>();
  const [going, setGoing] = useState(false);
  const { enqueueSnackbar } = useSnackbar();

  const onPage = useMemo(() => {
    const there = new Set(Object.keys(look.decision.slots));
    return ruleset.slots.filter((slot) => there.has(slot.id));
  }, [ruleset.slots, look.decision]);
  const slot =
    onPage.find((item) => item.id === wanted) ?? onPage.find((item) => item.id.includes("hero")) ?? onPage[0];
  const opened = open && slot?.id === open.slot ? open : undefined;
  const variant = opened?.variant ? slot?.variants.find((item) => item.id === opened.variant) : null;
  const changed = useMemo(() => (live ? differences(live.ruleset, ruleset) : []), [live, ruleset]);
  const problems = look.runnable.problems;

  const openVariant = useCallback((slotId: string, id: string | null) => {
    setWanted(slotId);
    setOpen({ slot: slotId, variant: id });
    setPin({ slot: slotId, variant: id });
  }, []);
  const close = useCallback(() => {
    setOpen(undefined);
    setPin(undefined);
  }, []);
  const chooseSlot = useCallback((id: string) => {
    setWanted(id);
    setOpen(undefined);
    setPin(undefined);
  }, []);
  const { visit, setVisit } = look;
  const go = useCallback(
    (href: string) => {
      const url = URL.canParse(href) ? new URL(href) : undefined;
      if (!url || url.origin !== storefront) return;
      const taken = takePaste(`${ruleset.site.origin}${url.pathname}`, visit, ruleset.site.origin);
      if ("visit" in taken) setVisit(taken.visit);
    },
    [storefront, ruleset.site.origin, visit, setVisit],
  );

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

  const pick = (next: Lens) => {
    setLens(next.id);
    setVisit(next.visit);
    setWidth(widthOf(next));
  };

  return (
    <div className="desk">
      <header className="topline">
        <span className="mark">
          <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden>
            <path
              d="M1 8C5 2 9 1 12 1s7 1 11 7c-4 6-8 7-11 7S5 14 1 8Z"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.7"
            />
            <circle cx="12" cy="8" r="3.6" fill="var(--lens)" />
          </svg>
          Mirada
        </span>
        <span className="site">{ruleset.site.name}</span>
        <div className="end">
          <Tooltip title={draft.undo ? `Undo: ${draft.undo}` : "Nothing to undo"}>
            <span>
              <IconButton aria-label="Undo" disabled={!draft.undo} onClick={() => draft.undoLast()}>
                <Undo2 size={16} />
              </IconButton>
            </span>
          </Tooltip>
          <Tooltip title={draft.redo ? `Redo: ${draft.redo}` : "Nothing to redo"}>
            <span>
              <IconButton aria-label="Redo" disabled={!draft.redo} onClick={() => draft.redoNext()}>
                <Redo2 size={16} />
              </IconButton>
            </span>
          </Tooltip>
          <span className="quiet" role="status" style={{ minWidth: 60 }}>
            {draft.saving ? "Saving …" : "Saved"}
          </span>
          {problems.length > 0 && (
            <span className="pill problem">
              {problems.length === 1 ? "1 thing" : `${problems.length} things`} not finished
            </span>
          )}
          <a
            href={storefront}
            target="_blank"
            rel="noreferrer"
            className="pill live"
            style={{ textDecoration: "none" }}
          >
            Live · release {live?.number ?? "none"}
          </a>
          <span className="pill draft">
            {changed.length === 0
              ? "Draft · no changes"
              : `Draft · ${changed.length === 1 ? "1 change" : `${changed.length} changes`}`}
          </span>
          <Button variant="contained" onClick={() => setGoing(true)}>
            Put live
          </Button>
        </div>
      </header>
      <VisitSentence
        look={look}
        ruleset={ruleset}
        pages={pages}
        lenses={lenses}
        lens={lens}
        now={now}
        onLens={pick}
        onLenses={setLenses}
        onWidth={setWidth}
        actions={actions}
      />
      <PageFrame
        look={look}
        site={ruleset.site.id}
        storefront={storefront}
        version={draft.version}
        slots={onPage}
        selected={slot?.id}
        pin={pin}
        width={width}
        onWidth={setWidth}
        onSlot={chooseSlot}
        onGo={go}
        onUnpin={() => setPin(undefined)}
        actions={actions}
      />
      <aside className="slotside" aria-label="The slot">
        {onPage.length > 1 && !opened && (
          <div
            className="row"
            style={{ padding: "8px 16px", borderBottom: "1px solid var(--hair)", gap: 4 }}
            role="tablist"
            aria-label="Slots on this page"
          >
            {onPage.map((item, index) => (
              <Button
                key={item.id}
                role="tab"
                aria-selected={item.id === slot?.id}
                variant={item.id === slot?.id ? "contained" : "text"}
                onClick={() => chooseSlot(item.id)}
                sx={{ px: 1.75, py: 0.25, fontSize: 12.5 }}
              >
                {index + 1} {item.name}
              </Button>
            ))}
          </div>
        )}
        {slot && opened && (opened.variant === null || variant) ? (
          <VariantEditor
            key={`${slot.id} ${opened.variant ?? ""}`}
            slot={slot}
            variant={variant ?? null}
            look={look}
            draft={draft}
            pin={pin}
            onPin={setPin}
            onClose={close}
          />
        ) : slot ? (
          <SlotPanel
            slot={slot}
            number={onPage.indexOf(slot) + 1}
            look={look}
            draft={draft}
            pin={pin}
            onPin={setPin}
            onOpen={(id) => openVariant(slot.id, id)}
          />
        ) : (
          <p className="quiet" style={{ padding: 16 }}>
            This page has no slots. Choose another page in the sentence above.
          </p>
        )}
      </aside>
      <Ribbon look={look} ruleset={ruleset} slot={slot} now={now} />
      {going && (
        <LiveDialog
          ruleset={ruleset}
          version={draft.version}
          saving={draft.saving}
          differences={changed}
          problems={problems}
          onClose={() => setGoing(false)}
          onLive={(number) => {
            setLive({ ruleset, number });
            setGoing(false);
            enqueueSnackbar(`Release ${number} is live`, { variant: "success" });
          }}
          onGo={(slotId, id) => {
            setGoing(false);
            openVariant(slotId, id ?? null);
          }}
          actions={actions}
        />
      )}
    </div>
  );
}
