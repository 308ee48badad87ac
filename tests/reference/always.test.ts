/**
 * Intervals that hold however often one looks, held against simulation and second implementations: how often they are wrong at all,
 * beside intervals for a single look; how soon they tell a real difference, beside a test of a planned size.
 */
import { describe, expect, it } from "vitest";
import {
  alwaysDifference,
  alwaysRatio,
  halfWidth,
  mismatchAlways,
  neededAlways,
  tightestAt,
} from "@/core/statistics/always";
import { randomBy } from "@/core/statistics/random";
import { compare, neededEach } from "@/core/statistics/shares";
import { leastEach } from "@/core/statistics/verdict";
import { hitsOf } from "./draws";
import { report } from "./report";

const tests = 10_000;
const step = 50;

describe("over all looks, after every 100 visitors", () => {
  it("is wrong of no difference at most once in twenty, where intervals for one look are wrong far more often", () => {
    const random = randomBy(22);
    let [called, calledByOneLook] = [0, 0];
    for (let test = 0; test < tests; test++) {
      const draw = hitsAt[test % hitsAt.length]!;
      const [a, b] = [
        { hits: 0, of: 0 },
        { hits: 0, of: 0 },
      ];
      let [wrong, wrongByOneLook] = [false, false];
      for (let look = 0; look < 100; look++) {
        for (const arm of [a, b]) {
          arm.hits += draw(random);
          arm.of += step;
        }
        if ([a, b].some((arm) => Math.min(arm.hits, arm.of - arm.hits) < leastEach)) continue;
        const { interval } = alwaysDifference(a, b)!;
        if (interval[0] > 0 || interval[1] < 0) wrong = true;
        if ((compare(a, b)?.p ?? 1) < 0.05) wrongByOneLook = true;
      }
      if (wrong) called += 1;
      if (wrongByOneLook) calledByOneLook += 1;
    }
    report("of 10,000 tests without a difference, looked at 100 times, never called", tests - called, tests);
    console.log(
      `by intervals for a single look ${((100 * calledByOneLook) / tests).toFixed(1)} % are called at some time`,
    );
    expect(called / tests).toBeLessThanOrEqual(0.05);
    expect(calledByOneLook / tests).toBeGreaterThan(0.25);
  }, 120_000);

  it("holds the true difference at all looks, and tells it sooner or later", () => {
    const random = randomBy(5);
    const [p, q] = [0.1, 0.13];
    const [drawA, drawB] = [hitsOf(step, p), hitsOf(step, q)];
    const planned = neededEach(p, q)!;
    const said = neededAlways(p, q)!;
    let [covered, told, toldAsSaid, visitors, toldByPlan] = [0, 0, 0, 0, 0];
    const most = 200;
    for (let test = 0; test < tests; test++) {
      const [a, b] = [
        { hits: 0, of: 0 },
        { hits: 0, of: 0 },
      ];
      let inside = true;
      let at: number | undefined;
      let once: number | undefined;
      for (let look = 0; look < most; look++) {
        a.hits += drawA(random);
        b.hits += drawB(random);
        a.of += step;
        b.of += step;
        if (once === undefined && a.of >= planned) once = compare(a, b)?.p ?? 1;
        if ([a, b].some((arm) => Math.min(arm.hits, arm.of - arm.hits) < leastEach)) continue;
        const { interval } = alwaysDifference(a, b)!;
        if (interval[0] > q - p || interval[1] < q - p) inside = false;
        if (at === undefined && interval[0] > 0) at = a.of + b.of;
      }
      if (inside) covered += 1;
      if (at !== undefined) told += 1;
      if ((at ?? Infinity) <= 2 * said) toldAsSaid += 1;
      visitors += at ?? 2 * most * step;
      if ((once ?? 1) < 0.05) toldByPlan += 1;
    }
    report("of 10,000 tests, the true difference is inside at all of 200 looks", covered, tests);
    console.log(
      `10 % against 13 %: told in ${((100 * told) / tests).toFixed(1)} % within ${2 * most * step} visitors, after ${Math.round(visitors / tests)} on average; ` +
        `within the ${2 * said} that are said in ${((100 * toldAsSaid) / tests).toFixed(1)} %; ` +
        `a test of the planned ${2 * planned} tells it in ${((100 * toldByPlan) / tests).toFixed(1)} %`,
    );
    expect(covered / tests).toBeGreaterThanOrEqual(0.95);
    expect(told / tests).toBeGreaterThan(0.9);
    expect(visitors / tests).toBeLessThan(3 * 2 * planned);
    // What is said of how long it takes is so in about 4 of 5.
    expect(toldAsSaid / tests).toBeGreaterThan(0.77);
    expect(toldAsSaid / tests).toBeLessThan(0.9);
    expect(said).toBeLessThan(2 * planned);
  }, 120_000);

  it("calls a right sharing wrong at most once in a hundred, and finds a wrong one", () => {
    const random = randomBy(9);
    const weights = [40, 40, 20];
    const wrongOf = (shares: readonly number[], looks: number): number => {
      let wrong = 0;
      for (let test = 0; test < 2000; test++) {
        const counts = [0, 0, 0];
        for (let look = 0; look < looks; look++) {
          for (let one = 0; one < 100; one++) {
            const at = random();
            const arm = at < shares[0]! ? 0 : at < shares[0]! + shares[1]! ? 1 : 2;
            counts[arm] = (counts[arm] ?? 0) + 1;
          }
          if (alwaysRatio(counts, weights)!.p < mismatchAlways) {
            wrong += 1;
            break;
          }
        }
      }
      return wrong / 2000;
    };
    expect(wrongOf([0.4, 0.4, 0.2], 60)).toBeLessThanOrEqual(mismatchAlways);
    expect(wrongOf([0.44, 0.38, 0.18], 60)).toBeGreaterThan(0.95);
  }, 120_000);
});

