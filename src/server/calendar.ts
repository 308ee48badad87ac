import { timingSafeEqual } from "node:crypto";
import { calendarOf } from "@/core/exchange/ical-out";
import { deliverySettings } from "@/data/delivery";
import { liveRelease } from "@/data/releases";
import { now } from "@/clock";

/** The calendar of what is live on a site, if `key` is the secret part of its address. */
export async function siteCalendar(site: string, key: string): Promise<string | undefined> {
  const { calendarKey } = await deliverySettings(site);
  const [given, kept] = [Buffer.from(key), Buffer.from(calendarKey ?? "")];
  if (kept.length === 0 || given.length !== kept.length || !timingSafeEqual(given, kept)) return undefined;
  const live = await liveRelease(site);
  return live && calendarOf(live.ruleset, { now: now() });
}
