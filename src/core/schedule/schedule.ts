import type { Schedule } from "../formats/schedule";
import {
  dayNames,
  fromDay,
  minute,
  day as dayLength,
  parseClock,
  parseDate,
  parseLocal,
  weekday,
} from "../calendar/calendar";
import { occurrences, parseRepeat } from "../calendar/repeat";
import { zoneOf, type Zone } from "../calendar/zone";

/** A stretch of time [from, until) in epoch milliseconds. */
export interface Span {
  from: number;
  until: number;
}

/** A schedule made ready to be asked. `zone` is the visitor's in schedules that ask for it, and left out otherwise. */
export interface ReadySchedule {
  /** Whether the schedule leans on the visitor's own zone. */
  readonly visitorZone: boolean;
  /** Whether it holds at an instant (epoch ms). Undefined: the visitor's zone is asked and not known. */
  holds(at: number, visitorZone?: string): boolean | undefined;
  /** Every stretch within [from, until) in which it holds, in order, merged. */
  spans(from: number, until: number, visitorZone?: string): Span[];
}

/** A window of the day in minutes after midnight; `next` says that it ends on the day after. */
interface Window {
  start: number;
  end: number;
  next: number;
}

/** Makes a schedule ready (docs/engine.md, section 5). It must have been read by `scheduleSchema`. */
export function readySchedule(schedule: Schedule, siteZone: string): ReadySchedule {
  const windows: Window[] = (schedule.windows ?? [{ start: "00:00", end: "24:00" }]).map((window) => {
    const start = parseClock(window.start) as number;
    const end = parseClock(window.end, true) as number;
    if (end === 1440) return { start, end: 0, next: 1 };
    return { start, end, next: end > start ? 0 : 1 };
  });
  const days = schedule.days && new Set(schedule.days.map((name) => dayNames.indexOf(name)));
  const yearly = new Set<string>();
  const once = new Set<number>();
  for (const text of schedule.dates ?? []) {
    if (text.length === 5) yearly.add(text);
    else once.add(parseDate(text) as number);
  }
  const repeat = schedule.repeat === undefined ? undefined : parseRepeat(schedule.repeat);
  const occurs =
    repeat?.ok && schedule.from
      ? occurrences(repeat.repeat, parseDate(schedule.from.slice(0, 10)) as number)
      : undefined;
  const opens = (number: number): boolean => {
    if (days && !days.has(weekday(number))) return false;
    if (schedule.dates && !once.has(number)) {
      const { month, day } = fromDay(number);
      if (!yearly.has(`${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}`)) return false;
    }
    return occurs ? occurs(number) : true;
  };

  const span = (zone: Zone, number: number, window: Window): Span => ({
    from: zone.toInstant(number * dayLength + window.start * minute),
    until: zone.toInstant((number + window.next) * dayLength + window.end * minute),
  });
  const always = !schedule.windows && !days && !schedule.dates && !occurs;

  interface Bounds {
    zone: Zone;
    from: number;
    until: number;
  }
  const boundsIn = (zone: Zone): Bounds => ({
    zone,
    from: schedule.from ? zone.toInstant(parseLocal(schedule.from) as number) : -Infinity,
    until: schedule.until ? zone.toInstant(parseLocal(schedule.until) as number) : Infinity,
  });
  const fixed =
    schedule.zone === "visitor" ? undefined : boundsIn(zoneOf(schedule.zone === "site" ? siteZone : schedule.zone));
  const bounds = (visitorZone: string | undefined): Bounds | undefined =>
    fixed ?? (visitorZone === undefined ? undefined : boundsIn(zoneOf(visitorZone)));

  return {
    visitorZone: !fixed,
    holds(at, visitorZone) {
      const b = bounds(visitorZone);
      if (!b) return undefined;
      if (at < b.from || at >= b.until) return false;
      if (always) return true;
      const today = Math.floor(b.zone.toLocal(at) / dayLength);
      // A window lasts at most a day and a clock change can shift it by another, so two days back and one on are enough.
      for (let number = today - 2; number <= today + 1; number++) {
        if (!opens(number)) continue;
        for (const window of windows) {
          const { from, until } = span(b.zone, number, window);
          if (at >= from && at < until) return true;
        }
      }
      return false;
    },
    spans(from, until, visitorZone) {
      const b = bounds(visitorZone);
      if (!b) return [];
      const low = Math.max(from, b.from);
      const high = Math.min(until, b.until);
      if (low >= high) return [];
      if (always) return [{ from: low, until: high }];
      const found: Span[] = [];
      const last = Math.floor(b.zone.toLocal(high) / dayLength) + 1;
      for (let number = Math.floor(b.zone.toLocal(low) / dayLength) - 2; number <= last; number++) {
        if (!opens(number)) continue;
        for (const window of windows) {
          const part = span(b.zone, number, window);
          const clipped = { from: Math.max(part.from, low), until: Math.min(part.until, high) };
          if (clipped.from < clipped.until) found.push(clipped);
        }
      }
      return merge(found);
    },
  };
}

function merge(spans: Span[]): Span[] {
  spans.sort((a, b) => a.from - b.from);
  const out: Span[] = [];
  for (const part of spans) {
    const last = out[out.length - 1];
    if (last && part.from <= last.until) last.until = Math.max(last.until, part.until);
    else out.push({ ...part });
  }
  return out;
}
