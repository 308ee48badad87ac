"use client";
import { said, t, text } from "@/core/messages/t";
import { useRef, useState } from "react";
import type { Schedule } from "@/core/formats/schedule";
import { dayNames, parseClock, type DayName } from "@/core/calendar/calendar";

interface Props {
  schedule: Schedule;
  /** As people say the schedule's zone. */
  zone: string;
  onChange: (change: Pick<Schedule, "days" | "windows">) => void;
}
const short = said([text("Mon"), text("Tue"), text("Wed"), text("Thu"), text("Fri"), text("Sat"), text("Sun")]);
const hours = Array.from({ length: 24 }, (_, hour) => hour);
const clock = (hour: number): string => `${String(hour).padStart(2, "0")}:00`;

/** How much of an hour of a weekday the schedule's days and hours cover, from 0 to 1; hours past midnight belong to the day they began on. */
function covered(schedule: Schedule, day: number, hour: number): number {
  const opens = (index: number): boolean =>
    !schedule.days || schedule.days.includes(dayNames[(index + 7) % 7] as DayName);
  let minutes = 0;
  for (const window of schedule.windows ?? [{ start: "00:00", end: "24:00" }]) {
    const start = parseClock(window.start) ?? 0;
    const end = parseClock(window.end, true) ?? 0;
    const length = end > start ? end - start : end - start + 1440;
    for (const shift of [0, 1]) {
      if (!opens(day - shift)) continue;
      const low = Math.max(hour * 60, start - shift * 1440);
      const high = Math.min(hour * 60 + 60, start - shift * 1440 + length);
      minutes += Math.max(0, high - low);
    }
  }
  return Math.min(1, minutes / 60);
}

/**
 * Weekdays and hours as a grid: a rectangle drawn over it becomes the days and the hours; with Shift the hours are added to
 * those that are there. By keyboard: arrow keys go, with Shift they draw, Enter takes.
 */
export function HourGrid({ schedule, zone, onChange }: Props) {
  const [drawn, setDrawn] = useState<{ from: [number, number]; to: [number, number] }>();
  const [at, setAt] = useState<[number, number]>([0, 9]);
  const table = useRef<HTMLTableElement>(null);
  const inside = (day: number, hour: number): boolean => {
    if (!drawn) return false;
    const [a, b] = [drawn.from, drawn.to];
    return (
      day >= Math.min(a[0], b[0]) &&
      day <= Math.max(a[0], b[0]) &&
      hour >= Math.min(a[1], b[1]) &&
      hour <= Math.max(a[1], b[1])
    );
  };
  const take = (add: boolean) => {
    if (!drawn) return;
    const [first, last] = [Math.min(drawn.from[0], drawn.to[0]), Math.max(drawn.from[0], drawn.to[0])];
    const [start, end] = [Math.min(drawn.from[1], drawn.to[1]), Math.max(drawn.from[1], drawn.to[1]) + 1];
    const days = dayNames.slice(first, last + 1);
    const window = { start: clock(start), end: clock(end) };
    const whole = start === 0 && end === 24;
    setDrawn(undefined);
    if (add && schedule.windows) onChange({ days: schedule.days, windows: [...schedule.windows, window] });
    else onChange({ days: days.length === 7 ? undefined : days, windows: whole ? undefined : [window] });
  };
  const focus = (to: [number, number]) => {
    setAt(to);
    table.current?.querySelector<HTMLElement>(`[data-cell="${to.join(" ")}"]`)?.focus();
  };
  const press = (event: React.KeyboardEvent, day: number, hour: number) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const by = steps[event.key];
    if (by) {
      event.preventDefault();
      const to: [number, number] = [Math.min(6, Math.max(0, day + by[0])), Math.min(23, Math.max(0, hour + by[1]))];
      setDrawn(event.shiftKey ? { from: drawn?.from ?? [day, hour], to } : undefined);
      focus(to);
    } else if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      if (drawn) take(event.shiftKey);
      else setDrawn({ from: [day, hour], to: [day, hour] });
    }
  };
  return (
    <div className="hourgrid">
      <table ref={table} role="grid" aria-label={t("Weekdays and hours, {zone}", { zone })}>
        <thead>
          <tr>
            <th aria-hidden />
            {hours.map((hour) => (
              <th key={hour} aria-hidden>
                {hour % 6 === 0 ? hour : ""}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {short.map((name, day) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              {hours.map((hour) => {
                const part = covered(schedule, day, hour);
                return (
                  <td
                    key={hour}
                    role="gridcell"
                    data-cell={`${day} ${hour}`}
                    tabIndex={at[0] === day && at[1] === hour ? 0 : -1}
                    aria-label={`${name} ${clock(hour)}${part > 0 ? t(", within") : ""}`}
                    aria-selected={inside(day, hour)}
                    style={{ "--part": part } as React.CSSProperties}
                    onPointerDown={(event) => {
                      event.currentTarget.releasePointerCapture(event.pointerId);
                      setDrawn({ from: [day, hour], to: [day, hour] });
                      setAt([day, hour]);
                      // Let go outside the grid, nothing is taken; on the way the pointer may leave it.
                      const end = ({ target }: PointerEvent) =>
                        table.current?.contains(target as Node) || setDrawn(undefined);
                      window.addEventListener("pointerup", end, { once: true });
                    }}
                    onPointerEnter={(event) => event.buttons === 1 && drawn && setDrawn({ ...drawn, to: [day, hour] })}
                    onPointerUp={(event) => take(event.shiftKey)}
                    onKeyDown={(event) => press(event, day, hour)}
                  />
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <span className="quiet">
        {t("Draw over days and hours, {zone}; with Shift, more hours are added.", { zone })}
      </span>
    </div>
  );
}
