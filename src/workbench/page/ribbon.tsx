"use client";
import { t, within } from "@/core/messages/t";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useMemo, useRef, useState } from "react";
import { timeline } from "@/core/analysis/timeline";
import type { Ruleset, Slot } from "@/core/formats/ruleset";
import { parseInstant } from "@/core/formats/visit";
import { instantPhrase, monthsShort, weekdaysShort, zonePhrase } from "@/core/rules/phrases";
import { day as dayLength, formatClock, fromDay, weekday } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { spanNames, spans, type SpanName } from "../parts/spans";
import { HeatDialog } from "./later";
import { colourOf, indexIn, letterOf } from "../parts/variants";
import type { Look } from "../parts/desk/use-look";
import { now } from "@/clock";

interface Props {
  look: Look;
  ruleset: Ruleset;
  slot: Slot | undefined;
  /** The slots of the page, in the order of their numbers. */
  slots: readonly Slot[];
  onSlot: (id: string) => void;
}
const hour = 3_600_000;

/** Where the days or hours of a stretch are named: at most twelve, at round times of the zone. */
function ticks(from: number, until: number, zone: ReturnType<typeof zoneOf>): number[] {
  const steps = [900_000, 1_800_000, hour, 3 * hour, 6 * hour, 12 * hour, dayLength, 3 * dayLength, 7 * dayLength];
  const step = steps.find((item) => (until - from) / item <= 12) ?? 7 * dayLength;
  const start = zone.toLocal(from);
  const first = step >= dayLength ? start : Math.ceil(start / step) * step;
  const out: number[] = [];
  for (let local = first; ; local += step) {
    const at = zone.toInstant(local);
    if (at >= until) return out;
    if (at >= from) out.push(at);
  }
}

