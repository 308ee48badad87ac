/** Days and hours in Lisbon, from the clock as it is. */
import { now } from "@/clock";

const zone = "Europe/Lisbon";
const names = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"] as const;

/** The day (YYYY-MM-DD) in Lisbon, so many days from now. */
export const dayIn = (days: number): string =>
  new Intl.DateTimeFormat("en-CA", { timeZone: zone }).format(now() + days * 86_400_000);
/** The number (0 is Sunday) of a day. */
export const weekday = (day: string): number => new Date(`${day}T12:00:00Z`).getUTCDay();
/** The weekday of a day, as its button says it. */
export const weekdayName = (day: string): string => names[weekday(day)] ?? "";
/** The coming day of a weekday (0 is Sunday), tomorrow or later. */
export function coming(number: number): string {
  let days = 1;
  while (weekday(dayIn(days)) !== number) days += 1;
  return dayIn(days);
}
/** Minutes since midnight in Lisbon. */
export function minutesNow(): number {
  const parts = new Intl.DateTimeFormat("en-GB", { timeZone: zone, hour: "2-digit", minute: "2-digit" }).format(now());
  const [hour = "0", minute = "0"] = parts.split(":");
  return Number(hour) * 60 + Number(minute);
}
