/**
 * What visitors are worth, simulated with the heavy tails that values of orders have: how often a difference is called that is not
 * there, whether the true one stays inside at all looks, how soon it is told; beside values that nothing bounds, and an interval for a
 * single look.
 */
import cephes from "cephes";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bandOf, boundedShare, boundOf, edgeOf, worthOf, type ValueRow } from "@/core/results/worth";
import { tightestAt } from "@/core/statistics/always";
import { randomBy } from "@/core/statistics/random";
import { judgeWorth, leastSome, meanOf, type Worth } from "@/core/statistics/worth";
import { hitsOf, normal } from "./draws";
import { report } from "./report";

await cephes.compiled;

/** Values of orders as they are spread. */
interface Tail {
  name: string;
  draw: (random: () => number) => number;
  /** The mean of values of which none counts for more than a bound. */
  mean: (bound: number) => number;
}
/** Log-normal, common practice for values of orders: one in twenty is over six times the middle one at a spread of 1.1. */
const logNormal = (middle: number, spread: number): Tail => ({
  name: `log-normal, spread ${spread}`,
  draw: (random) => middle * Math.exp(spread * normal(random)),
  mean: (bound) => {
    const at = Math.log(bound / middle) / spread;
    const below = middle * Math.exp(spread ** 2 / 2) * cephes.ndtr(at - spread);
    return below + (bound === Infinity ? 0 : bound * (1 - cephes.ndtr(at)));
  },
});
/** Pareto's: with a power of 1.5 it has a mean, but no variance at all. */
const pareto = (least: number, power: number): Tail => ({
  name: `Pareto, power ${power}`,
  draw: (random) => least * (1 - random()) ** (-1 / power),
  mean: (bound) => least + (least ** power * (bound ** (1 - power) - least ** (1 - power))) / (1 - power),
});
const times = (tail: Tail, factor: number): Tail => ({
  name: tail.name,
  draw: (random) => factor * tail.draw(random),
  mean: (bound) => factor * tail.mean(bound / factor),
});

/** An arm's values in bands, as the database keeps them. */
class Arm {
  readonly rows: ValueRow[] = [];
  readonly #byBand = new Map<number, ValueRow>();
  of = 0;
  constructor(readonly id: string) {}
  take(value: number): void {
    const band = bandOf(value);
    let row = this.#byBand.get(band);
    if (!row) {
      row = { variant: "v", arm: this.id, name: "order", band, count: 0, sum: 0, squares: 0 };
      this.#byBand.set(band, row);
      this.rows.push(row);
    }
    row.count += 1;
    row.sum += value;
    row.squares += value * value;
  }
}

const z = 1.959964;
/** 10,000 make the figures of docs/statistics.md, in two minutes. */
const tests = Number(process.env.SIMULATIONS ?? 2000);
const looks = 100;
const step = 50;
const rate = 0.06;
const drawBuyers = hitsOf(step, rate);

