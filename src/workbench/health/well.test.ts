import { describe, expect, it } from "vitest";
import type { HealthNow } from "@/server/types";
import { agoWords, amiss, wellOf } from "./well";

const now = Date.parse("2028-02-29T12:00:00Z");
const delivery: HealthNow["processes"][number] = {
  kind: "delivery",
  machine: "one",
  port: 4301,
  started: "2028-02-29T11:00:00Z",
  heard: 3,
  silent: false,
  ready: true,
  waiting: 0,
  refused: 0,
  dropped: 0,
};
const failure = {
  site: "",
  what: "it",
  error: "no",
  first: "2028-02-28T00:00:00Z",
  last: "2028-02-29T10:00:00Z",
  count: 2,
};
const of = (processes: HealthNow["processes"], failures: HealthNow["failures"] = []): string[] =>
  amiss({ processes, failures, took: 1 }, now);

describe("whether all is well", () => {
  it("a process answers, has not begun, or is silent", () => {
    expect(wellOf(delivery)).toBe("answers");
    expect(wellOf({ ...delivery, ready: false })).toBe("begins");
    expect(wellOf({ ...delivery, silent: true })).toBe("silent");
  });
  it("is said in sentences, and in none where it is", () => {
    expect(of([delivery], [failure])).toEqual([]);
    expect(of([])).toEqual(["No delivery server answers: pages with the tag show their own content."]);
    expect(of([delivery, { ...delivery, kind: "mirror", silent: true }])).toEqual(["Mirror on one is silent."]);
    expect(of([{ ...delivery, refused: 2, dropped: 1 }])).toEqual(["3 events were not taken."]);
    expect(of([delivery], [{ ...failure, last: "2028-02-29T11:59:00Z" }])).toEqual([
      "Something failed within the hour.",
    ]);
  });
  it("tells how long ago", () => {
    expect([0, 9, 45, 119, 120, 7199, 7200, 172_799, 172_800].map(agoWords)).toEqual([
      "just now",
      "just now",
      "45 seconds ago",
      "119 seconds ago",
      "2 minutes ago",
      "119 minutes ago",
      "2 hours ago",
      "47 hours ago",
      "2 days ago",
    ]);
  });
});