const hitsAt = [0.02, 0.1, 0.3, 0.5].map((rate) => hitsOf(step, rate));

describe("second implementations", () => {
  it("is the bound of the source, as it is written there", () => {
    // Theorem 2.2 with its equation for ρ: σ √(2 (tρ² + 1) / (t²ρ²) · log(√(tρ² + 1) / α)).
    const source = (sd: number, t: number, alpha: number): number => {
      const rho = Math.sqrt((-2 * Math.log(alpha) + Math.log(-2 * Math.log(alpha) + 1)) / tightestAt);
      return (
        sd * Math.sqrt(((2 * (t * rho ** 2 + 1)) / (t ** 2 * rho ** 2)) * Math.log(Math.sqrt(t * rho ** 2 + 1) / alpha))
      );
    };
    const cases: [number, number, number][] = [0.3, 1, 12].flatMap((sd) =>
      [10, 500, 5000, 2_000_000].flatMap((t) => [0.05, 0.01].map((alpha): [number, number, number] => [sd, t, alpha])),
    );
    const same = cases.filter(
      ([sd, t, alpha]) => Math.abs(halfWidth((sd * sd) / t, t, 1 - alpha) / source(sd, t, alpha) - 1) < 1e-9,
    );
    report("half widths as the source writes them", same.length, cases.length);
    expect(same).toHaveLength(cases.length);
  });
  it("has a p that is at the level where the interval just meets zero", () => {
    for (const [hits, of] of [
      [140, 1000],
      [1200, 10_000],
      [60, 300],
    ] as const) {
      const found = alwaysDifference({ hits: Math.round(of / 10), of }, { hits, of })!;
      // Of the same tuning, since the level tunes the bound, too.
      expect(found.p < 0.05).toBe(found.interval[0] > 0);
    }
  });
  it("is the Bayes factor by plain sums of logarithms", () => {
    const random = randomBy(3);
    const cases = Array.from({ length: 500 }, () => [0, 0, 0].map(() => Math.floor(random() * 3000)));
    /** log Γ(from + count) − log Γ(from), of whole numbers: Γ(n + 1) = n Γ(n). */
    const rising = (from: number, count: number): number =>
      Array.from({ length: count }, (_, index) => Math.log(from + index)).reduce((sum, one) => sum + one, 0);
    const same = cases.filter((counts) => {
      const total = counts.reduce((sum, count) => sum + count, 0);
      const evidence = [0.4, 0.4, 0.2].reduce(
        (sum, share, index) => sum + rising(500 * share, counts[index]!) - counts[index]! * Math.log(share),
        -rising(500, total),
      );
      const p = Math.min(1, Math.exp(-evidence));
      return Math.abs(alwaysRatio(counts, [40, 40, 20])!.p - p) <= 1e-9 + 1e-6 * p;
    });
    report("sequential sample ratio check, by plain sums of logarithms", same.length, cases.length);
    expect(same).toHaveLength(cases.length);
  });
});