/** The time line of who wins when, over a day, a week or a month, with a cursor that travels in time. */
export function Ribbon({ look, ruleset, slot, slots, onSlot }: Props) {
  const [spanName, setSpanName] = useState<SpanName>("Week");
  const [all, setAll] = useState(false);
  const count = spans[spanName];
  const zone = zoneOf(ruleset.site.zone);
  const at = parseInstant(look.visit.at) as number;
  const dayOf = (instant: number) => Math.floor(zone.toLocal(instant) / dayLength);
  const [anchor, setAnchor] = useState(() => dayOf(at));
  const [steady, setSteady] = useState(at);
  /** A stretch that was zoomed into, epoch ms; otherwise the whole span is shown. */
  const [zoom, setZoom] = useState<{ from: number; until: number }>();
  const [drag, setDrag] = useState<{ from: number; to: number }>();
  const [heat, setHeat] = useState(false);
  const daysLine = useRef<HTMLDivElement>(null);
  const track = useRef<HTMLDivElement>(null);

  // The week stays where it is while the cursor moves inside it, and follows the lens when that leaves it.
  const today = dayOf(at);
  if (steady !== at) {
    setSteady(at);
    if (today < anchor || today >= anchor + count) setAnchor(today);
    if (zoom && (at < zoom.from || at >= zoom.until)) setZoom(undefined);
  }
  const from = zoom?.from ?? zone.toInstant(anchor * dayLength);
  const until = zoom?.until ?? zone.toInstant((anchor + count) * dayLength);

  // Time alone does not change who wins at another time: the ribbon is worked out anew only for another visitor or draft.
  const visitor = JSON.stringify({ ...look.visit, at: "" });
  const shown = all ? slots : slot ? [slot] : [];
  const ids = shown.map((item) => item.id).join(" ");
  const lines = useMemo(
    () => new Map(shown.map((item) => [item.id as string, timeline(look.engine, item.id, look.visit, from, until)])),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `visitor` stands for the visit without its time, `ids` for `shown`
    [look.engine, ids, visitor, from, until],
  );

  const inView = at >= from && at < until;
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
  const instantAt = (clientX: number): number => {
    const box = daysLine.current?.getBoundingClientRect();
    if (!box) return from;
    const part = Math.min(1, Math.max(0, (clientX - box.left) / box.width));
    return Math.round((from + part * (until - from)) / 900_000) * 900_000;
  };
  /** Zooms into a stretch of at least an hour; a mere click does nothing. */
  const zoomInto = (start: number, end: number) => {
    if (end - start >= hour / 2) setZoom({ from: start, until: Math.max(end, start + hour) });
  };
  const zoomBy = (factor: number) => {
    const length = Math.max(hour, (until - from) * factor);
    const middle = inView ? at : (from + until) / 2;
    const start = Math.round((middle - length / 2) / 900_000) * 900_000;
    if (length >= count * dayLength) setZoom(undefined);
    else setZoom({ from: start, until: start + length });
  };
  const days = Array.from({ length: count }, (_, index) => anchor + index).filter((number) => {
    const start = zone.toInstant(number * dayLength);
    return start > from && start < until;
  });
  const tickText = (tick: number): React.ReactNode => {
    const local = zone.toLocal(tick);
    const number = Math.floor(local / dayLength);
    const clock = formatClock(Math.round((local - number * dayLength) / 60_000));
    const { day, month } = fromDay(number);
    const name = `${weekdaysShort[weekday(number)]} ${day}`;
    const withMonth = day === 1 || tick === from;
    const text =
      clock === "00:00" || tick === from
        ? `${name}${withMonth ? ` ${monthsShort[month - 1]}` : ""}${clock === "00:00" ? "" : `, ${clock}`}`
        : clock;
    return number === today && (clock === "00:00" || tick === from) ? <b>{text}</b> : text;
  };

  return (
    <section className="ribbon" aria-label={t("Who wins when")}>
      <span className="quiet">{t("who wins when, this lens")}</span>
      <div
        className="days"
        ref={daysLine}
        title={t("Drag along here to zoom into a stretch")}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const to = instantAt(event.clientX);
          setDrag({ from: to, to });
        }}
        onPointerMove={(event) => drag && event.buttons === 1 && setDrag({ ...drag, to: instantAt(event.clientX) })}
        onPointerUp={() => {
          if (drag) zoomInto(Math.min(drag.from, drag.to), Math.max(drag.from, drag.to));
          setDrag(undefined);
        }}
      >
        {ticks(from, until, zone).map((tick) => (
          <span key={tick} style={{ left: share(tick) }}>
            {tickText(tick)}
          </span>
        ))}
        {drag && (
          <i
            className="zooming"
            style={{
              left: share(Math.min(drag.from, drag.to)),
              width: `${(Math.abs(drag.to - drag.from) / (until - from)) * 100}%`,
            }}
          />
        )}
      </div>
      <div className="names">
        {shown.map((item) => (
          <button
            key={item.id}
            type="button"
            aria-pressed={item.id === slot?.id}
            title={item.name}
            onClick={() => onSlot(item.id)}
          >
            {slots.includes(item) && `${slots.indexOf(item) + 1} `}
            {item.name}
          </button>
        ))}
      </div>
      <div
        className="tracks"
        ref={track}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          follow(event.clientX);
        }}
        onPointerMove={(event) => event.buttons === 1 && follow(event.clientX)}
      >
        {shown.map((item) => (
          <div
            key={item.id}
            className="track"
            role="list"
            aria-label={t("Who wins when in {name}", { name: item.name })}
          >
            {(lines.get(item.id) ?? []).map((stretch) => {
              const index = indexIn(item, stretch.variants[0] ?? null);
              const wide = (stretch.until - stretch.from) / (until - from) > 0.07;
              const name =
                index < 0
                  ? stretch.onPage
                    ? t("Fallback")
                    : t("Not on this page")
                  : `${letterOf(index)} ${item.variants[index]?.name}`;
              const says = t("{name}: {instantPhrase} to {instantPhrase2}", {
                name,
                instantPhrase: instantPhrase(stretch.from, ruleset.site.zone, false),
                instantPhrase2: instantPhrase(stretch.until, ruleset.site.zone, false),
              });
              return (
                <i
                  key={stretch.from}
                  role="listitem"
                  aria-label={says}
                  className={index < 0 ? "none" : undefined}
                  title={says}
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
            {days.map((number) => (
              <span
                key={number}
                aria-hidden
                className="line"
                style={{ left: share(zone.toInstant(number * dayLength)) }}
              />
            ))}
          </div>
        ))}
        {zone.changes(from, until).map((change) => (
          <span
            key={change}
            className="change"
            style={{ left: share(change) }}
            title={t("The clocks change here: {instantPhrase}", {
              instantPhrase: instantPhrase(change, ruleset.site.zone),
            })}
          />
        ))}
        {inView && (
          <div
            className="cursor"
            role="slider"
            tabIndex={0}
            aria-label={t("Time travelled to")}
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
      <span className="quiet">{t("times in {zone}", { zone: zonePhrase(ruleset.site.zone) })}</span>
      <div className="row quiet">
        <Button
          onClick={() => setAnchor(anchor - count)}
          aria-label={t("A {spanName} back", { spanName: within(spanNames[spanName]) })}
        >
          ‹
        </Button>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={spanName}
          onChange={(_, next: SpanName | null) => {
            setZoom(undefined);
            if (next) setSpanName(next);
          }}
          aria-label={t("How much time is shown")}
        >
          {(Object.keys(spans) as SpanName[]).map((name) => (
            <ToggleButton key={name} value={name}>
              {spanNames[name]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button
          onClick={() => setAnchor(anchor + count)}
          aria-label={t("A {spanName} on", { spanName: within(spanNames[spanName]) })}
        >
          ›
        </Button>
        <Button onClick={() => zoomBy(0.5)} aria-label={t("Zoom in")} disabled={until - from <= hour}>
          +
        </Button>
        <Button onClick={() => zoomBy(2)} aria-label={t("Zoom out")} disabled={!zoom}>
          −
        </Button>
        {slots.length > 1 && (
          <ToggleButton value="all" size="small" selected={all} onChange={() => setAll(!all)}>
            {t("All slots")}
          </ToggleButton>
        )}
        <Button onClick={() => look.travel(now())}>{t("Now")}</Button>
        {slot && <Button onClick={() => setHeat(true)}>{t("Heat map")}</Button>}
        {!inView && <Button onClick={() => setAnchor(today)}>{t("Back to the lens’s time")}</Button>}
        <span style={{ marginLeft: 8 }}>
          {t("Drag the cursor to travel, the days to zoom; by keyboard ← → an hour, with Shift a day.")}
        </span>
      </div>
      {heat && slot && <HeatDialog slot={slot} onClose={() => setHeat(false)} />}
    </section>
  );
}
