/**
 * Schedules against `temporal-polyfill` (wall clock to instant, `compatible`) and `rrule` (RFC 5545), over generated cases
 * around the clock changes of six zones.
 */
import fc from "fast-check";
import rrule from "rrule";
import { Temporal } from "temporal-polyfill";
import { expect, it } from "vitest";
import { scheduleSchema } from "@/core/formats/schedule";
import { dayNames, formatDate, parseDate } from "@/core/calendar/calendar";
import { occurrences, parseRepeat } from "@/core/calendar/repeat";
import { readySchedule } from "@/core/schedule/schedule";
import { holdsPlainly } from "./plain-schedule";

const zones = [
  "Europe/Lisbon",
  "America/New_York",
  "Australia/Lord_Howe",
  "Africa/Casablanca",
  "Pacific/Apia",
  "Asia/Kolkata",
];

const pad = (n: number) => String(n).padStart(2, "0");
const clock = fc
  .record({ h: fc.integer({ min: 0, max: 23 }), m: fc.constantFrom(0, 15, 30, 59) })
  .map(({ h, m }) => `${pad(h)}:${pad(m)}`);
const schedules = fc.record(
  {
    zone: fc.constantFrom(...zones),
    days: fc.subarray([...dayNames], { minLength: 1 }),
    dates: fc.array(fc.constantFrom("12-25", "03-29", "10-25", "02-29", "2026-11-01", "2011-12-30"), {
      minLength: 1,
      maxLength: 3,
    }),
    windows: fc.array(fc.record({ start: clock, end: fc.oneof(clock, fc.constant("24:00")) }), {
      minLength: 1,
      maxLength: 3,
    }),
    from: fc.constantFrom("2011-12-29T12:00", "2026-03-28T22:30", "2026-10-25T01:30"),
    until: fc.constantFrom("2026-10-25T02:30", "2027-01-01T00:00"),
  },
  { requiredKeys: ["zone"] },
);

/** Instants: around each zone's clock changes of 2011 and 2026, and anywhere in 2026. */
const changes = zones.flatMap((zone) =>
  ["2011-12-01", "2026-01-15"].flatMap((from) => {
    const out: number[] = [];
    let at = Temporal.PlainDate.from(from).toZonedDateTime(zone);
    for (let count = 0; count < 4; count++) {
      const next = at.getTimeZoneTransition("next");
      if (!next) break;
      out.push(next.epochMilliseconds);
      at = next;
    }
    return out;
  }),
);
const instants = fc.oneof(
  fc
    .tuple(fc.constantFrom(...changes), fc.integer({ min: -2 * 1440, max: 2 * 1440 }))
    .map(([at, minutes]) => at + minutes * 60_000),
  fc.integer({ min: 0, max: 365 * 1440 }).map((minutes) => Date.UTC(2026, 0, 1) + minutes * 60_000),
);

it("holds when the same rules written with Temporal hold: 20,000 generated cases", () => {
  let held = 0;
  fc.assert(
    fc.property(schedules, instants, (raw, at) => {
      const read = scheduleSchema.safeParse(JSON.parse(JSON.stringify(raw)));
      if (!read.success) return;
      const expected = holdsPlainly(read.data, at);
      if (expected) held++;
      expect(readySchedule(read.data, "UTC").holds(at)).toBe(expected);
    }),
    { numRuns: 20_000, seed: 5 },
  );
  expect(held).toBeGreaterThan(500);
});

const parts = fc.record(
  {
    INTERVAL: fc.integer({ min: 1, max: 5 }),
    BYDAY: fc.uniqueArray(fc.constantFrom("MO", "TU", "WE", "SA", "SU"), { minLength: 1, maxLength: 3 }),
    BYMONTHDAY: fc.uniqueArray(fc.constantFrom(1, 13, 29, 31, -1), { minLength: 1, maxLength: 2 }),
    BYMONTH: fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 3 }),
    COUNT: fc.integer({ min: 1, max: 12 }),
    WKST: fc.constantFrom("MO", "SU", "WE"),
  },
  { requiredKeys: [] },
);

