import { t } from "../messages/t";
import * as z from "zod";
import { dayNames, daysInMonth, isDate, parseClock } from "../calendar/calendar";
import { parseRepeat } from "../calendar/repeat";
import { isZone } from "../calendar/zone";
import { localDateTime } from "./basics";

const everyYear = (text: string): boolean => {
  const match = /^(\d\d)-(\d\d)$/.exec(text);
  if (!match) return false;
  const [month, day] = [Number(match[1]), Number(match[2])];
  return month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(2000, month);
};

const clock = (end: boolean) =>
  z.string().refine((text) => parseClock(text, end) !== undefined, {
    error: () => t("must be a time from 00:00 to {end}", { end: end ? "24:00" : "23:59" }),
  });

/** A schedule (docs/engine.md, section 5): when something holds, in a named zone. */
export const scheduleSchema = z
  .strictObject({
    zone: z.string().refine((text) => text === "site" || text === "visitor" || isZone(text), {
      error: () => t('must be "site", "visitor" or the name of a time zone such as "Europe/Lisbon"'),
    }),
    from: localDateTime.optional(),
    until: localDateTime.optional(),
    days: z.array(z.enum(dayNames)).min(1).optional(),
    dates: z
      .array(
        z.string().refine((text) => everyYear(text) || isDate(text), {
          error: () => t("must be a date that exists: MM-DD for every year, or YYYY-MM-DD"),
        }),
      )
      .min(1)
      .optional(),
    repeat: z
      .string()
      .superRefine((text, context) => {
        const rule = parseRepeat(text);
        if (!rule.ok) context.addIssue({ code: "custom", message: rule.problem });
      })
      .optional(),
    windows: z
      .array(z.strictObject({ start: clock(false), end: clock(true) }))
      .min(1)
      .optional(),
  })
  .superRefine((schedule, context) => {
    if (schedule.from && schedule.until && schedule.from >= schedule.until)
      context.addIssue({
        code: "custom",
        path: ["until"],
        params: { code: "order" },
        message: t("must be later than from"),
      });
    if (schedule.repeat !== undefined && schedule.from === undefined)
      context.addIssue({
        code: "custom",
        path: ["from"],
        params: { code: "missing" },
        message: t("is needed: a repeat counts from it"),
      });
  });

export type Schedule = z.output<typeof scheduleSchema>;
