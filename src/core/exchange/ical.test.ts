import fc from "fast-check";
import ICAL from "ical.js";
import { describe, expect, it } from "vitest";
import type { Rule } from "../formats/rule";
import type { Schedule } from "../formats/schedule";
import { readySchedule } from "../schedule/schedule";
import { createEngine } from "../decision/engine";
import { ruleset, variant } from "../testing";
import { anyEvent, readCalendar } from "./ical-in";
import { calendarOf } from "./ical-out";
import { escapeText, fold } from "./ical-text";

const now = Date.UTC(2026, 10, 25, 12);
const day = 86_400_000;
const timed = (value: Schedule) => ({ signal: "time", op: "within", value });
const withRule = (rule: unknown) =>
  ruleset({ slots: [{ id: "s", name: "Hero, big", variants: [variant("a", rule)] }] });

/** The stretches that a calendar tells, read by ical.js: events expanded one by one in [from, until). */
function expanded(text: string, from: number, until: number): [number, number][] {
  const calendar = new ICAL.Component(ICAL.parse(text));
  const zones = new Map(
    calendar.getAllSubcomponents("vtimezone").map((item) => {
      const zone = new ICAL.Timezone(item);
      return [zone.tzid, zone];
    }),
  );
  const out: [number, number][] = [];
  for (const component of calendar.getAllSubcomponents("vevent")) {
    const event = new ICAL.Event(component);
    const zone = zones.get(String(component.getFirstProperty("dtstart")?.getFirstParameter("tzid")));
    const instant = (time: InstanceType<typeof ICAL.Time>): number => {
      const copy = time.clone();
      if (zone) copy.zone = zone;
      return copy.toUnixTime() * 1000;
    };
    const long = event.duration.toSeconds() * 1000;
    const iterator = event.iterator();
    for (let time = iterator.next(), count = 0; time && count < 4000; time = iterator.next(), count++) {
      const start = instant(time);
      if (start >= until) break;
      if (start + long > from) out.push([Math.max(start, from), Math.min(start + long, until)]);
      if (!event.isRecurring()) break;
    }
  }
  const merged: [number, number][] = [];
  for (const [start, end] of out.sort((a, b) => a[0] - b[0])) {
    const last = merged.at(-1);
    if (last && start <= last[1]) last[1] = Math.max(last[1], end);
    else merged.push([start, end]);
  }
  return merged;
}
const spans = (schedule: Schedule, from: number, until: number) =>
  readySchedule(schedule, "Europe/Lisbon")
    .spans(from, until)
    .map((span) => [span.from, span.until]);

