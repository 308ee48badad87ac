/** Memory as engine, section 9, tells it: small, lenient, in step with the page views, and never back in time. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, visit } from "../testing";
import {
  decodeMemory,
  emptyMemory,
  encodeMemory,
  longestCookie,
  readMemory,
  visitGap,
  writeMemory,
  type Memory,
  type MemoryJson,
} from "./memory";

const start = Date.UTC(2026, 10, 24, 10, 15);
const day = 86_400_000;
const name = fc.string({ unit: "grapheme", minLength: 1, maxLength: 60 });
const instant = fc.integer({ min: 1, max: start });
/** Any memory that page views can have left. */
const memories = fc
  .record({
    visits: fc.integer({ min: 1, max: 500 }),
    views: fc.integer({ min: 1, max: 500 }),
    landing: fc.string({ unit: "grapheme", maxLength: 400 }),
    categories: fc.array(fc.tuple(name, fc.record({ views: fc.nat(90), used: instant })), { maxLength: 60 }),
    markers: fc.array(
      fc.tuple(name, fc.record({ count: fc.integer({ min: 1, max: 9 }), until: instant, used: instant })),
      { maxLength: 40 },
    ),
    variants: fc.array(fc.tuple(name, fc.record({ shown: instant })), { maxLength: 60 }),
    popups: fc.array(
      fc.tuple(
        name,
        fc.record({
          ever: fc.nat(9),
          visit: fc.nat(9),
          inVisit: fc.nat(9),
          day: fc.nat(30_000),
          inDay: fc.nat(9),
          used: instant,
        }),
      ),
      { maxLength: 20 },
    ),
    redirects: fc.array(fc.tuple(name, fc.record({ visit: fc.nat(9), used: instant })), { maxLength: 20 }),
  })
  .map(({ visits, views, landing, categories, markers, variants, popups, redirects }): Memory => ({
    ...emptyMemory(),
    visits,
    views,
    landing,
    began: start - 1000,
    last: start,
    previous: visits > 1 ? start - day : 0,
    categories: new Map(categories),
    markers: new Map(markers),
    variants: new Map(variants),
    popups: new Map(popups),
    redirects: new Map(redirects),
  }));
const used = (memory: Memory): number[] => [
  ...[...memory.variants.values()].map((entry) => entry.shown),
  ...[memory.categories, memory.markers, memory.popups, memory.redirects].flatMap((entries) =>
    [...entries.values()].map((entry) => entry.used),
  ),
];

describe("what is kept in a visitor's browser", () => {
  it("fits the cookie whatever is in it; visits, times and landing stay, the longest unused leave first", () => {
    fc.assert(
      fc.property(memories, (memory) => {
        const written = writeMemory(memory);
        expect(encodeMemory(written).length).toBeLessThanOrEqual(longestCookie);
        const back = readMemory(written);
        expect(back).toMatchObject({
          visits: memory.visits,
          views: memory.views,
          last: memory.last,
          previous: memory.previous,
        });
        expect(memory.landing.startsWith(back.landing)).toBe(true);
        const kept = used(back);
        const all = used(memory).sort((a, b) => b - a);
        // Whatever left was used no later than anything that stayed.
        expect(kept.sort((a, b) => b - a)).toEqual(all.slice(0, kept.length));
      }),
      { numRuns: 300 },
    );
  });

  it("comes back from the cookie as it was written, whatever its letters", () => {
    fc.assert(
      fc.property(memories, (memory) => {
        const written = writeMemory(memory);
        expect(decodeMemory(encodeMemory(written))).toEqual(written);
        // Read and written again, nothing changes.
        expect(writeMemory(readMemory(written))).toEqual(written);
      }),
    );
  });

  it("is empty where it is damaged, and never an error", () => {
    const whole = writeMemory({ ...emptyMemory(), visits: 3, views: 2, began: start, last: start, landing: "/ferns" });
    const cookie = encodeMemory(whole);
    for (const damaged of ["", "é", "=", cookie.slice(0, -5), `${cookie}!`, cookie.repeat(200)])
      expect(decodeMemory(damaged)).toBeUndefined();
    for (const odd of [
      undefined,
      null,
      7,
      "text",
      [],
      {},
      { v: 2, h: [1] },
      { v: 1, h: "1" },
      { ...whole, h: [1, start, 9e15, 0, 1, 0] },
    ])
      expect(readMemory(odd)).toEqual(emptyMemory());
    // What is odd in a part of it costs that part alone.
    const partly = readMemory({
      ...whole,
      c: [["ferns", 2, start], "x", ["moss", -1, "y"], [7, 1, 1]],
      m: "none",
      s: [[7, 1]],
    });
    expect(partly).toMatchObject({ visits: 3, landing: "/ferns" });
    expect([...partly.categories]).toEqual([
      ["ferns", { views: 2, used: start }],
      ["moss", { views: 0, used: 0 }],
    ]);
    expect([partly.markers.size, partly.variants.size]).toEqual([0, 0]);
    fc.assert(fc.property(fc.jsonValue(), (value) => void writeMemory(readMemory(value))));
    fc.assert(
      fc.property(
        fc.jsonValue(),
        (value) =>
          void writeMemory(readMemory({ v: 1, h: [1, start, start, 0, 1, 0], c: value, m: [value], p: [[value]] })),
      ),
    );
  });
});