/** Tests that are looked at after every 100 visitors, up to 10,000: what was called, and how. */
function simulate(control: Tail, other: Tail, seed: number) {
  const random = randomBy(seed);
  const found = { called: 0, unbounded: 0, once: 0, inside: 0, visitors: 0 };
  for (let test = 0; test < tests; test++) {
    const arms = [new Arm("a"), new Arm("b")] as const;
    let [called, unbounded, once, inside] = [false, false, false, true];
    for (let look = 0; look < looks; look++) {
      for (const [index, arm] of arms.entries()) {
        arm.of += step;
        for (let buyers = drawBuyers(random); buyers > 0; buyers--) arm.take((index ? other : control).draw(random));
      }
      const judge = (bound: number) => {
        const [a, b] = arms.map((arm) => worthOf(arm.rows, arm.of, bound)) as [Worth, Worth];
        return { a, b, verdict: judgeWorth(a, [{ ...b, id: "b" }], 1)[0] };
      };
      const bound = boundOf([...arms[0].rows, ...arms[1].rows]);
      const { a, b, verdict } = judge(bound);
      if (!verdict || verdict.says === "few") continue;
      const is = ({ says }: typeof verdict) => says === "better" || says === "worse";
      if (is(verdict)) called = true;
      if (!called) found.visitors += 2 * step;
      if (!unbounded) {
        const open = judge(Infinity).verdict;
        if (open && is(open)) unbounded = true;
      }
      const spread = (worth: Worth) => (worth.squares / worth.of - meanOf(worth) ** 2) / worth.of;
      if (Math.abs(verdict.by) > z * Math.sqrt(spread(a) + spread(b))) once = true;
      const truth = rate * (other.mean(bound) - control.mean(bound));
      if (verdict.interval[0] > truth || verdict.interval[1] < truth) inside = false;
    }
    if (called) found.called += 1;
    if (unbounded) found.unbounded += 1;
    if (once) found.once += 1;
    if (inside) found.inside += 1;
  }
  return found;
}
const percent = (count: number) => `${((100 * count) / tests).toFixed(1)} %`;

describe("over all looks, after every 100 visitors", () => {
  it.each([logNormal(3000, 1.1), pareto(1500, 1.5)])(
    "is wrong of no difference at most once in twenty: $name",
    (tail) => {
      const { called, once, inside } = simulate(tail, tail, 22);
      report(`of ${tests} tests of the same values (${tail.name}), never called`, tests - called, tests);
      console.log(`by intervals for a single look ${percent(once)} are called at some time`);
      expect(called / tests).toBeLessThanOrEqual(0.05);
      expect(once / tests).toBeGreaterThan(0.2);
      expect(inside / tests).toBeGreaterThanOrEqual(0.95);
    },
    180_000,
  );

  it.each([times(logNormal(3000, 1.1), 1.5), times(pareto(1500, 1.5), 1.5)])(
    "holds the true difference at all looks, and tells it sooner where values are bounded: $name",
    (other) => {
      const { called, unbounded, inside } = simulate(times(other, 1 / 1.5), other, 5);
      report(
        `of ${tests} tests of values half as high again (${other.name}), the true difference is inside`,
        inside,
        tests,
      );
      console.log(
        `told within ${looks * 2 * step} visitors in ${percent(called)}, without a bound in ${percent(unbounded)}`,
      );
      expect(inside / tests).toBeGreaterThanOrEqual(0.95);
      expect(called).toBeGreaterThan(unbounded);
    },
    180_000,
  );
});

describe("bands", () => {
  const values = fc.array(fc.integer({ min: 1, max: 1e12 }), { minLength: 1, maxLength: 400 });
  const rowsOf = (list: readonly number[]): ValueRow[] => {
    const arm = new Arm("a");
    for (const value of list) arm.take(value);
    return arm.rows;
  };
  it("have each value in their own", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e12 }), (value) => {
        const band = bandOf(value);
        expect(value).toBeGreaterThanOrEqual(edgeOf(band) * (1 - 1e-9));
        expect(value).toBeLessThan(edgeOf(band + 1) * (1 + 1e-9));
      }),
    );
  });
  it("bound what is said, and leave the rest as it is: beside plain sums over all values", () => {
    fc.assert(
      fc.property(values, fc.integer({ min: 0, max: 500 }), (list, others) => {
        const rows = rowsOf(list);
        const bound = boundOf(rows);
        const above = list.filter((value) => value > bound).length;
        expect(above).toBeLessThanOrEqual(boundedShare * list.length);
        const bounded = list.map((value) => Math.min(value, bound));
        const worth = worthOf(rows, list.length + others, bound);
        const sum = bounded.reduce((all, one) => all + one, 0);
        expect(worth.sum / sum).toBeCloseTo(1, 9);
        expect(worth.squares / bounded.reduce((all, one) => all + one * one, 0)).toBeCloseTo(1, 9);
        expect((meanOf(worth) * (list.length + others)) / sum).toBeCloseTo(1, 9);
      }),
    );
  });
  it("bound nothing before there are a hundred values", () => {
    expect(boundOf(rowsOf(Array.from({ length: 99 }, (_, index) => 100 + index)))).toBe(Infinity);
    expect(boundOf(rowsOf([...Array<number>(99).fill(100), 1e9]))).toBeLessThanOrEqual(1e9);
    expect(boundOf([])).toBe(Infinity);
  });
});

