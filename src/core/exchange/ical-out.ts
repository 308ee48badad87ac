/** Schedules as an iCalendar (RFC 5545): when which variant, pop-up or redirect can be up. */
import { t } from "../messages/t";
import { edges } from "../analysis/timeline";
import { groupOf, isCondition, type Rule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import { scheduleSchema, type Schedule } from "../formats/schedule";
import { ruleText } from "../rules/sentence";
import { not, NO, UNKNOWN, truthOf, type Truth } from "../rules/truth";
import { allRules, type Owner } from "../ruleset/uses";
import { day as dayLength, minute, parseClock, parseDate, parseLocal } from "../calendar/calendar";
import { readySchedule, type ReadySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import { calendarText, escapeText, stamp, zoneLines } from "./ical-text";

export interface CalendarOptions {
  /** Epoch ms: what repeats without a beginning is written from the start of this year on. */
  now: number;
  /** Where a variant can be looked at; undefined: no link is written. */
  linkTo?: (owner: Owner) => string;
}

/** An event: wall clock ms in its zone; zone undefined is the visitor's own (floating time). */
interface Event {
  start: number;
  end: number;
  zone: string | undefined;
  repeat?: string;
}

/** How far schedules that cannot be written as one recurrence are written out, before and after now. */
const before = 31 * dayLength;
const after = 366 * dayLength;
/** So many single events at most for one rule. */
const mostSingle = 400;

/** Every schedule in a rule with whether it stands where it must hold, by itself: under `all` only. */
function schedulesIn(
  rule: Rule,
  ruleset: Ruleset,
  plain = true,
  seen: readonly string[] = [],
): { schedule: Schedule; plain: boolean }[] {
  if (rule === null) return [];
  if (isCondition(rule)) {
    const read = rule.signal === "time" ? scheduleSchema.safeParse(rule.value) : undefined;
    return read?.success ? [{ schedule: read.data, plain: plain && rule.op === "within" }] : [];
  }
  const members = groupOf(rule);
  if (members)
    return members.rules.flatMap((inner) =>
      schedulesIn(
        inner,
        ruleset,
        plain && (members.group === "all" || (members.group === "any" && members.rules.length === 1)),
        seen,
      ),
    );
  const { audience } = rule as { audience: string };
  if (seen.includes(audience)) return [];
  return schedulesIn(ruleset.audiences.find((item) => item.id === audience)?.rule ?? null, ruleset, plain, [
    ...seen,
    audience,
  ]);
}

/** Whether a rule can be true at an instant, as far as time goes: everything but schedules is taken as not known. */
function timeTruth(
  rule: Rule,
  ruleset: Ruleset,
  at: number,
  ready: (value: unknown) => ReadySchedule | undefined,
): Truth {
  if (rule === null) return UNKNOWN;
  if (isCondition(rule)) {
    const schedule = rule.signal === "time" ? ready(rule.value) : undefined;
    // The visitor's own clock is taken as the site's: an event has one time.
    const holds = schedule?.holds(at, ruleset.site.zone);
    return holds === undefined ? UNKNOWN : truthOf(rule.op === "within" ? holds : !holds);
  }
  const members = groupOf(rule);
  if (!members) {
    const { audience } = rule as { audience: string };
    return timeTruth(ruleset.audiences.find((item) => item.id === audience)?.rule ?? null, ruleset, at, ready);
  }
  const truths = members.rules.map((inner) => timeTruth(inner, ruleset, at, ready));
  const some = Math.max(NO, ...truths) as Truth;
  return members.group === "all" ? (Math.min(2, ...truths) as Truth) : members.group === "any" ? some : not(some);
}

/** Stretches in which a rule can be true as far as time goes, merged. */
function openStretches(rule: Rule, ruleset: Ruleset, from: number, until: number): { from: number; until: number }[] {
  const made = new Map<unknown, ReadySchedule | undefined>();
  const ready = (value: unknown) => {
    if (!made.has(value)) {
      const read = scheduleSchema.safeParse(value);
      made.set(value, read.success ? readySchedule(read.data, ruleset.site.zone) : undefined);
    }
    return made.get(value);
  };
  const starts = [from, ...edges([rule], ruleset, from, until, ruleset.site.zone)];
  const out: { from: number; until: number }[] = [];
  starts.forEach((start, index) => {
    if (timeTruth(rule, ruleset, start, ready) === NO) return;
    const end = starts[index + 1] ?? until;
    const last = out.at(-1);
    if (last && last.until === start) last.until = end;
    else out.push({ from: start, until: end });
  });
  return out;
}

/**
 * A schedule as events with a recurrence each; undefined where iCalendar has no single rule for it (several of days, dates and
 * repeat together, a COUNT with an end, no end and nothing that repeats).
 */
function eventsOf(schedule: Schedule, siteZone: string, now: number): Event[] | undefined {
  const zone = schedule.zone === "visitor" ? undefined : schedule.zone === "site" ? siteZone : schedule.zone;
  const from = schedule.from === undefined ? undefined : (parseLocal(schedule.from) as number);
  const until = schedule.until === undefined ? undefined : (parseLocal(schedule.until) as number);
  const chosen = [schedule.days, schedule.dates, schedule.repeat].filter((part) => part !== undefined).length;
  if (chosen > 1) return undefined;
  if (chosen === 0 && !schedule.windows)
    return from !== undefined && until !== undefined ? [{ start: from, end: until, zone }] : undefined;
  if (schedule.repeat && /COUNT=/i.test(schedule.repeat) && until !== undefined) return undefined;
  if (schedule.repeat && /UNTIL=/i.test(schedule.repeat) && until !== undefined) return undefined;
  // Days are found by the schedule itself, without its windows and bounds.
  const { windows: _windows, until: _until, ...days } = schedule;
  const opens = readySchedule(
    { ...days, zone: "UTC", ...(schedule.from ? { from: `${schedule.from.slice(0, 10)}T00:00` } : {}) },
    "UTC",
  );
  const firstDay = Math.floor((from ?? Date.UTC(new Date(now).getUTCFullYear(), 0, 1)) / dayLength);
  const untilUtc = (local: number) => (zone === undefined ? stamp(local) : `${stamp(zoneOf(zone).toInstant(local))}Z`);
  const out: Event[] = [];
  for (const window of schedule.windows ?? [{ start: "00:00", end: "24:00" }]) {
    const start = (parseClock(window.start) as number) * minute;
    const end = (parseClock(window.end, true) as number) * minute;
    const long = end > start ? end - start : end - start + dayLength;
    const lines: (string | undefined)[] = schedule.dates
      ? schedule.dates.map((date) =>
          date.length === 5
            ? `FREQ=YEARLY;BYMONTH=${Number(date.slice(0, 2))};BYMONTHDAY=${Number(date.slice(3))}`
            : undefined,
        )
      : [schedule.repeat ?? (schedule.days ? `FREQ=WEEKLY;BYDAY=${schedule.days.join(",")}` : "FREQ=DAILY")];
    for (const [index, line] of lines.entries()) {
      const date = schedule.dates?.[index];
      const fits = (number: number) =>
        date === undefined
          ? opens.holds(number * dayLength) === true
          : date.length === 5
            ? stamp(number * dayLength).slice(4, 8) === date.replace("-", "")
            : number * dayLength === (parseDate(date) as number) * dayLength;
      const bounded = (number: number) => ({
        start: Math.max(number * dayLength + start, from ?? -Infinity),
        end: Math.min(number * dayLength + start + long, until ?? Infinity),
      });
      if (line === undefined) {
        const only = bounded(parseDate(date as string) as number);
        if (only.end > only.start) out.push({ ...only, zone });
        continue;
      }
      // A window opened the day before the beginning may still cover it.
      let number = firstDay - (schedule.repeat ? 0 : 1);
      const last = number + 366 * 5;
      while (number < last && !fits(number)) number += 1;
      for (; number < last && from !== undefined && number * dayLength + start < from; number++) {
        const cut = bounded(number);
        // Counted occurrences cannot be cut: the first is the first.
        if (fits(number) && schedule.repeat && /COUNT=/i.test(schedule.repeat)) return undefined;
        if (fits(number) && cut.end > cut.start) out.push({ ...cut, zone });
      }
      while (number < last && !fits(number)) number += 1;
      if (number >= last) continue;
      const first = number * dayLength + start;
      if (until === undefined) {
        out.push({
          start: first,
          end: first + long,
          zone,
          repeat: line.replace(
            /(UNTIL=\d{8})$|(UNTIL=\d{8})(?=;)/i,
            (part) =>
              `UNTIL=${untilUtc((parseDate(`${part.slice(6, 10)}-${part.slice(10, 12)}-${part.slice(12, 14)}`) as number) * dayLength + start)}`,
          ),
        });
        continue;
      }
      // Whole occurrences repeat up to the end; the one that the end cuts stands alone.
      if (first + long <= until)
        out.push({ start: first, end: first + long, zone, repeat: `${line};UNTIL=${untilUtc(until - long)}` });
      for (
        let cut = Math.max(number, Math.floor((until - long - start) / dayLength));
        cut * dayLength + start < until;
        cut++
      )
        if (fits(cut) && cut * dayLength + start + long > until && bounded(cut).end > bounded(cut).start)
          out.push({ ...bounded(cut), zone });
    }
  }
  return out;
}

/** The calendar of a ruleset. @returns its text (`text/calendar`, UTF-8) */
export function calendarOf(ruleset: Ruleset, { now, linkTo }: CalendarOptions): string {
  const events: string[] = [];
  const zones = new Set<string>();
  let first = now - before;
  for (const { owner, part, rule } of allRules(ruleset)) {
    if (part !== "rule" || !["variant", "popup", "redirect"].includes(owner.kind) || !isOn(owner, ruleset)) continue;
    const found = schedulesIn(rule, ruleset);
    if (found.length === 0) continue;
    const only = found.length === 1 && found[0]?.plain ? found[0].schedule : undefined;
    const whole = only && eventsOf(only, ruleset.site.zone, now);
    const local = zoneOf(ruleset.site.zone);
    const list: Event[] =
      whole ??
      openStretches(rule, ruleset, now - before, now + after)
        .slice(0, mostSingle)
        .map((span) => ({ start: local.toLocal(span.from), end: local.toLocal(span.until), zone: ruleset.site.zone }));
    list.forEach((event, index) => {
      if (event.zone) {
        zones.add(event.zone);
        first = Math.min(first, event.start);
      }
      const at = (name: string, time: number) =>
        event.zone ? `${name};TZID=${event.zone}:${stamp(time)}` : `${name}:${stamp(time)}`;
      events.push(
        "BEGIN:VEVENT",
        `UID:${owner.kind}-${owner.slot ? `${owner.slot}-` : ""}${owner.id}-${index + 1}@${new URL(ruleset.site.origin).hostname}`,
        `DTSTAMP:${stamp(now)}Z`,
        at("DTSTART", event.start),
        at("DTEND", event.end),
        ...(event.repeat ? [`RRULE:${event.repeat}`] : []),
        `SUMMARY:${escapeText(owner.name)}`,
        `DESCRIPTION:${escapeText(ruleText(rule, ruleset))}`,
        ...(linkTo ? [`URL:${linkTo(owner)}`] : []),
        ...(event.zone ? [] : ["X-MIRADA-ZONE:visitor"]),
        "TRANSP:TRANSPARENT",
        "END:VEVENT",
      );
    });
  }
  return calendarText([
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Mirada//Schedules//EN",
    `X-WR-CALNAME:${escapeText(t("{site}: what is up when", { site: ruleset.site.name }))}`,
    ...[...zones].flatMap((zone) => zoneLines(zone, Math.min(first, now) - 366 * dayLength, now + 5 * 366 * dayLength)),
    ...events,
    "END:VCALENDAR",
  ]);
}

function isOn(owner: Owner, ruleset: Ruleset): boolean {
  if (owner.kind === "variant")
    return (
      ruleset.slots.find((slot) => slot.id === owner.slot)?.variants.find((item) => item.id === owner.id)?.on ?? false
    );
  const list = owner.kind === "popup" ? ruleset.popups : ruleset.redirects;
  return list.find((item) => item.id === owner.id)?.on ?? false;
}
