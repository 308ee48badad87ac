"use client";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useState } from "react";
import type { OnStretch } from "@/core/analysis/timeline";
import { instantPhrase, weekdayNames, zonePhrase } from "@/core/rules/phrases";
import { day as dayLength, fromDay, weekday } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";

interface Props {
  /** What it is about: "Opens for this visitor". */
  label: string;
  /** What is on when, over [from, until), epoch ms. */
  ask: (from: number, until: number) => readonly OnStretch[];
  /** The zone of the days (IANA). */
  zone: string;
  /** The instant of the lens, epoch ms. */
  at: number;
  onTravel: (at: number) => void;
}

const spans = { Day: 1, Week: 7, Month: 30 } as const;
type Span = keyof typeof spans;

/** When something is on for the lens at hand, in one line over a day, a week or a month. A click travels there. */
export function OnRibbon({ label, ask, zone, at, onTravel }: Props) {
  const [span, setSpan] = useState<Span>("Week");
  const start = zoneOf(zone).toLocal(at);
  const from = zoneOf(zone).toInstant(Math.floor(start / dayLength) * dayLength);
  const until = zoneOf(zone).toInstant((Math.floor(start / dayLength) + spans[span]) * dayLength);
  const stretches = ask(from, until);
  const place = (instant: number) => ((instant - from) / (until - from)) * 100;
  const own = zoneOf(zone);
  const first = Math.floor(own.toLocal(from) / dayLength);
  const count = spans[span];
  const marks =
    span === "Day"
      ? [0, 6, 12, 18].map((clock) => `${clock}:00`)
      : Array.from({ length: span === "Week" ? 7 : 10 }, (_, index) => {
          const number = first + index * (span === "Week" ? 1 : count / 10);
          return `${weekdayNames[weekday(number)]?.slice(0, 3)} ${fromDay(number).day}`;
        });
  const on = stretches.filter((item) => item.on);
  return (
    <section className="onribbon" aria-label={label}>
      <div className="row">
        <h3>
          {label} <span className="quiet">{zonePhrase(zone)}</span>
        </h3>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={span}
          onChange={(_, next: Span | null) => next && setSpan(next)}
          aria-label="How much time is shown"
        >
          {(Object.keys(spans) as Span[]).map((name) => (
            <ToggleButton key={name} value={name}>
              {name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </div>
      <div className="ondays" aria-hidden>
        {marks.map((mark) => (
          <span key={mark}>{mark}</span>
        ))}
      </div>
      <div className="track">
        {on.map((item) => (
          <button
            key={item.from}
            type="button"
            style={{ left: `${place(item.from)}%`, width: `${place(item.until) - place(item.from)}%` }}
            title={`${instantPhrase(item.from, zone)} to ${instantPhrase(item.until, zone)}`}
            aria-label={`Travel to ${instantPhrase(item.from, zone)}, when it begins`}
            onClick={() => onTravel(item.from)}
          />
        ))}
        {own.changes(from, until).map((change) => (
          <i
            key={change}
            className="change"
            style={{ left: `${place(change)}%` }}
            title={`The clocks change here: ${instantPhrase(change, zone)}`}
          />
        ))}
        {at >= from && at <= until && <i style={{ left: `${place(at)}%` }} aria-hidden />}
      </div>
      {on.length === 0 && <span className="quiet">Not at any time of this {span.toLowerCase()}.</span>}
    </section>
  );
}
