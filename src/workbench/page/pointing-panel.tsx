"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, X } from "lucide-react";
import { useEffect, useState } from "react";
import { freshThingId, insertItem } from "@/core/draft/lists";
import { addOwn, hasOwnContent, newSlot } from "@/core/draft/variants";
import { placeSays, placeWays, type SlotPlace } from "@/core/formats/ruleset";
import type { Pointed } from "@/core/preview/messages";
import type { PlaceSearch } from "@/server/types";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { GoalForm } from "./goal-form";
import { ValueForm } from "./value-form";
import { WorthForm } from "./worth-form";
import type { Pointing } from "./use-pointing";
import { WhichPages, type Where } from "./which-pages";

interface Props {
  pointing: Pointing;
  /** Opens a slot, and a variant of it. */
  onOpen: (slot: string, variant?: string) => void;
}
type How = (typeof placeWays)[number];
const ways: Record<How, string> = said({
  replace: text("It is the slot: versions change or replace it"),
  before: text("A new place before it"),
  after: text("A new place after it"),
  first: text("A new place inside it, at its start"),
  last: text("A new place inside it, at its end"),
});
/** What else a part may be for: it stays as it is. */
const uses = said({
  value: text("It tells a value: of the cart, the page or the visitor"),
  goal: text("It reaches a goal: a click in it, or sending it"),
  worth: text("It says what a goal is worth"),
});
type Use = keyof typeof uses;
const isUse = (what: How | Use): what is Use => what in uses;
const titles: Record<Pointing["wants"], string> = said({
  slot: text("A new slot"),
  value: text("A value on the page"),
  goal: text("A goal on the page"),
  worth: text("What a goal is worth"),
});
const aims: Record<Pointing["wants"], string> = said({
  slot: text("Click the part of the page that is to have versions."),
  value: text("Click what tells the value: the sum in the cart, the name of a category."),
  goal: text("Click what reaches the goal: a button, a link, a form."),
  worth: text("Click what says it: the sum of the order, the price of the room."),
});

/** A part of the page becomes the place of a slot: pointed at, named, and tried on the other pages. */
export function PointingPanel({ pointing, onOpen }: Props) {
  const { at, chosen } = pointing;
  return (
    <section aria-label={t("Point at a part of the page")} style={{ display: "contents" }}>
      <div className="slothead">
        <h2>{pointing.for !== null ? t("Another place for the slot") : titles[pointing.wants]}</h2>
        <IconButton onClick={pointing.stop} aria-label={t("End pointing")}>
          <X size={17} />
        </IconButton>
      </div>
      <div className="slotscroll">
        {chosen && at ? (
          <Chosen key={at.selector} at={at} pointing={pointing} onOpen={onOpen} />
        ) : (
          <Aiming pointing={pointing} />
        )}
      </div>
    </section>
  );
}

function Aiming({ pointing }: { pointing: Pointing }) {
  const { at, go } = pointing;
  return (
    <div className="editor">
      <p style={{ margin: 0 }}>{aims[pointing.wants]}</p>
      <div className="aimed" role="status">
        {at?.name ?? t("Nothing is pointed at yet.")}
      </div>
      <div className="row" role="group" aria-label={t("Point by keyboard")}>
        <IconButton
          size="small"
          onClick={() => go("wider")}
          aria-label={t("Wider: the part around it")}
          title={t("Wider (↑)")}
        >
          <ArrowUp size={16} />
        </IconButton>
        <IconButton
          size="small"
          onClick={() => go("narrower")}
          aria-label={t("Narrower: the first part in it")}
          title={t("Narrower (↓)")}
        >
          <ArrowDown size={16} />
        </IconButton>
        <IconButton
          size="small"
          onClick={() => go("previous")}
          aria-label={t("The part before it")}
          title={t("Before (←)")}
        >
          <ArrowLeft size={16} />
        </IconButton>
        <IconButton size="small" onClick={() => go("next")} aria-label={t("The part after it")} title={t("After (→)")}>
          <ArrowRight size={16} />
        </IconButton>
        <Button variant="contained" disabled={!at} onClick={() => go("choose")}>
          {t("Take this part")}
        </Button>
      </div>
      <span className="quiet">
        {t(
          "In the page the arrow keys do the same: ↑ wider, ↓ narrower, ← and → to the next; Enter takes it, Esc ends.",
        )}
      </span>
    </div>
  );
}

