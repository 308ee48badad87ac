"use client";
import Button from "@mui/material/Button";
import { useMemo, useRef, useState } from "react";
import { timeline } from "@/core/analysis/timeline";
import type { Ruleset, Slot } from "@/core/formats/ruleset";
import { parseInstant } from "@/core/formats/visit";
import { instantPhrase, weekdayNames, zonePhrase } from "@/core/rules/phrases";
import { day as dayLength, fromDay, weekday } from "@/core/schedule/calendar";
import { zoneOf } from "@/core/schedule/zone";
import { colourOf, indexIn, letterOf } from "../parts/variants";
import type { Look } from "../parts/desk/use-look";

interface Props {
  look: Look;
  ruleset: Ruleset;
  slot: Slot | undefined;
  now: string;
}
const hour = 3_600_000;
const monthShort = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** The time line of who wins when, over seven days, with a cursor that travels in time. */
export function Ribbon({ look, ruleset, slot, now }: Props) {
  const zone = zoneOf(ruleset.site.zone);
  const at = parseInstant(look.visit.at) as number;
  const dayOf = (instant: number) => Math.floor(zone.toLocal(instant) / dayLength);
  const [anchor, setAnchor] = useState(() => dayOf(at));
  const [steady, setSteady] = useState(at);
  const track = useRef<HTMLDivElement>(null);

  // The week stays where it is while the cursor moves inside it, and follows the lens when that leaves it.
  const today = dayOf(at);
  if (steady !== at) {
    setSteady(at);
    if (today < anchor || today >= anchor + 7) setAnchor(today);
  }
  const from = zone.toInstant(anchor * dayLength);
  const until = zone.toInstant((anchor + 7) * dayLength);

  // Time alone does not change who wins at another time: the ribbon is worked out anew only for another visitor or draft.
  const visitor = JSON.stringify({ ...look.visit, at: "" });
  const stretches = useMemo(
    () => (slot ? timeline(look.engine, slot.id, look.visit, from, until) : []),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `visitor` stands for the visit without its time
    [look.engine, slot?.id, visitor, from, until],
  );

  const share = (instant: number): string => `${((instant - from) / (until - from)) * 100}%`;
  const move = (instant: number) => look.travel(Math.round(instant / 60_000) * 60_000);
  const follow = (clientX: number) => {
    const box = track.current?.getBoundingClientRect();
    if (!box) return;
    const part = Math.min(0.9999, Math.max(0, (clientX - box.left) / box.width));
    const quarter = 15 * 60_000;
    move(Math.floor((from + part * (until - from)) / quarter) * quarter);
  };
  const steps: Record<string, number> = {
    ArrowLeft: -hour,
    ArrowRight: hour,
    ArrowDown: -hour,
    ArrowUp: hour,
    PageDown: -24 * hour,
    PageUp: 24 * hour,
  };
  const days = Array.from({ length: 7 }, (_, index) => anchor + index);
  const winner = (variants: (string | null)[]) => (slot ? indexIn(slot, variants[0] ?? null) : -1);
  const inView = at >= from && at < until;

  return (
    <section className="ribbon" aria-label="Who wins when">
      <span className="quiet">
        <b style={{ color: "var(--ink)" }}>{slot?.name ?? "No slot"}</b>, this lens
      </span>
      <div className="days">
        {days.map((number) => {
          const { day, month } = fromDay(number);
          const text = `${(weekdayNames[weekday(number)] as string).slice(0, 3)} ${day}${day === 1 || number === anchor ? ` ${monthShort[month - 1]}` : ""}`;
          return (
            <span key={number} style={{ left: share(zone.toInstant(number * dayLength)) }}>
              {number === today ? <b>{text}</b> : text}
            </span>
          );
        })}
      </div>
      <span className="quiet">who wins when</span>
      <div
        className="track"
        ref={track}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          follow(event.clientX);
        }}
        onPointerMove={(event) => event.buttons === 1 && follow(event.clientX)}
      >
        {stretches.map((stretch) => {
          const index = winner(stretch.variants);
          const wide = (stretch.until - stretch.from) / (until - from) > 0.07;
          const name =
            index < 0
              ? stretch.onPage
                ? "Fallback"
                : "Not on this page"
              : `${letterOf(index)} ${slot?.variants[index]?.name}`;
          return (
            <i
              key={stretch.from}
              className={index < 0 ? "none" : undefined}
              title={`${name}: ${instantPhrase(stretch.from, ruleset.site.zone, false)} to ${instantPhrase(stretch.until, ruleset.site.zone, false)}`}
              style={{
                left: share(stretch.from),
                width: `${((stretch.until - stretch.from) / (until - from)) * 100}%`,
                background: index >= 0 ? colourOf(index) : stretch.onPage ? "var(--fallback)" : "var(--sunk)",
              }}
            >
              {wide && <span>{name}</span>}
            </i>
          );
        })}
        {days.slice(1).map((number) => (
          <span key={number} className="line" style={{ left: share(zone.toInstant(number * dayLength)) }} />
        ))}
        {zone.changes(from, until).map((change) => (
          <span
            key={change}
            className="change"
            style={{ left: share(change) }}
            title={`The clocks change here: ${instantPhrase(change, ruleset.site.zone)}`}
          />
        ))}
        {inView && (
          <div
            className="cursor"
            role="slider"
            tabIndex={0}
            aria-label="Time travelled to"
            aria-valuemin={from}
            aria-valuemax={until}
            aria-valuenow={at}
            aria-valuetext={instantPhrase(at, ruleset.site.zone)}
            style={{ left: share(at) }}
            onKeyDown={(event) => {
              const step = steps[event.key];
              if (step === undefined) return;
              event.preventDefault();
              move(at + step * (event.shiftKey && Math.abs(step) === hour ? 24 : 1));
            }}
          />
        )}
      </div>
      <span className="quiet">times in {zonePhrase(ruleset.site.zone)}</span>
      <div className="row quiet">
        <Button onClick={() => setAnchor(anchor - 7)} aria-label="A week back">
          ‹ Week
        </Button>
        <Button onClick={() => setAnchor(anchor + 7)} aria-label="A week on">
          Week ›
        </Button>
        <Button onClick={() => look.travel(parseInstant(now) as number)}>Now</Button>
        {!inView && <Button onClick={() => setAnchor(today)}>Back to the lens’s time</Button>}
        <span style={{ marginLeft: 8 }}>
          Drag the cursor, or focus it and press ← → for an hour, with Shift for a day.
        </span>
      </div>
    </section>
  );
}
