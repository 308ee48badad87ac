import { describe, expect, it } from "vitest";
import { scheduleSchema } from "../formats/schedule";
import { parseRepeat } from "../calendar/repeat";
import { readySchedule } from "./schedule";

const holds = (schedule: object, at: string, visitorZone?: string) =>
  readySchedule(scheduleSchema.parse({ zone: "Europe/Lisbon", ...schedule }), "Europe/Lisbon").holds(
    Date.parse(at),
    visitorZone,
  );

describe("schedule", () => {
  it("opens at the start and is closed at the end of a window", () => {
    const tuesday = { days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] };
    expect(holds(tuesday, "2026-11-24T09:59:59.999Z")).toBe(false);
    expect(holds(tuesday, "2026-11-24T10:00:00Z")).toBe(true);
    expect(holds(tuesday, "2026-11-24T11:59:59.999Z")).toBe(true);
    expect(holds(tuesday, "2026-11-24T12:00:00Z")).toBe(false);
    expect(holds(tuesday, "2026-11-25T10:30:00Z")).toBe(false);
  });

  it("lets a window past midnight belong to the day it opened on", () => {
    const friday = { days: ["FR"], windows: [{ start: "22:00", end: "02:00" }] };
    expect(holds(friday, "2026-11-28T01:00:00Z")).toBe(true); // Saturday 01:00
    expect(holds(friday, "2026-11-27T01:00:00Z")).toBe(false); // Friday 01:00
  });

  it("lasts a full day where start and end are equal, and takes 24:00 as an end", () => {
    expect(holds({ days: ["TU"], windows: [{ start: "06:00", end: "06:00" }] }, "2026-11-25T05:59:00Z")).toBe(true);
    expect(holds({ days: ["TU"], windows: [{ start: "20:00", end: "24:00" }] }, "2026-11-24T23:59:00Z")).toBe(true);
    expect(holds({ days: ["TU"], windows: [{ start: "20:00", end: "24:00" }] }, "2026-11-25T00:00:00Z")).toBe(false);
  });

  it("moves a skipped time forward, takes the first of two, and drops a window that a clock change closes", () => {
    // Lisbon, 29 March 2026: 01:00 WET becomes 02:00 WEST.
    const gap = { windows: [{ start: "01:15", end: "01:45" }] };
    expect(holds(gap, "2026-03-29T01:20:00Z")).toBe(true); // 02:20 WEST: both ends moved forward by the hour
    expect(holds({ windows: [{ start: "01:30", end: "02:10" }] }, "2026-03-29T01:15:00Z")).toBe(false); // they cross: empty
    // Lisbon, 25 October 2026: 02:00 WEST becomes 01:00 WET; 01:30 comes twice and means the first.
    const twice = { windows: [{ start: "01:30", end: "01:45" }] };
    expect(holds(twice, "2026-10-25T00:35:00Z")).toBe(true);
    expect(holds(twice, "2026-10-25T01:35:00Z")).toBe(false);
  });

  it("bounds by the instants of from and until, and covers the rest of a window opened before from", () => {
    const bounded = {
      from: "2026-12-01T23:00",
      until: "2026-12-02T01:00",
      windows: [{ start: "22:00", end: "03:00" }],
    };
    expect(holds(bounded, "2026-12-01T22:30:00Z")).toBe(false);
    expect(holds(bounded, "2026-12-01T23:00:00Z")).toBe(true);
    expect(holds(bounded, "2026-12-02T00:59:00Z")).toBe(true);
    expect(holds(bounded, "2026-12-02T01:00:00Z")).toBe(false);
  });

  it("keeps dates of every year and of one year apart", () => {
    const dates = { dates: ["12-25", "2026-12-31"] };
    expect(holds(dates, "2027-12-25T12:00:00Z")).toBe(true);
    expect(holds(dates, "2026-12-31T12:00:00Z")).toBe(true);
    expect(holds(dates, "2027-12-31T12:00:00Z")).toBe(false);
  });

  it("is undetermined where the visitor's zone is asked and not known", () => {
    const own = { zone: "visitor", windows: [{ start: "20:00", end: "22:00" }] };
    expect(holds(own, "2026-11-24T20:30:00Z")).toBeUndefined();
    expect(holds(own, "2026-11-24T12:30:00Z", "Asia/Tokyo")).toBe(true);
  });

  it("counts COUNT over what fits, not over the start", () => {
    // From a Monday, three Tuesdays: 24 November, 1 and 8 December.
    const three = { from: "2026-11-23T00:00", repeat: "FREQ=WEEKLY;BYDAY=TU;COUNT=3" };
    expect(holds(three, "2026-11-23T12:00:00Z")).toBe(false);
    expect(holds(three, "2026-12-08T12:00:00Z")).toBe(true);
    expect(holds(three, "2026-12-15T12:00:00Z")).toBe(false);
  });

  it.each([
    ["INTERVAL=2", /FREQ/],
    ["FREQ=HOURLY", /FREQ/],
    ["FREQ=WEEKLY;BYMONTHDAY=1", /forbids/],
    ["FREQ=DAILY;BYDAY=1MO", /forbids/],
    ["FREQ=DAILY;COUNT=1;UNTIL=20261224", /forbids/],
    ["FREQ=DAILY;BYHOUR=9", /not understood/],
    ["FREQ=DAILY;FREQ=DAILY", /twice/],
    ["FREQ=DAILY;UNTIL=20261224T000000Z", /date/],
    ["FREQ=MONTHLY;BYDAY=0MO", /days/],
    ["FREQ=DAILY;INTERVAL=0", /whole number/],
  ])("refuses the repeat %s", (text, problem) => {
    const read = parseRepeat(text);
    expect(read.ok ? "" : read.problem).toMatch(problem);
  });

  it.each([
    [{ days: [] }, "days"],
    [{ dates: ["02-30"] }, "dates"],
    [{ dates: ["2026-02-29"] }, "dates"],
    [{ windows: [{ start: "24:00", end: "10:00" }] }, "windows"],
    [{ windows: [{ start: "9:00", end: "10:00" }] }, "windows"],
    [{ from: "2026-12-01T00:00", until: "2026-12-01T00:00" }, "until"],
    [{ zone: "Europe/Nowhere" }, "zone"],
    [{ zone: "+01:00" }, "zone"],
    [{ repeat: "FREQ=DAILY" }, "from"],
  ])("refuses %j at %s", (schedule, key) => {
    const read = scheduleSchema.safeParse({ zone: "site", ...schedule });
    expect(read.error?.issues[0]?.path[0]).toBe(key);
  });

  it("lists the stretches in which it holds, as asking instant by instant does", () => {
    const schedule = readySchedule(
      scheduleSchema.parse({ zone: "site", days: ["SU", "MO"], windows: [{ start: "23:00", end: "03:00" }] }),
      "Europe/Lisbon",
    );
    const from = Date.parse("2026-10-20T00:00:00Z");
    const until = Date.parse("2026-11-03T00:00:00Z");
    const spans = schedule.spans(from, until);
    for (let at = from; at < until; at += 600_000)
      expect(spans.some((span) => at >= span.from && at < span.until)).toBe(schedule.holds(at));
  });
});