/** The part that was taken: what it lies in, what becomes of it, where else it is found. */
function Chosen({ at, pointing, onOpen }: Props & { at: Pointed }) {
  const { ruleset, draft, look } = useDesk();
  const again = ruleset.slots.find((slot) => slot.id === pointing.for);
  const [name, setName] = useState(at.name.slice(0, 80));
  const [what, setWhat] = useState<How | Use>(
    again?.at?.how ?? (pointing.wants === "slot" ? "replace" : pointing.wants),
  );
  const how = isUse(what) ? "replace" : what;
  const isSlot = !isUse(what);
  /** Whether it is read, and nothing happens on it. */
  const tells = what === "value" || what === "worth";
  const goal = ruleset.goals.find(({ id }) => id === pointing.goal);
  const [each, setEach] = useState(again?.at?.each === true && at.like !== undefined);
  const [where, setWhere] = useState<Where>("every");
  const { selector, within } = each && at.like ? at.like : at;
  const here = look.path;
  const { value: searched } = useAsked("searchPlace", [selector, here], { when: !within });
  const found = searched && !("problem" in searched) ? searched : undefined;
  const taken = how === "replace" ? ruleset.slots.find((slot) => slot.id === at.slot && slot !== again) : undefined;
  const place: SlotPlace = { selector, how, ...(within ? { within } : {}), ...(each ? { each } : {}) };
  const { go } = pointing;
  useEffect(() => go(each ? "each" : "alone"), [each, go]);

  const make = (withCopy: boolean) => {
    const id = freshThingId(name, "slots", ruleset);
    const pages = where === "this" ? { signal: "page.path", op: "is" as const, value: look.path } : null;
    const slot = { ...newSlot(id, name.trim()), pages, at: place };
    const edits = [insertItem(["slots"], slot, ruleset.slots.length)];
    const added = withCopy ? addOwn(slot, ruleset) : undefined;
    if (added) edits.push(added.edit);
    draft.edit(t("Slot {slot} is new", { slot: slot.name }), edits);
    pointing.stop();
    onOpen(id, added?.id);
  };
  const replace = () => {
    if (!again) return;
    draft.edit(t("Another place for {again}", { again: again.name }), [
      { do: "set", at: ["slots", again.id, "at"], before: again.at, after: place },
    ]);
    pointing.stop();
    onOpen(again.id);
  };
  return (
    <div className="editor">
      <div className="aimed chosen">{at.name}</div>
      <div className="row" style={{ flexWrap: "wrap", gap: "2px 4px" }} role="group" aria-label={t("What it lies in")}>
        {at.around.length > 0 && <span className="quiet">{t("in")}</span>}
        {at.around
          .map((words, number) => ({ words, number }))
          .reverse()
          .slice(0, 5)
          .map(({ words, number }) => (
            <Button key={number} size="small" onClick={() => pointing.around(number)} sx={{ py: 0, px: 1 }}>
              {words}
            </Button>
          ))}
      </div>
      <div className="row">
        <Button onClick={() => pointing.go("again")}>{t("Point at another part")}</Button>
      </div>
      {at.like && !tells && (
        <FormControlLabel
          control={<Checkbox checked={each} onChange={(event) => setEach(event.target.checked)} />}
          label={t("Each like it: {times} on this page", { times: at.like.times })}
          sx={{ my: -1 }}
        />
      )}
      {!tells &&
        (within ? (
          <span className="quiet">
            {t(
              "It lies in a part that draws itself apart: on which other pages it stands shows only when they are opened.",
            )}
          </span>
        ) : (
          <OnPages found={found} here={look.path} each={each} />
        ))}
      {at.byPosition && !each && (
        <div className="missing" role="note">
          {t(
            "Only its position tells this part from its like. When the page changes, another may stand there: a wider part, or an id in the page, is safer.",
          )}
        </div>
      )}
      {taken && isSlot && (
        <div className="missing" role="note">
          {t("This is the place of the slot “{taken}” already.", { taken: taken.name })}{" "}
          <Button
            size="small"
            onClick={() => {
              pointing.stop();
              onOpen(taken.id);
            }}
          >
            {t("Open it")}
          </Button>
        </div>
      )}
      <TextField
        select
        label={t("What becomes of it")}
        value={what}
        onChange={(event) => setWhat(event.target.value as How | Use)}
        fullWidth
      >
        {placeWays.map((way) => (
          <MenuItem key={way} value={way}>
            {ways[way]}
          </MenuItem>
        ))}
        {!again && !at.within && <MenuItem value="value">{uses.value}</MenuItem>}
        {!again && <MenuItem value="goal">{uses.goal}</MenuItem>}
        {!again && !at.within && ruleset.goals.length > 0 && <MenuItem value="worth">{uses.worth}</MenuItem>}
      </TextField>
      {what === "value" && <ValueForm at={at} onDone={pointing.stop} />}
      {what === "goal" && (
        <GoalForm at={{ selector, ...(within ? { within } : {}) }} name={at.name} goal={goal} onDone={pointing.stop} />
      )}
      {what === "worth" && <WorthForm at={at} goal={goal} onDone={pointing.stop} />}
      {!again && isSlot && (
        <>
          <TextField
            label={t("Name of the slot")}
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            error={name.trim() === ""}
            helperText={name.trim() === "" ? t("Give it a name") : undefined}
            slotProps={{ htmlInput: { maxLength: 200 } }}
            fullWidth
          />
          <WhichPages where={where} here={look.path} onWhere={setWhere} />
        </>
      )}
      <details>
        <summary className="quiet">{t("How it is found")}</summary>
        <code style={{ overflowWrap: "anywhere" }}>{placeSays({ ...place, how: "replace" })}</code>
      </details>
      <div className="row" style={{ flexWrap: "wrap" }}>
        {!isSlot ? null : again ? (
          <Button variant="contained" onClick={replace}>
            {t("Use this place")}
          </Button>
        ) : (
          <>
            {hasOwnContent({ at: place }) && (
              <Button
                variant="contained"
                disabled={name.trim() === "" || taken !== undefined}
                onClick={() => make(true)}
              >
                {t("Copy what stands there")}
              </Button>
            )}
            <Button disabled={name.trim() === "" || taken !== undefined} onClick={() => make(false)}>
              {t("Make the slot only")}
            </Button>
          </>
        )}
      </div>
    </div>
  );
}

