import fc from "fast-check";
import { expect, test } from "vitest";
import { formatDate, formatLocal, parseDate, parseLocal } from "@/core/calendar/calendar";
import { momentOf, textOf, unfinished } from "./moments";

const firstDay = parseDate("1000-01-01") as number;
const lastDay = parseDate("9999-12-31") as number;

test("texts come back as they were, whatever the zone of the machine is: Day.js beside our calendar", () => {
  fc.assert(
    fc.property(fc.integer({ min: firstDay, max: lastDay }), fc.integer({ min: 0, max: 1439 }), (day, minutes) => {
      const date = formatDate(day);
      const moment = formatLocal((day * 1440 + minutes) * 60_000);
      expect(textOf(momentOf(date), "day")).toBe(date);
      expect(textOf(momentOf(moment), "minute")).toBe(moment);
      expect(momentOf(moment)?.valueOf()).toBe(parseLocal(moment));
    }),
  );
});

test("hours that summer time leaves out are times like all others", () => {
  expect(textOf(momentOf("2027-03-28T02:30"), "minute")).toBe("2027-03-28T02:30");
});

test("nothing is no date, and what is typed in part is none yet", () => {
  expect(momentOf("")).toBeNull();
  expect(textOf(null, "day")).toBe("");
  expect(textOf(momentOf("0202-03-04"), "day")).toBe(unfinished);
  expect(textOf(momentOf("no date"), "minute")).toBe(unfinished);
});
