import { t } from "@/core/messages/t";
import * as z from "zod";
import { hoursToCsv } from "@/core/results/hours";
import { groups, resultsToCsv } from "@/core/results/results";
import { annotate, dropAnnotation } from "@/data/annotations";
import { tell } from "@/data/audit";
import { longTransaction, transaction } from "@/data/pool";
import { endResultLink, listResultLinks, makeResultLink } from "@/data/result-links";
import type { SlotSum } from "@/core/results/sums";
import { countedSlots, forgetCounts, hourRows, resultRows } from "@/data/results";
import { action, Refusal } from "../act";
import { slotCounts, type SlotCounts } from "../results";

/** What was counted of one slot, and of which others anything was. */
export interface ResultsNow extends SlotCounts {
  /** Slots (and pop-ups: `popup:ID`) of which anything was counted in this time. */
  slots: SlotSum[];
}

const day = z.iso.date();
const counted = z.string().min(1).max(80);
/** The longest time that results are shown for, in days. */
const longest = 400;

function checkSpan(from: string, until: string): void {
  const days = (Date.parse(until) - Date.parse(from)) / 86_400_000;
  if (days < 0 || days >= longest)
    throw new Refusal(422, t("Results are shown for up to {longest} days, the first before the last.", { longest }));
}

/** What came of what was shown, and what is noted and shared of it. */
export const resultActions = {
  /** What was counted of a slot from a day of the site's calendar on until another, both whole. */
  results: action(
    "signed in",
    [counted, day, day, z.enum(groups)],
    async (who, slot, from, until, by): Promise<ResultsNow> => {
      checkSpan(from, until);
      const [counts, slots] = await Promise.all([
        slotCounts(who.site, slot, from, until, by),
        countedSlots(who.site, from, until),
      ]);
      return { ...counts, slots };
    },
  ),
  /** By day and every kind of group, as a CSV. */
  resultTable: action("signed in", [counted, day, day, z.string().max(80)], async (who, slot, from, until, goal) => {
    checkSpan(from, until);
    return resultsToCsv(await resultRows(who.site, slot, from, until), slot, goal || undefined);
  }),
  /** The same by hour, as a CSV (docs/formats.md). */
  resultHours: action("signed in", [counted, day, day], async (who, slot, from, until) => {
    checkSpan(from, until);
    return hoursToCsv(slot, await hourRows(who.site, slot, from, until));
  }),
  /** Deletes what was counted of a slot on some days: what was tried by hand, or what a machine made. */
  forgetCounts: action("build", [counted, day, day], async (who, slot, from, until) => {
    checkSpan(from, until);
    await longTransaction(who.site, async (db) => {
      const exposures = await forgetCounts(who.site, slot, from, until, db);
      const says = t(
        "What was counted of {slot} from {from} to {until} was deleted: {exposures} exposures, and what came of them",
        { slot, from, until, exposures },
      );
      await tell(who.site, who.id, { kind: "results", says }, db);
    });
  }),
  /** Notes what happened on a day. */
  annotate: action("signed in", [day, z.string().trim().min(1).max(200)], async (who, on, says) => {
    await transaction(who.site, async (db) => {
      await annotate(who.site, { day: on, says, madeBy: who.id }, db);
      await tell(who.site, who.id, { kind: "results", says: t("On {on} was noted: {says}", { on, says }) }, db);
    });
  }),
  dropAnnotation: action("signed in", [z.uuid()], async (who, id) => {
    await transaction(who.site, async (db) => {
      const gone = await dropAnnotation(who.site, id, db);
      if (gone)
        await tell(
          who.site,
          who.id,
          { kind: "results", says: t("The note on {day} was deleted: {says}", { day: gone.day, says: gone.says }) },
          db,
        );
    });
  }),
  /** Makes a link by which anybody reads the results of one slot, for so many days. Answers its name. */
  shareResults: action(
    "signed in",
    [
      z.strictObject({
        slot: counted,
        goal: z.string().max(80),
        from: day,
        until: day.nullable(),
        days: z.number().int().min(1).max(90),
      }),
    ],
    async (who, { days, ...shown }) =>
      transaction(who.site, async (db) => {
        const name = await makeResultLink({ site: who.site, ...shown }, who.id, days, db);
        const says = t("A link to the results of {slot} was made, for {days, plural, one {a day} other {# days}}", {
          slot: shown.slot,
          days,
        });
        await tell(who.site, who.id, { kind: "results", says }, db);
        return name;
      }),
  ),
  resultLinks: action("signed in", [], async (who) => listResultLinks(who.site)),
  endResultLink: action("signed in", [z.string().max(60)], async (who, id) => {
    await transaction(who.site, async (db) => {
      const slot = await endResultLink(who.site, id, db);
      if (slot !== undefined)
        await tell(
          who.site,
          who.id,
          { kind: "results", says: t("A link to the results of {slot} was ended", { slot }) },
          db,
        );
    });
  }),
};
