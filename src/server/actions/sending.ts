import { randomBytes } from "node:crypto";
import * as z from "zod";
import { linkSchema, linkText, type CampaignLink } from "@/core/campaigns/link";
import { id } from "@/core/formats/basics";
import type { ResultRow } from "@/core/results/results";
import { isZone } from "@/core/calendar/zone";
import { tell } from "@/data/audit";
import { deliverySettings, saveDelivery } from "@/data/delivery";
import { transaction } from "@/data/pool";
import { deleteLink, listLinks, saveLinks } from "@/data/links";
import { wentLive } from "@/data/releases";
import { countedSlots, resultRows } from "@/data/results";
import { action, Refusal } from "../act";
import { changeList } from "../lists";

/** What was counted of one slot, and what went live meanwhile. */
export interface ResultsNow {
  rows: ResultRow[];
  /** Slots (and pop-ups: `popup:ID`) of which anything was counted in this time. */
  slots: { slot: string; exposures: number }[];
  /** What went live in this time, oldest first. */
  releases: { release: number; at: string; why: string }[];
}

const day = z.iso.date();
/** The longest time that results are shown for, in days. */
const longest = 400;

/** Links as the audit trail tells them: by name, with where they lead and what is noted. */
const linksInWords = (links: readonly CampaignLink[]): Record<string, string> =>
  Object.fromEntries(
    links.map((link) => [link.name, [linkText(link, ""), link.usedBy, link.note].filter(Boolean).join(" · ")]),
  );

/** Sending people, and what came of it. */
export const sendingActions = {
  /** Keeps links, all or none. */
  keepLinks: action("content", [z.array(linkSchema).min(1).max(2000)], (who, links) =>
    changeList(who.site, "links", async (db) => {
      const before = new Map((await listLinks(who.site, db)).map((link) => [link.id, link]));
      await saveLinks(who.site, links, db);
      const [only] = links;
      const says =
        links.length === 1 && only
          ? `The link “${only.name}” was ${before.has(only.id) ? "changed" : "made"}`
          : `${links.length} links were read from a file`;
      const old = links.flatMap((link) => before.get(link.id) ?? []);
      await tell(who.site, who.id, { kind: "links", says, before: linksInWords(old), after: linksInWords(links) }, db);
      return links;
    }),
  ),
  dropLink: action("content", [id], (who, link) =>
    changeList(who.site, "links", async (db) => {
      const before = (await listLinks(who.site, db)).find((item) => item.id === link);
      await deleteLink(who.site, link, db);
      await tell(who.site, who.id, { kind: "links", says: `The link “${before?.name ?? link}” was deleted` }, db);
      return undefined;
    }),
  ),
  /** What was counted of a slot from a day on until another, both whole, in a time zone. */
  results: action(
    "signed in",
    [z.string().min(1).max(80), day, day, z.string().refine(isZone, "is no time zone")],
    async (who, slot, from, until, zone): Promise<ResultsNow> => {
      const days = (Date.parse(until) - Date.parse(from)) / 86_400_000;
      if (days < 0 || days >= longest)
        throw new Refusal(422, `Results are shown for up to ${longest} days, the first before the last.`);
      // A day more at both ends: days of the zone begin and end at other instants than those of UTC.
      const [start, end] = [new Date(Date.parse(from) - 14 * 3_600_000), new Date(Date.parse(until) + 38 * 3_600_000)];
      const [rows, slots, live] = await Promise.all([
        resultRows(who.site, slot, from, until, zone),
        countedSlots(who.site, start, end),
        wentLive(who.site),
      ]);
      return {
        rows,
        slots,
        releases: live
          .filter((item) => Date.parse(item.at) >= start.getTime() && Date.parse(item.at) < end.getTime())
          .map(({ release, at, why }) => ({ release, at, why }))
          .reverse(),
      };
    },
  ),
  /** The secret part of the calendar's address; null: nobody has asked for one yet. */
  calendar: action("signed in", [], async (who) => (await deliverySettings(who.site)).calendarKey),
  /** Gives the calendar a new address: the old one is gone at once. */
  renewCalendar: action("build", [], async (who) => {
    const key = randomBytes(18).toString("base64url");
    await transaction(who.site, async (db) => {
      await saveDelivery(who.site, "calendarKey", key, db);
      await tell(who.site, who.id, { kind: "settings", says: "The calendar got a new address" }, db);
    });
    return key;
  }),
};