describe("schedules as a calendar", () => {
  // Windows by day, so that none spans a clock change: RFC 5545 gives occurrences one length, a schedule gives them a wall clock.
  const clock = fc.integer({ min: 8, max: 15 }).map((hour) => `${String(hour).padStart(2, "0")}:00`);
  const schedule: fc.Arbitrary<Schedule> = fc
    .record(
      {
        zone: fc.constantFrom("site", "Europe/Berlin", "America/New_York", "Asia/Kolkata", "Australia/Sydney"),
        from: fc.constantFrom("2026-11-03T00:00", "2026-11-05T09:30", "2026-12-31T23:00"),
        until: fc.constantFrom("2027-03-01T00:00", "2027-05-04T11:15"),
        windows: fc.array(
          clock.map((start) => ({ start, end: `${String(Number(start.slice(0, 2)) + 2).padStart(2, "0")}:30` })),
          { minLength: 1, maxLength: 2 },
        ),
        which: fc.constantFrom("days", "dates", "repeat", "none"),
        days: fc.subarray(["MO", "TU", "FR", "SU"] as const, { minLength: 1 }),
        dates: fc.subarray(["12-25", "2026-12-31", "2027-02-02", "02-28"], { minLength: 1 }),
        repeat: fc.constantFrom(
          "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU",
          "FREQ=MONTHLY;BYDAY=-1FR",
          "FREQ=DAILY;INTERVAL=3",
          "FREQ=MONTHLY;BYMONTHDAY=1,15",
          "FREQ=WEEKLY;COUNT=5",
          "FREQ=DAILY;UNTIL=20270110",
        ),
      },
      { requiredKeys: ["zone", "which", "windows"] },
    )
    .map(({ which, days, dates, repeat, from, ...rest }) => ({
      ...rest,
      ...(from ? { from } : {}),
      ...(which === "days" && days ? { days: [...days] } : {}),
      ...(which === "dates" && dates ? { dates } : {}),
      ...(which === "repeat" && repeat ? { repeat, from: from ?? "2026-11-03T00:00" } : {}),
    }));

  it("say the same, expanded by a reference parser, as the schedule itself", () => {
    const [from, until] = [now, now + 200 * day];
    fc.assert(
      fc.property(schedule, (item) => {
        const text = calendarOf(withRule(timed(item)), { now });
        expect(expanded(text, from, until)).toEqual(spans(item, from, until));
      }),
      { numRuns: 150 },
    );
  });
  it("come back as rules that hold at the same times, zones kept", () => {
    const [from, until] = [now, now + 100 * day];
    let compared = 0;
    fc.assert(
      fc.property(schedule, (item) => {
        const read = readCalendar(calendarOf(withRule(timed(item)), { now }));
        expect(read.problems.filter((problem) => problem.code !== "empty")).toEqual([]);
        if (read.events.length === 0) {
          // Nothing to carry: it must be a schedule that never holds from here on.
          expect(spans(item, from, until)).toEqual([]);
          return;
        }
        compared += 1;
        const engine = createEngine(withRule(anyEvent(read.events)));
        for (let at = from; at < until; at += 97 * 60_000) {
          const shown =
            engine.decide({ at: new Date(at).toISOString(), url: "https://shop.example/" }).slots.s?.[0]?.variant ===
            "a";
          expect([at, shown]).toEqual([at, readySchedule(item, "Europe/Lisbon").holds(at)]);
        }
      }),
      { numRuns: 15 },
    );
    expect(compared).toBeGreaterThan(5);
  });
  it("write what is no single recurrence out, with the audience’s and the opposite’s schedules in it", () => {
    const rule = {
      all: [
        timed({ zone: "site", days: ["TU"] }),
        { none: [timed({ zone: "site", windows: [{ start: "12:00", end: "24:00" }] })] },
      ],
    };
    const text = calendarOf(withRule(rule), { now });
    const [from, until] = [now, now + 15 * day];
    expect(expanded(text, from, until)).toEqual(
      ["2026-12-01", "2026-12-08"].map((date) => [Date.parse(`${date}T00:00Z`), Date.parse(`${date}T12:00Z`)]),
    );
    expect(text).toContain("SUMMARY:Hero\\, big\\, a");
  });
  it("leave out what is off, and what no clock matters for", () => {
    const off = ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          variants: [{ ...variant("a", timed({ zone: "site", days: ["MO"] })), on: false }, variant("b", null)],
        },
      ],
    });
    expect(calendarOf(off, { now })).not.toContain("VEVENT");
  });
  it("fold at 75 octets without cutting a character, and escape", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 400 }), (text) => {
        const folded = fold(escapeText(text));
        for (const line of folded.split("\r\n")) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
        expect(folded.replaceAll("\r\n ", "")).toBe(escapeText(text));
      }),
    );
  });
});

