/** Small words that sentences about rules, schedules and visits share. */
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

export const weekdayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
export const monthNames = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;

/** "Monday to Friday", "Tuesday", "Monday and Thursday". */
export function daysPhrase(days: readonly string[]): string {
  const numbers = [...new Set(days.map((day) => dayNames.indexOf(day as (typeof dayNames)[number])))].sort(
    (a, b) => a - b,
  );
  const named = (number: number | undefined): string => weekdayNames[number ?? 0] as string;
  const run = numbers.length > 2 && numbers.every((number, index) => number === (numbers[0] as number) + index);
  if (run) return `${named(numbers[0])} to ${named(numbers.at(-1))}`;
  return joinParts(
    listed(
      numbers.map((number) => plain(named(number))),
      "or",
    ),
  );
}

/** "24 December 2026" of `2026-12-24`. */
export function datePhrase(date: string): string {
  const [year, month, day] = date.split("-").map(Number) as [number, number, number];
  return `${day} ${monthNames[month - 1]} ${year}`;
}

/** The name of a zone as people say it: "Lisbon time". */
export const zonePhrase = (zone: string): string =>
  zone === "UTC" || zone === "Etc/UTC" ? "UTC" : `${(zone.split("/").at(-1) as string).replaceAll("_", " ")} time`;

/** "Tuesday 24 November 2026, 10:15" of an instant, in a zone. */
export function instantPhrase(at: number, zone: string, withYear = true): string {
  const local = zoneOf(zone).toLocal(at);
  const number = Math.floor(local / dayLength);
  const { year, month, day } = fromDay(number);
  const name = weekdayNames[(((number + 3) % 7) + 7) % 7] as string;
  return `${name} ${day} ${monthNames[month - 1]}${withYear ? ` ${year}` : ""}, ${formatClock(Math.floor((local - number * dayLength) / 60_000))}`;
}

/** "Tue 24 Nov 2026, 10:15" of an instant, in a zone. */
export function shortInstantPhrase(at: number, zone: string): string {
  const [weekday = "", day = "", month = "", ...rest] = instantPhrase(at, zone).split(" ");
  return [weekday.slice(0, 3), day, month.slice(0, 3), ...rest].join(" ");
}
