/** Small words that sentences about rules, schedules and visits share. */
import { said, t, text } from "../messages/t";
import { dayNames, fromDay, day as dayLength, formatClock } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";

/** A stretch of a sentence. `value` marks what somebody chose, `group` the brackets that show grouping. */
export interface Part {
  text: string;
  kind?: "value" | "group" | "missing";
}

export const plain = (text: string): Part => ({ text });
export const value = (text: string): Part => ({ text, kind: "value" });
/** Stands where something is not chosen yet. */
export const missing = (text = "…"): Part => ({ text, kind: "missing" });

export const joinParts = (parts: readonly Part[]): string => parts.map((part) => part.text).join("");

/** Puts words between the items: "a, b or c". */
export function listed(items: readonly Part[], last: string): Part[] {
  return items.flatMap((item, index) =>
    index === 0 ? [item] : [plain(index === items.length - 1 ? ` ${last} ` : ", "), item],
  );
}

export const weekdayNames = said([
  text("Monday"),
  text("Tuesday"),
  text("Wednesday"),
  text("Thursday"),
  text("Friday"),
  text("Saturday"),
  text("Sunday"),
]);
export const monthNames = said([
  text("January"),
  text("February"),
  text("March"),
  text("April"),
  text("May"),
  text("June"),
  text("July"),
  text("August"),
  text("September"),
  text("October"),
  text("November"),
  text("December"),
]);

/** Weekdays from Monday on, short. */
export const weekdaysShort = said([
  text("Mon"),
  text("Tue"),
  text("Wed"),
  text("Thu"),
  text("Fri"),
  text("Sat"),
  text("Sun"),
]);
/** Months, short. */
export const monthsShort = said([
  text("Jan"),
  text("Feb"),
  text("Mar"),
  text("Apr"),
  text("May"),
  text("Jun"),
  text("Jul"),
  text("Aug"),
  text("Sep"),
  text("Oct"),
  text("Nov"),
  text("Dec"),
]);

/** "Monday to Friday", "Tuesday", "Monday and Thursday". */
export function daysPhrase(days: readonly string[]): string {
  const numbers = [...new Set(days.map((day) => dayNames.indexOf(day as (typeof dayNames)[number])))].sort(
    (a, b) => a - b,
  );
  const named = (number: number | undefined): string => weekdayNames[number ?? 0] as string;
  const run = numbers.length > 2 && numbers.every((number, index) => number === (numbers[0] as number) + index);
  if (run) return t("{first} to {last}", { first: named(numbers[0]), last: named(numbers.at(-1)) });
  return joinParts(
    listed(
      numbers.map((number) => plain(named(number))),
      t("or"),
    ),
  );
}

/** "24 December 2026" of `2026-12-24`. */
export function datePhrase(date: string): string {
  const [year, month, day] = date.split("-").map(Number) as [number, number, number];
  return t("{day} {month} {year}", { day, month: monthNames[month - 1], year });
}

/** The name of a zone as people say it: "Lisbon time". */
export const zonePhrase = (zone: string): string =>
  zone === "UTC" || zone === "Etc/UTC"
    ? "UTC"
    : t("{city} time", { city: (zone.split("/").at(-1) as string).replaceAll("_", " ") });

const partsOf = (at: number, zone: string) => {
  const local = zoneOf(zone).toLocal(at);
  const number = Math.floor(local / dayLength);
  const clock = formatClock(Math.floor((local - number * dayLength) / 60_000));
  return { ...fromDay(number), weekday: (((number + 3) % 7) + 7) % 7, clock };
};

/** "Tuesday 24 November 2026, 10:15" of an instant, in a zone. */
export function instantPhrase(at: number, zone: string, withYear = true): string {
  const { year, month, day, weekday, clock } = partsOf(at, zone);
  const values = { weekday: weekdayNames[weekday], day, month: monthNames[month - 1], year, clock };
  return withYear
    ? t("{weekday} {day} {month} {year}, {clock}", values)
    : t("{weekday} {day} {month}, {clock}", values);
}

/** "Tue 24 Nov 2026, 10:15" of an instant, in a zone. */
export function shortInstantPhrase(at: number, zone: string): string {
  const { year, month, day, weekday, clock } = partsOf(at, zone);
  const values = { weekday: weekdaysShort[weekday], day, month: monthsShort[month - 1], year, clock };
  return t("{weekday} {day} {month} {year}, {clock}", values);
}
