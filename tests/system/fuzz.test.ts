import { expect, it } from "vitest";
import { fuzz } from "../../scripts/lib/fuzz";
import { fuzzProduct } from "../../scripts/lib/fuzz-product";

it("answers 20,000 hostile requests; npm run fuzz does a million", () => {
  expect(fuzz(20_000, 42).failures).toEqual([]);
});

it("answers 3,000 hostile requests over HTTP, none with a failure; npm run fuzz -- --http does 200,000, and times them", async () => {
  const { failures, slow, longest, answered } = await fuzzProduct(3000, 7);
  expect(failures).toEqual([]);
  console.log(`  the longest took ${longest.toFixed(0)} ms, ${slow.length} more than 50`);
  // Some of each got past the door, and was answered as it is meant.
  for (const name of ["delivery 200", "delivery 202", "delivery 400", "application 200", "mirror 421"])
    expect([name, (answered[name] ?? 0) > 0]).toEqual([name, true]);
}, 180_000);
