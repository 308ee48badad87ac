/** Events of an iCalendar (RFC 5545) as rules: a calendar of live events becomes a schedule, with its time zones. */
import { t } from "../messages/t";
import ICAL from "ical.js";
import { findIana } from "windows-iana";
import type { Problem } from "../formats/problem";
import type { Rule } from "../formats/rule";
import { scheduleSchema, type Schedule } from "../formats/schedule";
import { day as dayLength, formatClock, formatDate, formatLocal, minute } from "../calendar/calendar";
import { isZone, zoneOf } from "../calendar/zone";

/** An event that could be read, as a rule that holds while it lasts. */
export interface CalendarEvent {
  uid: string;
  name: string;
  /** The line on which it begins. */
  line: number;
  rule: Rule;
  /** What was taken otherwise than it stood there, in words. */
  notes: string[];
}
export interface CalendarRead {
  name: string;
  events: CalendarEvent[];
  /** What could not be taken, each with its line; the rest is there. */
  problems: Problem[];
}

/** At most so many events are taken from one calendar. */
const mostEvents = 500;

interface Block {
  name: string;
  line: number;
  text: string;
}

/** The components of a calendar that matter, each with its lines; and what is wrong with how they nest. */
function blocksOf(text: string): { blocks: Block[]; name: string } | { problem: Problem } {
  const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
  const first = lines.findIndex((line) => line.trim() !== "");
  if (!/^BEGIN:VCALENDAR\s*$/i.test(lines[first] ?? ""))
    return {
      problem: {
        path: `line ${Math.max(1, first + 1)}`,
        code: "file",
        problem: t("expected BEGIN:VCALENDAR: this is no iCalendar file"),
      },
    };
  const blocks: Block[] = [];
  const open: { name: string; line: number; lines: string[] }[] = [];
  let name = "";
  for (const [index, line] of lines.entries()) {
    const begin = /^BEGIN:(\S+)\s*$/i.exec(line)?.[1]?.toUpperCase();
    const end = /^END:(\S+)\s*$/i.exec(line)?.[1]?.toUpperCase();
    if (begin) open.push({ name: begin, line: index + 1, lines: [] });
    for (const item of open.slice(1)) item.lines.push(line);
    if (open.length === 1 && /^X-WR-CALNAME[;:]/i.test(line))
      name = line.slice(line.indexOf(":") + 1).replace(/\\([,;\\])/g, "$1");
    if (!end) continue;
    const closed = open.pop();
    if (closed?.name !== end)
      return {
        problem: {
          path: `line ${index + 1}`,
          code: "file",
          problem: closed
            ? t("END:{end}, but {closed} of line {line} is still open", { end, closed: closed.name, line: closed.line })
            : t("END:{end} without a beginning", { end }),
        },
      };
    if (open.length === 1) blocks.push({ name: end, line: closed.line, text: closed.lines.join("\r\n") });
  }
  const left = open.at(-1);
  return left
    ? {
        problem: {
          path: `line ${left.line}`,
          code: "file",
          problem: t("{left} begins here and never ends: the file is cut short", { left: left.name }),
        },
      }
    : { blocks, name };
}

class Refused extends Error {}

/** The IANA zone that a TZID means: its name, the end of a longer name, what its VTIMEZONE says of itself, or Windows’ name for it (by Unicode CLDR). */
function zoneNamed(tzid: string, locations: ReadonlyMap<string, string>): string {
  const parts = tzid.split("/");
  for (const candidate of [
    tzid,
    parts.slice(-2).join("/"),
    parts.slice(-3).join("/"),
    locations.get(tzid),
    findIana(tzid)[0],
  ])
    if (candidate && isZone(candidate)) return candidate;
  throw new Refused(t("the time zone “{tzid}” is not known: expected a name such as Europe/Lisbon", { tzid }));
}

interface When {
  /** Wall clock, ms. */
  local: number;
  zone: string;
  dateOnly: boolean;
}

function whenOf(
  property: InstanceType<typeof ICAL.Property>,
  time: InstanceType<typeof ICAL.Time>,
  locations: ReadonlyMap<string, string>,
  floating: string,
): When {
  const local = Date.UTC(
    time.year,
    time.month - 1,
    time.day,
    time.isDate ? 0 : time.hour,
    time.isDate ? 0 : time.minute,
  );
  const tzid = property.getFirstParameter("tzid");
  const utc = /Z$/.test(String(property.jCal[3])) || time.zone?.tzid === "UTC";
  return { local, zone: tzid ? zoneNamed(String(tzid), locations) : utc ? "UTC" : floating, dateOnly: time.isDate };
}

