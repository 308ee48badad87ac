/** What the analysis says of made-up rulesets is so: npm run soak tries ten thousand. */
import { expect, it } from "vitest";
import { soak } from "../generated/soak";

it("holds for 300 rulesets, on visits that it knows nothing of, and by every witness", () => {
  const report = soak(1, 300, 400);
  expect(report.wrong).toEqual([]);
  // The kinds of judgement that it is about were made, and often.
  for (const kind of [
    "never-shown, proven",
    "always-beaten, proven",
    "overlap, found",
    "gap, found",
    "note never",
    "note idle",
  ])
    expect([kind, report.judgements[kind] ?? 0]).toEqual([kind, expect.toSatisfy((count: number) => count >= 10)]);
  expect(Object.values(report.judgements).reduce((sum, one) => sum + one, 0)).toBeGreaterThan(1500);
}, 600_000);
