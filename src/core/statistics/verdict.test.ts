import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { alwaysDifference } from "./always";
import { difference, wilson } from "./shares";
import { daysUntil, judgeTest } from "./verdict";

const arm = (id: string, hits: number, of: number, weight = 50) => ({ id, hits, of, weight });

describe("the verdict on a test", () => {
  it("is early while too few were seen, however large the difference", () => {
    const { arms } = judgeTest([arm("a", 1, 40), arm("b", 9, 41)]);
    expect(arms[0]).toMatchObject({ id: "b", says: "early" });
    expect(arms[0]?.needed).toBeGreaterThan(10);
  });
  it("is early where the difference may be chance, and tells how many more are needed", () => {
    const { arms } = judgeTest([arm("a", 100, 1000), arm("b", 110, 1000)]);
    expect(arms[0]?.says).toBe("early");
    // Whoever planned it needs (1.959964 + 0.841621)² · (0.1·0.9 + 0.11·0.89) / 0.01² = 14,748.0…; whoever looks on more.
    expect(arms[0]?.once.needed).toBe(14_749);
    expect(arms[0]?.needed).toBeGreaterThan(14_749);
    expect(arms[0]?.needed).toBeLessThan(3 * 14_749);
  });
  it("is better or worse where it is not", () => {
    expect(judgeTest([arm("a", 100, 1000), arm("b", 170, 1000)]).arms[0]?.says).toBe("better");
    expect(judgeTest([arm("a", 170, 1000), arm("b", 100, 1000)]).arms[0]?.says).toBe("worse");
  });
  it("does not call what only a single look would call, and shows what that would have said", () => {
    const [only] = judgeTest([arm("a", 100, 1000), arm("b", 130, 1000)]).arms;
    expect(only).toMatchObject({ says: "early" });
    expect(only?.once.p).toBeLessThan(0.05);
    expect(only?.once.interval[0]).toBeGreaterThan(0);
    expect(only?.interval[0]).toBeLessThan(0);
  });
  it("concludes nothing where visitors were not shared out as the weights say", () => {
    const judged = judgeTest([arm("a", 100, 1000), arm("b", 200, 1300)]);
    expect(judged.mismatch).toBe(true);
    expect(judged.arms[0]?.says).toBe("mismatch");
    expect(judgeTest([arm("a", 5, 500), arm("b", 0, 0, 0), arm("c", 1, 1, 0)]).mismatch).toBe(true);
  });
  it("asks for more where several arms are compared", () => {
    const two = judgeTest([arm("a", 100, 1000), arm("b", 150, 1000)]).arms[0];
    const more = judgeTest([arm("a", 100, 1000, 20), ...["b", "c", "d", "e"].map((id) => arm(id, 150, 1000, 20))])
      .arms[0];
    expect([two?.says, more?.says]).toEqual(["better", "early"]);
    expect(more!.interval[0]).toBeLessThan(two!.interval[0]);
  });
  it("asks for as much more where several goals may be looked at as where there are as many arms", () => {
    const two = [arm("a", 100, 1000), arm("b", 150, 1000)];
    expect(judgeTest(two, "a", 1).arms[0]?.says).toBe("better");
    const [four] = judgeTest(two, "a", 4).arms;
    expect(four?.says).toBe("early");
    const [arms] = judgeTest([...two, arm("c", 100, 1000), arm("d", 100, 1000), arm("e", 100, 1000)], "a").arms;
    expect(four?.interval).toEqual(arms?.interval);
    expect(four?.p).toBe(arms?.p);
  });
  it("says of p and interval the same, whatever many arms are compared", () => {
    const count = fc.integer({ min: 20, max: 4000 });
    fc.assert(
      fc.property(fc.array(fc.tuple(count, count), { minLength: 2, maxLength: 6 }), (all) => {
        const arms = all.map(([one, other], index) => arm(`${index}`, Math.min(one, other), one + other, 1));
        for (const { p, interval } of judgeTest(arms).arms) {
          const isOff = interval[0] > 0 || interval[1] < 0;
          // Where rounding could tell them apart nothing is asked.
          if (Math.abs(p - 0.05) > 1e-9) expect(p < 0.05).toBe(isOff);
        }
      }),
    );
    const one = judgeTest([arm("a", 100, 1000), arm("b", 130, 1000)]).arms[0]!;
    const three = judgeTest(["a", "b", "c", "d"].map((id) => arm(id, id === "a" ? 100 : 130, 1000, 25))).arms[0]!;
    expect(three.p).toBeGreaterThan(one.p);
    expect(three.once.p).toBeCloseTo(3 * one.once.p!, 12);
  });
  it("tells how long it still takes, by the arm that takes longest, and when it is too long", () => {
    // 1,000 and 500 visitors in 10 days: 100 and 50 a day; 2,000 each takes the second another 30.
    expect(daysUntil(2000, [arm("a", 1, 1000), arm("b", 1, 500)], 10)).toBe(30);
    expect(daysUntil(400, [arm("a", 1, 1000), arm("b", 1, 500)], 10)).toBe(0);
    expect(daysUntil(100_000, [arm("a", 1, 1000), arm("b", 1, 500)], 10)).toBeUndefined();
    expect(daysUntil(10, [arm("a", 1, 1000), arm("b", 0, 0)], 10)).toBeUndefined();
  });
  it("compares with the control that is named", () => {
    const { arms } = judgeTest(
      [arm("a", 200, 1000, 40), arm("b", 100, 1000, 40), arm("control", 50, 500, 20)],
      "control",
    );
    expect(arms.map((item) => [item.id, item.says])).toEqual([
      ["a", "better"],
      ["b", "early"],
    ]);
  });
  it("keeps intervals in order and around what was seen", () => {
    expect(alwaysDifference({ hits: 0, of: 0 }, { hits: 1, of: 2 })).toBeUndefined();
    const share = fc
      .tuple(fc.nat(500), fc.integer({ min: 1, max: 500 }))
      .map(([hits, of]) => ({ hits: Math.min(hits, of), of }));
    fc.assert(
      fc.property(share, share, (a, b) => {
        const [low, high] = wilson(a)!;
        expect(low >= 0 && low <= a.hits / a.of + 1e-12 && high >= a.hits / a.of - 1e-12 && high <= 1).toBe(true);
        const { by, interval } = difference(a, b)!;
        expect(interval[0] <= by + 1e-12 && interval[1] >= by - 1e-12 && interval[0] >= -1 && interval[1] <= 1).toBe(
          true,
        );
        const always = alwaysDifference(a, b)!;
        expect(always.interval[0] <= by + 1e-12 && always.interval[1] >= by - 1e-12).toBe(true);
        expect(alwaysDifference(b, a)!.interval[0]).toBeCloseTo(-always.interval[1], 12);
        const other = difference(b, a)!;
        expect(other.interval[0]).toBeCloseTo(-interval[1], 12);
      }),
    );
  });
});
