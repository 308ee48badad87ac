import { calendarOf } from "@/core/exchange/ical-out";
import { siteOfCalendar } from "@/data/delivery";
import { liveRelease } from "@/data/releases";
import { now } from "@/clock";

/** The calendar of what is live on the site of which `key` is the secret part of the calendar's address. */
export async function calendarByKey(key: string): Promise<{ site: string; text: string } | undefined> {
  const site = await siteOfCalendar(key);
  const live = site === undefined ? undefined : await liveRelease(site);
  return site !== undefined && live ? { site, text: calendarOf(live.ruleset, { now: now() }) } : undefined;
}
