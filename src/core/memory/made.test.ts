import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, visit } from "../testing";
import { visitAt } from "../lens/travel";
import { makeMemory, noPast, pastOf, shiftMemory } from "./made";

const at = Date.UTC(2026, 10, 24, 10, 15);
const days = new Map([["m", 30]]);
const engine = createEngine(
  ruleset({ markers: [{ id: "m", name: "M", gain: { signal: "query.never", op: "isPresent" }, days: 30 }] }),
);
/** What rules see of a past, with one page view on top. */
const seen = (past: Parameters<typeof makeMemory>[0], more = {}) => {
  const reading = engine.read(visit({ consent: true, memory: makeMemory(past, at, days), ...more }));
  return {
    ...reading.history,
    categories: Object.fromEntries(reading.history?.categories ?? []),
    markers: [...(reading.markers ?? [])],
  };
};

describe("a past that is made by hand", () => {
  it("is what rules then see, the page at hand counted", () => {
    expect(seen({ ...noPast, visits: 2, daysSinceLast: 5, categories: { ferns: 3 } })).toMatchObject({
      visits: 3,
      views: 1,
      daysSinceLast: 5,
      categories: { ferns: 3 },
    });
    expect(seen({ ...noPast, visits: 1, views: 3, minutes: 12, landing: "/tools" })).toMatchObject({
      visits: 1,
      views: 4,
      minutes: 12,
      landing: "/tools",
      daysSinceLast: undefined,
    });
    expect(
      seen({ ...noPast, visits: 1, categories: { ferns: 2 } }, { page: { category: "ferns" } }).categories,
    ).toEqual({ ferns: 3 });
    expect(seen({ ...noPast, visits: 1, markers: { m: { held: true, count: 1 } } }).markers).toEqual(["m"]);
    expect(seen(noPast)).toMatchObject({ visits: 1, views: 1, landing: "/" });
  });
  it("is told back as it was made", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 1, max: 50 }),
        (visits, views, since, ferns) => {
          const past = pastOf(
            makeMemory({ ...noPast, visits, views, daysSinceLast: since, categories: { ferns } }, at, days),
            at,
          );
          expect(past).toMatchObject({ visits, views, categories: { ferns } });
          if (views === 0 || visits > 1) expect(past.daysSinceLast).toBe(since);
        },
      ),
    );
  });
  it("moves along when a lens travels, and damage moves nowhere", () => {
    const start = visit({
      at: new Date(at).toISOString(),
      consent: true,
      memory: makeMemory(
        { ...noPast, visits: 4, views: 2, minutes: 7, daysSinceLast: 3, markers: { m: { held: true, count: 1 } } },
        at,
        days,
      ),
    });
    for (const by of [3_600_000, -86_400_000, 40 * 86_400_000]) {
      const there = visitAt(start, at + by);
      expect(pastOf(there.memory, at + by)).toEqual(pastOf(start.memory, at));
    }
    expect(shiftMemory("nonsense", 1000)).toMatchObject({ h: [0, 0, 0, 0, 0, 0] });
    expect(shiftMemory(undefined, 1000)).toBeUndefined();
  });
});
