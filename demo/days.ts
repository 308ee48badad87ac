/** The days of the demo, placed by the day on which it is filled in: nothing in it leans on a certain year. */
import { formatDate, formatLocal, parseLocal, toDay, weekday } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";

export const zone = zoneOf("Europe/Lisbon");
const dayLength = 86_400_000;
/** Numbers of weekdays, as `weekday` counts them. */
const tuesday = 1;

export interface DemoDays {
  /** The day of the coming clinic: the first Tuesday after the day of the start. */
  clinic: number;
  /** An instant (RFC 3339, UTC) so many days after the clinic's day, at a time of Lisbon. */
  at: (daysAfterClinic: number, clock: string) => string;
  /** The coming 18 December: the last posting day before the holidays. */
  lastPosting: string;
  /** The first of that December. */
  firstPosting: string;
}

/** @param start epoch ms */
export function demoDays(start: number): DemoDays {
  const today = Math.floor(zone.toLocal(start) / dayLength);
  let clinic = today + 1;
  while (weekday(clinic) !== tuesday) clinic += 1;
  const year = Number(formatDate(today).slice(0, 4));
  const posting = today <= toDay(year, 12, 18) ? year : year + 1;
  return {
    clinic,
    at: (daysAfterClinic, clock) =>
      new Date(zone.toInstant(parseLocal(`${formatDate(clinic + daysAfterClinic)}T${clock}`) as number)).toISOString(),
    lastPosting: `${posting}-12-18T12:00`,
    firstPosting: `${posting}-12-01T00:00`,
  };
}

/** A local date and time of the demo, for who reads: `YYYY-MM-DDTHH:MM` in Lisbon. */
export const localOf = (instant: string): string => formatLocal(zone.toLocal(Date.parse(instant)));
