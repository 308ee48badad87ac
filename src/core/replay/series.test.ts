import { expect, it } from "vitest";
import { overTime } from "./series";
import { emptyTally, type Tally } from "./tally";

const hour = 3_600_000;
const start = Date.UTC(2026, 9, 24, 22);
const tally = (hours: number[]): Tally => ({
  ...emptyTally(),
  from: start,
  until: start + (hours.at(-1) as number) * hour,
  counts: [
    { key: { of: "shown", slot: "s", variant: "a" }, views: 0, visits: 0 },
    { key: { of: "move", slot: "s", before: "a", after: "b" }, views: 0, visits: 0 },
    { key: { of: "shown", slot: "t", variant: "a" }, views: 0, visits: 0 },
  ],
  hours: hours.map((at) => ({
    at: start + at * hour,
    views: 9,
    counts: [
      [0, 2],
      [1, 1],
      [2, 5],
    ],
  })),
});

it("tells a short log by hour and a long one by day, in days of the zone", () => {
  const short = overTime(tally([0, 1, 5]), "s", "shown", "Europe/Lisbon");
  expect(short).toMatchObject({ daily: false, changed: [1, 1, 1] });
  expect([...short.variants]).toEqual([["a", [2, 2, 2]]]);
  // 22:00 and 23:00 UTC are 23:00 of the 24th and midnight of the 25th in Lisbon; on the 25th its clocks go back.
  const long = overTime(tally([0, 1, 25, 26, 120]), "s", "shown", "Europe/Lisbon");
  expect(long.daily).toBe(true);
  expect(long.bins.map((at) => new Date(at).toISOString().slice(0, 10))).toEqual([
    "2026-10-24",
    "2026-10-25",
    "2026-10-26",
    "2026-10-29",
  ]);
  expect(long.variants.get("a")).toEqual([2, 4, 2, 2]);
  expect(overTime(tally([0]), "none", "shown", "UTC").variants.size).toBe(0);
});
