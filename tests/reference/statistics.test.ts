/**
 * Statistics of shares: distributions beside Cephes (S. L. Moshier's C, as cephes 3.3), and worked examples: values run in R (prop.test, chisq.test, binom), and
 * R. G. Newcombe, Statistics in Medicine 17 (1998), tables I and II (from memory, confirmed by calculation).
 */
import cephes from "cephes";
import { expect, it } from "vitest";
import { logGamma, normalBelow, normalQuantile } from "@/core/statistics/distributions";
import { compare, difference, neededEach, wilson } from "@/core/statistics/shares";
import { report } from "./report";

await cephes.compiled;

it("has the distributions of a reference library", () => {
  let agree = 0;
  let of = 0;
  const close = (own: number, other: number, within: number) => {
    of += 1;
    if (Math.abs(own - other) <= within * Math.max(1e-300, Math.abs(other))) agree += 1;
    else throw new Error(`${own} is not ${other}`);
  };
  for (let z = -12; z <= 8; z += 0.037) close(normalBelow(z), cephes.ndtr(z), 1e-12);
  for (let p = 1e-12; p < 1; p += 0.0013) close(normalQuantile(p), cephes.ndtri(p), 1e-9);
  for (let x = 0.01; x < 1e6; x *= 1.013) close(logGamma(x), cephes.lgam(x), 1e-12);
  expect(report("distributions, Cephes", agree, of)).toBe(1);
});

it("has Wilson's interval: worked values", () => {
  const [low, high] = wilson({ hits: 81, of: 263 })!;
  expect(low).toBeCloseTo(0.255288519878, 10);
  expect(high).toBeCloseTo(0.366209576983, 10);
  // Newcombe 1998: 15 of 148, 0 of 20, 1 of 29.
  expect(wilson({ hits: 15, of: 148 })!.map((value) => value.toFixed(4))).toEqual(["0.0624", "0.1605"]);
  expect(wilson({ hits: 0, of: 20 })!.map((value) => value.toFixed(4))).toEqual(["0.0000", "0.1611"]);
  expect(wilson({ hits: 1, of: 29 })!.map((value) => value.toFixed(4))).toEqual(["0.0061", "0.1718"]);
  expect(wilson({ hits: 0, of: 0 })).toBeUndefined();
  expect(wilson({ hits: 20, of: 20 })![1]).toBe(1);
});

it("compares two shares: worked values", () => {
  const { z, p } = compare({ hits: 45, of: 200 }, { hits: 67, of: 210 })!;
  expect(z).toBeCloseTo(-2.13622619112, 9);
  expect(p).toBeCloseTo(0.0326609816143, 10);
  // Newcombe 1998, table II, method 10: 56/70 − 48/80 is 0.2, from 0.0524 to 0.3339 (from memory).
  const gap = difference({ hits: 48, of: 80 }, { hits: 56, of: 70 })!;
  expect(gap.by).toBeCloseTo(0.2, 12);
  expect(gap.interval.map((value) => value.toFixed(4))).toEqual(["0.0524", "0.3339"]);
  // The same, 9/10 − 3/10: 0.1705 to 0.8090 (from memory).
  expect(difference({ hits: 3, of: 10 }, { hits: 9, of: 10 })!.interval.map((value) => value.toFixed(4))).toEqual([
    "0.1705",
    "0.8090",
  ]);
  expect(compare({ hits: 0, of: 10 }, { hits: 0, of: 10 })).toBeUndefined();
});

it("says how many are needed: 10 % beside 12 %, power 0.8, is 3,839 each (common worked example of the textbook formula)", () => {
  // (1.959964 + 0.841621)² · (0.1·0.9 + 0.12·0.88) / 0.02² = 3,838.1…
  expect(neededEach(0.1, 0.12)).toBe(3839);
  expect(neededEach(0.1, 0.1)).toBeUndefined();
});
