/**
 * The part of RFC 5545 recurrence rules that schedules take: FREQ DAILY to YEARLY, INTERVAL, BYDAY, BYMONTHDAY, BYMONTH,
 * COUNT, UNTIL (a date, inclusive) and WKST. A rule is asked day by day, so nothing is ever expanded without end.
 */
import { t } from "../messages/t";
import { dayNames, daysInMonth, fromDay, isLeap, parseDate, toDay, weekday } from "./calendar";

const frequencies = ["DAILY", "WEEKLY", "MONTHLY", "YEARLY"] as const;

export interface Repeat {
  freq: (typeof frequencies)[number];
  interval: number;
  count?: number;
  /** Day number, inclusive. */
  until?: number;
  /** Weekdays (0 Monday) with the ordinal within month or year, 0 for every one. */
  byDay?: { day: number; nth: number }[];
  byMonthDay?: number[];
  byMonth?: number[];
  /** The weekday (0 Monday) on which a week starts. */
  weekStart: number;
}

export type ParsedRepeat = { ok: true; repeat: Repeat } | { ok: false; problem: string };

const refuse = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

const whole = (text: string, low: number, high: number): number | undefined => {
  if (!/^[+-]?\d{1,9}$/.test(text)) return undefined;
  const value = Number(text);
  return value >= low && value <= high && value !== 0 ? value : undefined;
};

/** Reads a recurrence rule (RFC 5545, section 3.3.10, without the `RRULE:` before it). */
export function parseRepeat(text: string): ParsedRepeat {
  const parts = new Map<string, string>();
  for (const part of text.toUpperCase().split(";")) {
    const at = part.indexOf("=");
    if (at < 1 || at === part.length - 1)
      return refuse(t('must be parts such as FREQ=WEEKLY, parted by ";": "{part}" is none', { part }));
    const key = part.slice(0, at);
    if (parts.has(key)) return refuse(t("has {key} twice", { key }));
    parts.set(key, part.slice(at + 1));
  }
  const freq = frequencies.find((name) => name === parts.get("FREQ"));
  if (!freq) return refuse(t("must have FREQ=DAILY, WEEKLY, MONTHLY or YEARLY"));
  const repeat: Repeat = { freq, interval: 1, weekStart: 0 };
  for (const [key, value] of parts) {
    const items = value.split(",");
    switch (key) {
      case "FREQ":
        break;
      case "INTERVAL":
      case "COUNT": {
        const number = /^\d+$/.test(value) ? whole(value, 1, 999_999_999) : undefined;
        if (number === undefined)
          return refuse(t("has {key}={value}, which must be a whole number from 1", { key, value }));
        repeat[key === "COUNT" ? "count" : "interval"] = number;
        break;
      }
      case "UNTIL": {
        const until = /^\d{8}$/.test(value)
          ? parseDate(`${value.slice(0, 4)}-${value.slice(4, 6)}-${value.slice(6)}`)
          : undefined;
        if (until === undefined)
          return refuse(t("has UNTIL={value}, which must be a date such as 20261224", { value }));
        repeat.until = until;
        break;
      }
      case "BYDAY": {
        const days = items.map((item) => {
          const match = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.exec(item);
          const nth = match?.[1] === undefined ? 0 : whole(match[1], -53, 53);
          return match && nth !== undefined ? { day: dayNames.findIndex((name) => name === match[2]), nth } : undefined;
        });
        const known = days.filter((item) => item !== undefined);
        if (known.length < days.length)
          return refuse(t("has BYDAY={value}, which must be days such as MO or 1FR", { value }));
        repeat.byDay = known;
        break;
      }
      case "BYMONTHDAY":
      case "BYMONTH": {
        const limit = key === "BYMONTH" ? [1, 12] : [-31, 31];
        const numbers = items.map((item) => whole(item, limit[0] as number, limit[1] as number));
        const known = numbers.filter((item) => item !== undefined);
        if (known.length < numbers.length || (key === "BYMONTH" && /[+-]/.test(value)))
          return refuse(
            t("has {key}={value}, which must be numbers from {key2}", {
              key,
              value,
              key2: key === "BYMONTH" ? t("1 to 12") : t("1 to 31 or -31 to -1"),
            }),
          );
        repeat[key === "BYMONTH" ? "byMonth" : "byMonthDay"] = known;
        break;
      }
      case "WKST": {
        const start = dayNames.findIndex((name) => name === value);
        if (start < 0) return refuse(t("has WKST={value}, which must be a day such as MO", { value }));
        repeat.weekStart = start;
        break;
      }
      default:
        return refuse(t("has {key}, which is not understood here", { key }));
    }
  }
  if (repeat.count !== undefined && repeat.until !== undefined)
    return refuse(t("has COUNT and UNTIL, which RFC 5545 forbids together"));
  if (freq === "WEEKLY" && repeat.byMonthDay)
    return refuse(t("has BYMONTHDAY with FREQ=WEEKLY, which RFC 5545 forbids together"));
  if (freq !== "MONTHLY" && freq !== "YEARLY" && repeat.byDay?.some((item) => item.nth !== 0))
    return refuse(t("has a numbered day in BYDAY with FREQ={freq}, which RFC 5545 forbids together", { freq }));
  return { ok: true, repeat };
}