/** On how many pages a part is found, and on which it is not, or several times. `each`: then several times is as it should be. */
function OnPages({ found, here, each }: { found: PlaceSearch | undefined; here: string; each: boolean }) {
  if (!found) return <span className="quiet">{t("Looking for it on the site’s other pages …")}</span>;
  // It stands on this page, and the server does not find it there: scripts draw it.
  if (found.pages.every((page) => !page.found) || found.pages.some((page) => page.path === here && page.found === 0))
    return (
      <span className="quiet">
        {t("This page is drawn in the browser: on which other pages it stands shows only when they are opened.")}
      </span>
    );
  const count = (test: (times: number) => boolean) =>
    found.pages.filter((page) => page.found !== null && test(page.found));
  const [once, several, none] = [
    count((n) => n === 1 || (each && n > 1)),
    count((n) => n > 1 && !each),
    count((n) => n === 0),
  ];
  const unread = found.pages.filter((page) => page.found === null).length;
  const some = (pages: PlaceSearch["pages"]) =>
    `${pages
      .slice(0, 3)
      .map((page) => page.path)
      .join(", ")}${pages.length > 3 ? t(" and {pages} more", { pages: pages.length - 3 }) : ""}`;
  const pages = (number: number) => t("{number, plural, one {# page} other {# pages}}", { number });
  return (
    <div className="stack" style={{ gap: 2 }} role="status">
      <span>
        {t("Found {each}on {once}", { each: each ? "" : "once ", once: pages(once.length) })}
        {none.length > 0 && once.length > 0 && t(", not on {none}", { none: some(none) })}
      </span>
      {several.length > 0 && (
        <span className="missing">
          {t("Found several times on {several}: nothing is put in there.", { several: some(several) })}
        </span>
      )}
      {(unread > 0 || found.untried > 0) && (
        <span className="quiet">
          {[
            unread > 0 && t("{unread} could not be read", { unread: pages(unread) }),
            found.untried > 0 && t("{untried} were not tried", { untried: pages(found.untried) }),
          ]
            .filter(Boolean)
            .join(", ")}
        </span>
      )}
    </div>
  );
}
