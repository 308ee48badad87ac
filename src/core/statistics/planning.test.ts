import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { neededAlways } from "./always";
import { findable, plansFor } from "./planning";

describe("what could be told", () => {
  it("is what needs just so many visitors: told with them, not told with a hundredth less of a rise", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 0.6, noNaN: true }),
        fc.integer({ min: 300, max: 200_000 }),
        (rate, each) => {
          const rise = findable(rate, each);
          if (rise === undefined) return;
          expect(neededAlways(rate, rate + rise)).toBeLessThanOrEqual(each);
          expect(neededAlways(rate, rate + rise * 0.98) ?? Infinity).toBeGreaterThan(each);
        },
      ),
      { numRuns: 200 },
    );
  });
  it("shrinks with time, grows with the number of arms", () => {
    const two = plansFor(0.1, 4000).map(({ rise }) => rise as number);
    expect([...two].sort((a, b) => b - a)).toEqual(two);
    const four = plansFor(0.1, 4000, 4).map(({ rise }) => rise as number);
    two.forEach((rise, index) => expect(four[index]).toBeGreaterThan(rise));
  });
  it("is nothing where there is no rate yet, or hardly anybody", () => {
    expect(findable(0, 10_000)).toBeUndefined();
    expect(findable(0.1, 5)).toBeUndefined();
    expect(plansFor(0.1, 0).every(({ rise }) => rise === undefined)).toBe(true);
  });
});