const dateOf = (local: number): string => formatDate(Math.floor(local / dayLength));
const clockOf = (local: number): string => formatClock(Math.floor((local % dayLength) / minute));
const within = (schedule: Schedule): Rule => {
  const read = scheduleSchema.safeParse(schedule);
  if (!read.success) throw new Refused(read.error.issues[0]?.message ?? t("cannot be carried"));
  return { signal: "time", op: "within", value: schedule };
};

/** The window of a day in which an event of this length lies. */
function windowOf(start: number, long: number): NonNullable<Schedule["windows"]> {
  if (long > dayLength) throw new Refused(t("it repeats and lasts longer than a day, which a schedule cannot say"));
  const end = (start % dayLength) + long;
  return [{ start: clockOf(start), end: end === dayLength ? "24:00" : clockOf(end) }];
}

/** An event of iCalendar as a rule. @throws Refused */
function ruleOf(
  event: InstanceType<typeof ICAL.Component>,
  locations: ReadonlyMap<string, string>,
  notes: string[],
  moved: readonly When[],
): Rule {
  const floating = event.getFirstPropertyValue("x-mirada-zone") === "visitor" ? "visitor" : "site";
  const begins = event.getFirstProperty("dtstart");
  const beginTime = begins?.getFirstValue();
  if (!begins || !(beginTime instanceof ICAL.Time)) throw new Refused(t("DTSTART is missing or is no time"));
  const start = whenOf(begins, beginTime, locations, floating);
  const named = begins.getFirstParameter("tzid");
  if (named && named !== start.zone)
    notes.push(t("the time zone “{named}” is taken as {zone}", { named: String(named), zone: start.zone }));
  if (start.zone === "site") notes.push(t("it names no time zone: the site’s is taken"));
  const ends = event.getFirstProperty("dtend");
  const endTime = ends?.getFirstValue();
  const lasts = event.getFirstPropertyValue("duration");
  let long: number;
  if (ends && endTime instanceof ICAL.Time) {
    const end = whenOf(ends, endTime, locations, floating);
    // An end in another zone is turned into the zone of the start.
    const wall =
      end.zone === start.zone ? end.local : zoneOf(start.zone).toLocal(zoneOf(end.zone).toInstant(end.local));
    long = wall - start.local;
  } else long = lasts instanceof ICAL.Duration ? lasts.toSeconds() * 1000 : start.dateOnly ? dayLength : 0;
  if (!(long > 0)) throw new Refused(t("it has no length: its end must be after its start"));
  if (long % minute !== 0 || start.local % minute !== 0) throw new Refused(t("its times are not whole minutes"));
  const rrules = event.getAllProperties("rrule");
  const single = (at: number): Rule =>
    within({ zone: start.zone, from: formatLocal(at), until: formatLocal(at + long) });
  const listed = (name: string): When[] =>
    event.getAllProperties(name).flatMap((property) =>
      property.getValues().map((value) => {
        if (!(value instanceof ICAL.Time))
          throw new Refused(t("{toUpperCase} with periods cannot be carried", { toUpperCase: name.toUpperCase() }));
        return whenOf(property, value, locations, floating);
      }),
    );
  const extra = listed("rdate").map((when) =>
    single(when.dateOnly ? when.local + (start.local % dayLength) : when.local),
  );
  if (rrules.length > 1) throw new Refused(t("it has several RRULEs, which a schedule cannot say"));
  let rule: Rule;
  if (rrules.length === 0) rule = single(start.local);
  else {
    const text = String((rrules[0] as InstanceType<typeof ICAL.Property>).toICALString()).replace(/^RRULE[^:]*:/i, "");
    const parts = text.split(";").map((part) => {
      const end = /^UNTIL=(\d{8})T(\d{6})(Z?)$/i.exec(part);
      if (!end) return part;
      const [, d = "", t = "", z] = end;
      const told = Date.UTC(
        +d.slice(0, 4),
        +d.slice(4, 6) - 1,
        +d.slice(6),
        +t.slice(0, 2),
        +t.slice(2, 4),
        +t.slice(4),
      );
      const local = z && start.zone !== "site" && start.zone !== "visitor" ? zoneOf(start.zone).toLocal(told) : told;
      // The last day is the one whose occurrence begins by then.
      const number = Math.floor(local / dayLength) - (local % dayLength < start.local % dayLength ? 1 : 0);
      return `UNTIL=${formatDate(number).replaceAll("-", "")}`;
    });
    rule = within({
      zone: start.zone,
      from: formatLocal(start.local),
      repeat: parts.join(";"),
      windows: windowOf(start.local, long),
    });
  }
  const without = [...listed("exdate"), ...moved];
  if (without.length > 0 && rrules.length > 0) {
    const dates = [
      ...new Set(
        without.map((when) =>
          dateOf(
            when.zone === start.zone || when.dateOnly
              ? when.local
              : zoneOf(start.zone).toLocal(zoneOf(when.zone).toInstant(when.local)),
          ),
        ),
      ),
    ].sort();
    rule = {
      all: [
        rule,
        { signal: "time", op: "outside", value: { zone: start.zone, dates, windows: windowOf(start.local, long) } },
      ],
    };
  }
  return extra.length > 0 ? { any: [rule, ...extra] } : rule;
}

