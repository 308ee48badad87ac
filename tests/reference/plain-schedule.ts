/** Section 5 of docs/engine.md written down a second time, day by day, with Temporal alone; without `repeat`. */
import { Temporal } from "temporal-polyfill";
import type { Schedule } from "@/core/formats/schedule";

const instant = (date: Temporal.PlainDate, clock: string, zone: string): number => {
  const late = clock === "24:00";
  const day = late ? date.add({ days: 1 }) : date;
  return day
    .toPlainDateTime(Temporal.PlainTime.from(late ? "00:00" : clock))
    .toZonedDateTime(zone, { disambiguation: "compatible" }).epochMilliseconds;
};

const dayNames = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;

/** Whether a schedule holds at an instant (epoch ms); its zone is an IANA name. */
export function holdsPlainly(schedule: Schedule, at: number): boolean {
  const { zone } = schedule;
  const local = (text: string) => Temporal.PlainDateTime.from(text).toZonedDateTime(zone).epochMilliseconds;
  if (schedule.from && at < local(schedule.from)) return false;
  if (schedule.until && at >= local(schedule.until)) return false;
  const today = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone).toPlainDate();
  for (let back = -2; back <= 2; back++) {
    const date = today.add({ days: back });
    if (schedule.days && !schedule.days.includes(dayNames[date.dayOfWeek - 1]!)) continue;
    const text = date.toString();
    if (schedule.dates && !schedule.dates.some((item) => item === text || item === text.slice(5))) continue;
    for (const { start, end } of schedule.windows ?? [{ start: "00:00", end: "24:00" }]) {
      const opens = instant(date, start, zone);
      const closes = instant(
        end > start ? date : date.add({ days: 1 }),
        end === "24:00" || end > start ? end : end,
        zone,
      );
      if (at >= opens && at < closes) return true;
    }
  }
  return false;
}