describe("page views, one after another", () => {
  const engine = createEngine(ruleset({}));
  /** What rules read of each of the page views, which go on from each other's memory. */
  const views = (at: number[], more: object[] = []) => {
    let memory: unknown;
    return at.map((moment, index) => {
      const seen = visit({ at: new Date(moment).toISOString(), consent: true, memory, ...more[index] });
      const { history } = engine.read(seen);
      memory = engine.decide(seen).memory;
      return {
        views: history?.views,
        visits: history?.visits,
        days: history?.daysSinceLast,
        minutes: history?.minutes,
      };
    });
  };

  it("begin another visit after thirty minutes, to the millisecond", () => {
    const [, just, after] = views([start, start + visitGap - 1, start + visitGap - 1 + visitGap]);
    expect(just).toEqual({ views: 2, visits: 1, days: undefined, minutes: 29 });
    expect(after).toEqual({ views: 1, visits: 2, days: 0, minutes: 0 });
  });
  it("count whole days since the last page view of the visit before", () => {
    const read = views([start, start + 60_000, start + 60_000 + 3 * day - 1, start + 60_000 + 3 * day]);
    expect(read.map(({ days }) => days)).toEqual([undefined, undefined, 2, 3]);
  });
  it("never go back: a clock that was set back counts as standing still", () => {
    const read = views([start, start + 10 * 60_000, start - 5 * day, start + 11 * 60_000]);
    expect(read.map(({ views: count }) => count)).toEqual([1, 2, 3, 4]);
    expect(read.at(-1)).toMatchObject({ visits: 1, minutes: 11 });
  });
  it("are told in order, however they are spaced", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 * visitGap }), { minLength: 1, maxLength: 12 }), (gaps) => {
        let at = start;
        const read = views([start, ...gaps.map((gap) => (at += gap))]);
        const visits = 1 + gaps.filter((gap) => gap >= visitGap).length;
        expect(read.at(-1)?.visits).toBe(visits);
        const since = gaps.findLastIndex((gap) => gap >= visitGap);
        expect(read.at(-1)?.views).toBe(gaps.length - since);
      }),
    );
  });
  it("are forgotten without consent, and told anew once it is given", () => {
    const agreed = engine.decide(visit({ consent: true })).memory as MemoryJson;
    expect(engine.decide(visit({ memory: agreed })).memory).toBeNull();
    expect(engine.read(visit({ memory: agreed })).history).toBeUndefined();
    for (const consent of ["true", 1, {}]) expect(engine.decide(visit({ consent, memory: agreed })).memory).toBeNull();
  });
});
