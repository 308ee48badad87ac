/** Days as numbers (days since 1970-01-01 in the proleptic Gregorian calendar) and the texts that stand for them. */

/** RFC 5545 day names, from Monday. */
export const dayNames = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;
export type DayName = (typeof dayNames)[number];

export const minute = 60_000;
export const day = 1440 * minute;

export interface YearMonthDay {
  year: number;
  month: number;
  day: number;
}

export const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
export const daysInMonth = (year: number, month: number): number =>
  month === 2 ? (isLeap(year) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31;

/** Day number of a date. */
export function toDay(year: number, month: number, dayOfMonth: number): number {
  const date = new Date(0);
  date.setUTCFullYear(year, month - 1, dayOfMonth);
  return Math.round(date.getTime() / day);
}

/** The date of a day number. */
export function fromDay(number: number): YearMonthDay {
  const date = new Date(number * day);
  return { year: date.getUTCFullYear(), month: date.getUTCMonth() + 1, day: date.getUTCDate() };
}

/** 0 for Monday to 6 for Sunday. */
export const weekday = (number: number): number => (((number + 3) % 7) + 7) % 7;

const dateShape = /^(\d{4})-(\d\d)-(\d\d)$/;

/** The day number of `YYYY-MM-DD`, or undefined if no such date exists. */
export function parseDate(text: string): number | undefined {
  const match = dateShape.exec(text);
  if (!match) return undefined;
  const [year, month, dayOfMonth] = [Number(match[1]), Number(match[2]), Number(match[3])];
  if (month < 1 || month > 12 || dayOfMonth < 1 || dayOfMonth > daysInMonth(year, month)) return undefined;
  return toDay(year, month, dayOfMonth);
}

const two = (number: number): string => String(number).padStart(2, "0");

export function formatDate(number: number): string {
  const { year, month, day: dayOfMonth } = fromDay(number);
  return `${String(year).padStart(4, "0")}-${two(month)}-${two(dayOfMonth)}`;
}

/** Minutes after midnight of `HH:MM` from 00:00 to 23:59 (24:00 with `end`), or undefined. */
export function parseClock(text: string, end = false): number | undefined {
  const match = /^(\d\d):(\d\d)$/.exec(text);
  if (!match) return undefined;
  const minutes = Number(match[1]) * 60 + Number(match[2]);
  if (Number(match[2]) > 59 || minutes > (end ? 1440 : 1439)) return undefined;
  return minutes;
}

/** `HH:MM` of minutes after midnight. */
export const formatClock = (minutes: number): string => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

/** `YYYY-MM-DDTHH:MM` as milliseconds of a clock that knows no zone, or undefined. */
export function parseLocal(text: string): number | undefined {
  if (text[10] !== "T") return undefined;
  const date = parseDate(text.slice(0, 10));
  const clock = parseClock(text.slice(11));
  return date === undefined || clock === undefined ? undefined : date * day + clock * minute;
}

export const formatLocal = (local: number): string => {
  const number = Math.floor(local / day);
  return `${formatDate(number)}T${formatClock(Math.floor((local - number * day) / minute))}`;
};

export const isDate = (text: string): boolean => parseDate(text) !== undefined;
export const isLocalDateTime = (text: string): boolean => parseLocal(text) !== undefined;