/** Whether the ordinal of a weekday within [start, start + length) is `nth`, from the front or, below 0, from the back. */
const isNth = (number: number, nth: number, start: number, length: number): boolean =>
  nth > 0 ? Math.floor((number - start) / 7) + 1 === nth : Math.floor((start + length - 1 - number) / 7) + 1 === -nth;

/** A test for day numbers: is this day an occurrence of the rule whose DTSTART is the day `start`? */
export function occurrences(repeat: Repeat, start: number): (number: number) => boolean {
  const first = fromDay(start);
  const { freq, interval, byDay, byMonthDay, byMonth } = repeat;
  const weekOf = (number: number): number => Math.floor((number + 3 - repeat.weekStart) / 7);
  const fits = (number: number): boolean => {
    const { year, month, day } = fromDay(number);
    const passed =
      freq === "DAILY"
        ? number - start
        : freq === "WEEKLY"
          ? weekOf(number) - weekOf(start)
          : freq === "MONTHLY"
            ? (year - first.year) * 12 + month - first.month
            : year - first.year;
    if (passed % interval !== 0) return false;
    if (byMonth && !byMonth.includes(month)) return false;
    const length = daysInMonth(year, month);
    if (byMonthDay && !byMonthDay.includes(day) && !byMonthDay.includes(day - length - 1)) return false;
    if (byDay) {
      const within = (nth: number): boolean => {
        if (nth === 0) return true;
        return freq === "YEARLY" && !byMonth
          ? isNth(number, nth, toDay(year, 1, 1), isLeap(year) ? 366 : 365)
          : isNth(number, nth, number - day + 1, length);
      };
      if (!byDay.some((item) => item.day === weekday(number) && within(item.nth))) return false;
    }
    // What the rule does not say, DTSTART says.
    if (!byDay && !byMonthDay) {
      if (freq === "WEEKLY" && weekday(number) !== weekday(start)) return false;
      if ((freq === "MONTHLY" || freq === "YEARLY") && day !== first.day) return false;
      if (freq === "YEARLY" && !byMonth && month !== first.month) return false;
    }
    return true;
  };
  const until = repeat.until ?? Infinity;
  if (repeat.count === undefined) return (number) => number >= start && number <= until && fits(number);

  // With COUNT the days are counted once, as far as anyone has asked.
  const counted: number[] = [];
  const found = new Set<number>();
  let next = start;
  return (number) => {
    for (; next <= number && counted.length < (repeat.count as number); next++)
      if (fits(next)) {
        counted.push(next);
        found.add(next);
      }
    return found.has(number);
  };
}