/** Reads a calendar. Events that cannot be carried are named with their line; the others are read. */
export function readCalendar(text: string): CalendarRead {
  const found = blocksOf(text);
  if ("problem" in found) return { name: "", events: [], problems: [found.problem] };
  const out: CalendarRead = { name: found.name, events: [], problems: [] };
  const parse = (block: Block) => new ICAL.Component(ICAL.parse(block.text) as [string, [], []]);
  const locations = new Map<string, string>();
  const events: { block: Block; component: InstanceType<typeof ICAL.Component>; uid: string }[] = [];
  for (const block of found.blocks) {
    if (block.name !== "VTIMEZONE" && block.name !== "VEVENT") {
      out.problems.push({
        path: `line ${block.line}`,
        code: "left-out",
        problem: t("{block} is left out: only events become schedules", { block: block.name }),
      });
      continue;
    }
    try {
      const component = parse(block);
      const value = (name: string) => String(component.getFirstPropertyValue(name) ?? "");
      if (block.name === "VTIMEZONE") locations.set(value("tzid"), value("x-lic-location"));
      else events.push({ block, component, uid: value("uid") });
    } catch (error) {
      out.problems.push({
        path: `line ${block.line}`,
        code: "form",
        problem: t("this {block} cannot be read: {split}", {
          block: block.name === "VEVENT" ? t("event") : t("time zone"),
          split: (error as Error).message.split("\n")[0],
        }),
      });
    }
  }
  for (const { block, component, uid } of events) {
    const name = String(component.getFirstPropertyValue("summary") ?? "") || t("An event without a name");
    if (/^cancelled$/i.test(String(component.getFirstPropertyValue("status") ?? ""))) continue;
    if (out.events.length >= mostEvents) {
      out.problems.push({
        path: `line ${block.line}`,
        code: "size",
        problem: t("only the first {mostEvents} events are taken", { mostEvents }),
      });
      break;
    }
    try {
      const notes: string[] = [];
      // Occurrences that were moved or cancelled stand as events of their own, with the same UID.
      const moved = component.getFirstProperty("recurrence-id")
        ? []
        : events.flatMap((item) => {
            const property = item.uid === uid && item.component.getFirstProperty("recurrence-id");
            const time = property && property.getFirstValue();
            return property && time instanceof ICAL.Time ? [whenOf(property, time, locations, "site")] : [];
          });
      const rule = ruleOf(component, locations, notes, moved);
      out.events.push({ uid, name, line: block.line, rule, notes });
    } catch (error) {
      out.problems.push({
        path: `line ${block.line}`,
        code: error instanceof Refused ? "left-out" : "form",
        problem: `“${name}”: ${error instanceof Refused ? error.message : (error as Error).message.split("\n")[0]}`,
      });
    }
  }
  if (found.blocks.length === 0 || (events.length === 0 && out.problems.length === 0))
    out.problems.push({ path: "line 1", code: "empty", problem: t("there is no event in this calendar") });
  const line = (problem: Problem) => Number(problem.path.slice(5));
  out.problems.sort((a, b) => line(a) - line(b));
  return out;
}

/** Several events as one rule: it holds while one of them lasts. */
export const anyEvent = (events: readonly CalendarEvent[]): Rule =>
  events.length === 1 ? (events[0] as CalendarEvent).rule : { any: events.map((event) => event.rule) };
