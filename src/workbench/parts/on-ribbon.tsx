"use client";
import { t, within } from "@/core/messages/t";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { spanNames, spans, type SpanName } from "./spans";
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

/** When something is on for the lens at hand, in one line over a day, a week or a month. A click travels there. */
export function OnRibbon({ label, ask, zone, at, onTravel }: Props) {
  const [span, setSpan] = useState<SpanName>("Week");
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
          onChange={(_, next: SpanName | null) => next && setSpan(next)}
          aria-label={t("How much time is shown")}
        >
          {(Object.keys(spans) as SpanName[]).map((name) => (
            <ToggleButton key={name} value={name}>
              {spanNames[name]}
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
            title={t("{instantPhrase} to {instantPhrase2}", {
              instantPhrase: instantPhrase(item.from, zone),
              instantPhrase2: instantPhrase(item.until, zone),
            })}
            aria-label={t("Travel to {instantPhrase}, when it begins", {
              instantPhrase: instantPhrase(item.from, zone),
            })}
            onClick={() => onTravel(item.from)}
          />
        ))}
        {own.changes(from, until).map((change) => (
          <i
            key={change}
            className="change"
            style={{ left: `${place(change)}%` }}
            title={t("The clocks change here: {instantPhrase}", { instantPhrase: instantPhrase(change, zone) })}
          />
        ))}
        {at >= from && at <= until && <i style={{ left: `${place(at)}%` }} aria-hidden />}
      </div>
      {on.length === 0 && (
        <span className="quiet">{t("Not at any time of this {span}.", { span: within(spanNames[span]) })}</span>
      )}
    </section>
  );
}