describe("a second implementation", () => {
  it("says the same from what every visitor brought, one by one", () => {
    const random = randomBy(17);
    /** Visitors one by one, most of whom brought nothing. */
    const visitors = (of: number) =>
      Array.from({ length: of }, () => (random() < 0.1 ? 1 + Math.floor(random() * 9000) : 0));
    const worthOfAll = (list: readonly number[]): Worth => ({
      of: list.length,
      some: list.filter((one) => one > 0).length,
      sum: list.reduce((all, one) => all + one, 0),
      squares: list.reduce((all, one) => all + one * one, 0),
    });
    const cases = Array.from(
      { length: 200 },
      () => [visitors(400 + Math.floor(random() * 3000)), visitors(400 + Math.floor(random() * 3000))] as const,
    );
    const same = cases.filter(([a, b]) => {
      const [found] = judgeWorth(worthOfAll(a), [{ ...worthOfAll(b), id: "b" }], 2);
      // Means and variances by their definitions; the bound as theorem 2.2 of the source has it, at 1 − 0.05 / 2.
      const mean = (list: readonly number[]) => list.reduce((all, one) => all + one, 0) / list.length;
      const variance = (list: readonly number[]) => {
        const middle = mean(list);
        return mean(list.map((one) => (one - middle) ** 2));
      };
      const [alpha, t] = [0.025, a.length + b.length];
      const rho2 = (-2 * Math.log(alpha) + Math.log(-2 * Math.log(alpha) + 1)) / tightestAt;
      const sd = Math.sqrt(t * (variance(a) / a.length + variance(b) / b.length));
      const half = sd * Math.sqrt(((2 * (t * rho2 + 1)) / (t ** 2 * rho2)) * Math.log(Math.sqrt(t * rho2 + 1) / alpha));
      const by = mean(b) - mean(a);
      const once = (cephes.ndtri(1 - alpha / 2) * sd) / Math.sqrt(t);
      const wanted = [by, by - half, by + half, by - once, by + once];
      const got = found ? [found.by, ...found.interval, ...found.once] : [];
      return wanted.every((one, index) => Math.abs((got[index] ?? NaN) - one) < 1e-6 * Math.max(1, Math.abs(one)));
    });
    report("worth beside a plain reckoning over all visitors", same.length, cases.length);
    expect(same).toHaveLength(cases.length);
  });
});

describe("what is said of it", () => {
  const worth = (of: number, some: number, each: number): Worth => ({
    of,
    some,
    sum: some * each,
    squares: some * each * each,
  });
  it("says nothing of too few, nor of nothing", () => {
    const few = judgeWorth(worth(1000, leastSome - 1, 100), [{ ...worth(1000, 900, 1000), id: "b" }], 1);
    expect(few[0]?.says).toBe("few");
    expect(judgeWorth(worth(1000, 0, 0), [{ ...worth(1000, 0, 0), id: "b" }], 1)).toEqual([]);
    expect(judgeWorth(worth(0, 0, 0), [{ ...worth(1000, 50, 10), id: "b" }], 1)).toEqual([]);
  });
  it("is more careful the more is read", () => {
    const [a, b] = [worth(4000, 240, 100), { ...worth(4000, 310, 100), id: "b" }];
    const [one, four] = [1, 4].map((readings) => judgeWorth(a, [b], readings)[0]);
    expect(one!.interval[0]).toBeGreaterThan(four!.interval[0]);
    expect(four!.p).toBeGreaterThan(one!.p);
  });
});