it("repeats as rrule does: 300 generated rules over 400 days", () => {
  let occurred = 0;
  fc.assert(
    fc.property(
      fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
      parts,
      fc.option(fc.constantFrom("1FR", "-1SU", "2TU", "5MO")),
      fc.integer({ min: 0, max: 400 }),
      (freq, more, nth, shift) => {
        const start = parseDate("2026-01-01")! + shift;
        const fields: Record<string, string> = { FREQ: freq };
        for (const [key, value] of Object.entries(more)) if (value !== undefined) fields[key] = String(value);
        if (nth && (freq === "MONTHLY" || freq === "YEARLY")) fields.BYDAY = nth;
        if (freq === "WEEKLY") delete fields.BYMONTHDAY;
        const text = Object.entries(fields)
          .map(([key, value]) => `${key}=${value}`)
          .join(";");
        const read = parseRepeat(text);
        if (!read.ok) throw new Error(`${text}: ${read.problem}`);
        const occurs = occurrences(read.repeat, start);
        const dtstart = `DTSTART:${formatDate(start).replaceAll("-", "")}T000000Z`;
        const reference = rrule.rrulestr(`${dtstart}\nRRULE:${text}`);
        const expected = new Set(
          reference
            .between(new Date(start * 86_400_000), new Date((start + 400) * 86_400_000), true)
            .map((date) => date.getTime() / 86_400_000),
        );
        occurred += expected.size;
        for (let day = start - 10; day <= start + 400; day++)
          if (occurs(day) !== expected.has(day)) throw new Error(`${dtstart} ${text}: ${formatDate(day)}`);
      },
    ),
    { numRuns: 300, seed: 9 },
  );
  expect(occurred).toBeGreaterThan(500);
});

/** RFC 5545, section 3.8.5.3: examples of the kinds of rule that schedules take, with the dates the RFC prints. */
it.each([
  ["1997-09-02", "FREQ=DAILY;COUNT=10", ["1997-09-02", "1997-09-11"], ["1997-09-12"]],
  ["1997-09-02", "FREQ=DAILY;INTERVAL=10;COUNT=5", ["1997-09-02", "1997-09-12", "1997-10-12"], ["1997-10-22"]],
  [
    "1997-09-02",
    "FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH",
    ["1997-09-02", "1997-09-04", "1997-09-16", "1997-10-16"],
    ["1997-09-09", "1997-10-28"],
  ],
  ["1997-09-05", "FREQ=MONTHLY;COUNT=10;BYDAY=1FR", ["1997-09-05", "1998-06-05"], ["1997-09-12", "1998-07-03"]],
  [
    "1997-09-07",
    "FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU",
    ["1997-09-07", "1997-09-28", "1998-05-31"],
    ["1997-10-05"],
  ],
  ["1997-09-28", "FREQ=MONTHLY;BYMONTHDAY=-3", ["1997-09-28", "1997-10-29", "1998-02-26"], ["1997-10-28"]],
  [
    "1997-09-02",
    "FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13",
    ["1998-02-13", "1998-03-13", "1998-11-13", "2000-10-13"],
    ["1997-09-02", "1998-04-13"],
  ],
  ["1997-05-19", "FREQ=YEARLY;BYDAY=20MO", ["1997-05-19", "1998-05-18", "1999-05-17"], ["1998-05-19"]],
  [
    "1996-11-05",
    "FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8",
    ["1996-11-05", "2000-11-07", "2004-11-02"],
    ["2000-11-14"],
  ],
  [
    "1997-08-05",
    "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO",
    ["1997-08-05", "1997-08-10", "1997-08-19", "1997-08-24"],
    ["1997-08-17"],
  ],
  [
    "1997-08-05",
    "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU",
    ["1997-08-05", "1997-08-17", "1997-08-19", "1997-08-31"],
    ["1997-08-10"],
  ],
])("RFC 5545: from %s %s", (start, text, yes, no) => {
  const read = parseRepeat(text);
  if (!read.ok) throw new Error(read.problem);
  const occurs = occurrences(read.repeat, parseDate(start)!);
  for (const date of yes) expect([date, occurs(parseDate(date)!)]).toEqual([date, true]);
  for (const date of no) expect([date, occurs(parseDate(date)!)]).toEqual([date, false]);
});