const calendar = (...lines: string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//t//EN", ...lines, "END:VCALENDAR", ""].join("\r\n");
const event = (...lines: string[]) => ["BEGIN:VEVENT", "UID:1", "SUMMARY:Clinic", ...lines, "END:VEVENT"];
const holds = (rule: Rule, at: string) =>
  createEngine(withRule(rule)).decide({ at, url: "https://shop.example/" }).slots.s?.[0]?.variant === "a";

describe("a calendar as rules", () => {
  // RFC 5545, section 3.8.5.3: "Every other week on Monday, Wednesday, and Friday until December 24, 1997".
  it("takes the examples of RFC 5545", () => {
    const read = readCalendar(
      calendar(
        ...event(
          "DTSTART;TZID=America/New_York:19970901T090000",
          "DURATION:PT1H",
          "RRULE:FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR",
        ),
      ),
    );
    const { rule } = read.events[0]!;
    const days = Array.from({ length: 130 }, (_, index) => Date.UTC(1997, 8, 1) + index * day).map((at) =>
      new Date(at).toISOString().slice(0, 10),
    );
    const met = days
      .filter((date) => holds(rule, `${date}T09:30:00${date < "1997-10-26" ? "-04:00" : "-05:00"}`))
      .map((date) => date.slice(5));
    expect(met).toEqual([
      "09-01",
      "09-03",
      "09-05",
      "09-15",
      "09-17",
      "09-19",
      "09-29",
      "10-01",
      "10-03",
      "10-13",
      "10-15",
      "10-17",
      "10-27",
      "10-29",
      "10-31",
      "11-10",
      "11-12",
      "11-14",
      "11-24",
      "11-26",
      "11-28",
      "12-08",
      "12-10",
      "12-12",
      "12-22",
    ]);
  });
  it("keeps zones: by name, at the end of a longer name, UTC, and the site’s where none is told", () => {
    const zone = (line: string) => readCalendar(calendar(...event(line, "DURATION:PT1H"))).events[0];
    const value = (line: string) => (zone(line)?.rule as unknown as { value: Schedule }).value;
    expect(value("DTSTART;TZID=Asia/Tokyo:20261201T100000")).toEqual({
      zone: "Asia/Tokyo",
      from: "2026-12-01T10:00",
      until: "2026-12-01T11:00",
    });
    expect(value("DTSTART;TZID=/example.org/20260101/Europe/Madrid:20261201T100000").zone).toBe("Europe/Madrid");
    // Windows' names, as Unicode CLDR maps them (windowsZones; from memory).
    expect(value("DTSTART;TZID=W. Europe Standard Time:20261201T100000").zone).toBe("Europe/Berlin");
    expect(value('DTSTART;TZID="Eastern Standard Time":20261201T100000').zone).toBe("America/New_York");
    expect(zone("DTSTART;TZID=GMT Standard Time:20261201T100000")?.notes).toEqual([
      "the time zone “GMT Standard Time” is taken as Europe/London",
    ]);
    expect(
      readCalendar(calendar(...event("DTSTART;TZID=Fern Time:20261201T100000", "DURATION:PT1H"))).problems[0]?.problem,
    ).toContain("the time zone “Fern Time” is not known");
    expect(value("DTSTART:20261201T100000Z").zone).toBe("UTC");
    expect(zone("DTSTART:20261201T100000")?.notes).toEqual(["it names no time zone: the site’s is taken"]);
    expect(value("DTSTART;VALUE=DATE:20261201")).toMatchObject({ from: "2026-12-01T00:00", until: "2026-12-01T01:00" });
  });
  it("takes out single days, moved and cancelled ones, and puts extra ones in", () => {
    const { rule } = readCalendar(
      calendar(
        ...event(
          "DTSTART;TZID=Europe/Lisbon:20261201T100000",
          "DTEND;TZID=Europe/Lisbon:20261201T120000",
          "RRULE:FREQ=WEEKLY",
          "EXDATE;TZID=Europe/Lisbon:20261208T100000",
          "RDATE;TZID=Europe/Lisbon:20261210T150000",
        ),
        ...event(
          "RECURRENCE-ID;TZID=Europe/Lisbon:20261215T100000",
          "DTSTART;TZID=Europe/Lisbon:20261216T100000",
          "DURATION:PT1H",
        ),
      ),
    ).events[0]!;
    const met = ["01T11", "08T11", "10T16", "15T11", "16T10", "22T11"].filter((at) =>
      holds(rule, `2026-12-${at}:00:00Z`),
    );
    expect(met).toEqual(["01T11", "10T16", "22T11"]);
  });
  it("names what it cannot take by line, and takes the rest", () => {
    const read = readCalendar(
      calendar(
        ...event("DTSTART;TZID=Nowhere/Land:20261201T100000", "DURATION:PT1H"),
        ...event("DTSTART:20261201T100000Z", "DURATION:PT1H", "RRULE:FREQ=SECONDLY"),
        ...event("DTSTART:20261201T100000Z", "DURATION:PT1H", "RRULE:FREQ=MONTHLY;BYSETPOS=1;BYDAY=MO"),
        ...event("DTSTART:20261201T100000Z"),
        "BEGIN:VTODO",
        "UID:2",
        "END:VTODO",
        ...event("DTSTART:20261201T100000Z", "DURATION:P2D"),
      ),
    );
    expect(read.events).toHaveLength(1);
    expect(read.problems.map((item) => item.path)).toEqual(["line 4", "line 10", "line 17", "line 24", "line 29"]);
    expect(read.problems.map((item) => item.problem).join("\n")).toMatch(
      /Nowhere\/Land[^]*FREQ[^]*BYSETPOS[^]*no length/,
    );
  });
  it("says where a file is no calendar, cut short, or nested wrongly", () => {
    const only = (text: string) => readCalendar(text).problems;
    expect(only("hello")).toEqual([expect.objectContaining({ path: "line 1", code: "file" })]);
    expect(only("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1")[0]).toMatchObject({
      path: "line 2",
      code: "file",
    });
    expect(only("BEGIN:VCALENDAR\nBEGIN:VEVENT\nEND:VTODO")[0]?.path).toBe("line 3");
    expect(only(calendar())[0]?.code).toBe("empty");
    fc.assert(
      fc.property(
        fc.string(),
        (text) => void readCalendar(`BEGIN:VCALENDAR\nBEGIN:VEVENT\n${text}\nEND:VEVENT\nEND:VCALENDAR`),
      ),
    );
  });
});
