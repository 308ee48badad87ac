import { expect, it } from "vitest";
import { fuzz } from "../../scripts/lib/fuzz";

it("answers 20,000 hostile requests; npm run fuzz does a million", () => {
  expect(fuzz(20_000, 42).failures).toEqual([]);
});
