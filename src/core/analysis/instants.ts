/** Instants that tell schedules apart. */
import type { Condition } from "../formats/rule";
import { scheduleSchema, type Schedule } from "../formats/schedule";
import { day, minute, parseDate, parseLocal } from "../calendar/calendar";
import { readySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import type { Domain, Setting } from "./facet";

/** How far ahead repeats without an end are looked at, in days. */
const horizon = 420;
/** Weekdays and dates of the year meet in every way within 28 years (between 1901 and 2099), 40 across 2100. */
const years = 28;
const mostEdges = 60_000;

/**
 * Settings of time (and, where a schedule goes by it, of the visitor's zone) in which the schedules come out in every way.
 * Exact where no repeat runs on for ever: edges are laid out for whole weeks in every stretch between the bounds, for every
 * date that is named, in every year, and for the days on which clocks change.
 */
export function instants(conditions: readonly Condition[], domain: Domain): { settings: Setting[]; exact: boolean } {
  const schedules: Schedule[] = [];
  const seen = new Set<string>();
  for (const condition of conditions) {
    if (condition.signal !== "time") continue;
    const read = scheduleSchema.safeParse(condition.value);
    const key = JSON.stringify(condition.value);
    if (!read.success || seen.has(key)) continue;
    seen.add(key);
    schedules.push(read.data);
  }
  const { site } = domain.ruleset;
  const byVisitor = schedules.some((schedule) => schedule.zone === "visitor");
  const zones = byVisitor ? [site.zone, "Asia/Tokyo", "America/Los_Angeles", undefined] : [undefined];
  let exact = !byVisitor;
  const settings: Setting[] = [];
  for (const visitor of zones) {
    const edges = new Set<number>([domain.from]);
    const days = new Set<number>();
    const today = Math.floor(domain.from / day);
    const addDays = (from: number, count: number) => {
      for (let i = 0; i < count; i++) days.add(from + i);
    };
    addDays(today, 9);
    for (const schedule of schedules) {
      const zone = zoneOf(
        schedule.zone === "site" ? site.zone : schedule.zone === "visitor" ? (visitor ?? site.zone) : schedule.zone,
      );
      for (const bound of [schedule.from, schedule.until])
        if (bound !== undefined) {
          const at = zone.toInstant(parseLocal(bound) as number);
          edges.add(at);
          addDays(Math.floor(at / day) - 8, 17);
        }
      for (const text of schedule.dates ?? []) {
        if (text.length > 5) addDays((parseDate(text) as number) - 1, 3);
        else
          for (let year = 0; year < years; year++) {
            const number = parseDate(`${new Date(domain.from).getUTCFullYear() + year}-${text}`);
            if (number !== undefined) addDays(number - 1, 3);
          }
      }
      if (schedule.repeat !== undefined) {
        if (!/COUNT=|UNTIL=/.test(schedule.repeat)) exact = false;
        const start = Math.floor((parseLocal(schedule.from as string) as number) / day);
        addDays(Math.max(start, today) - 1, horizon);
        if (start < today) addDays(start - 1, 60);
      }
      for (const change of zone.changes(domain.from, domain.from + 400 * day)) addDays(Math.floor(change / day) - 1, 3);
    }
    for (const schedule of schedules) {
      const ready = readySchedule(schedule, site.zone);
      for (const stretch of runs([...days]))
        for (const span of ready.spans(stretch.from * day, (stretch.until + 1) * day, visitor)) {
          edges.add(span.from);
          edges.add(span.until);
        }
      if (edges.size > mostEdges) {
        exact = false;
        break;
      }
    }
    // Just after each edge, and the middle of what follows it, lies every stretch that differs from its neighbours.
    const sorted = [...edges].sort((a, b) => a - b);
    const late = sorted.filter((at) => at >= domain.from);
    for (const at of [
      ...late,
      ...sorted.filter((edge) => edge < domain.from).reverse(),
      (sorted[0] as number) - minute,
    ])
      settings.push((made) => {
        made.at = Math.ceil(at / 1000) * 1000;
        if (visitor !== undefined) made.zone = visitor;
      });
  }
  return { settings, exact };
}

/** Runs of days that follow one another. */
function runs(days: number[]): { from: number; until: number }[] {
  const out: { from: number; until: number }[] = [];
  for (const number of days.sort((a, b) => a - b)) {
    const last = out[out.length - 1];
    if (last && number <= last.until + 1) last.until = Math.max(last.until, number);
    else out.push({ from: number, until: number });
  }
  return out;
}
