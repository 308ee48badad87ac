"use client";
import type { OnStretch } from "@/core/analysis/timeline";
import { instantPhrase, weekdayNames, zonePhrase } from "@/core/rules/phrases";
import { day as dayLength, fromDay, weekday } from "@/core/schedule/calendar";
import { zoneOf } from "@/core/schedule/zone";

interface Props {
  /** What it is about: "Opens for this visitor". */
  label: string;
  stretches: readonly OnStretch[];
  /** The zone of the days (IANA). */
  zone: string;
  /** The instant of the lens, epoch ms. */
  at: number;
  onTravel: (at: number) => void;
}

/** A week in one line: when something is on for the lens at hand. A click travels there. */
export function OnRibbon({ label, stretches, zone, at, onTravel }: Props) {
  const from = stretches[0]?.from ?? at;
  const until = stretches.at(-1)?.until ?? at + 7 * dayLength;
  const place = (instant: number) => ((instant - from) / (until - from)) * 100;
  const own = zoneOf(zone);
  const first = Math.floor(own.toLocal(from) / dayLength);
  const count = Math.max(1, Math.round((until - from) / dayLength));
  const on = stretches.filter((item) => item.on);
  return (
    <section className="onribbon" aria-label={label}>
      <h3>
        {label} <span className="quiet">in the coming week, {zonePhrase(zone)}</span>
      </h3>
      <div className="ondays" aria-hidden>
        {Array.from({ length: count }, (_, index) => (
          <span key={index}>
            {weekdayNames[weekday(first + index)]?.slice(0, 3)} {fromDay(first + index).day}
          </span>
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
        {at >= from && at <= until && <i style={{ left: `${place(at)}%` }} aria-hidden />}
      </div>
      {on.length === 0 && <span className="quiet">Not at any time of this week.</span>}
    </section>
  );
}
