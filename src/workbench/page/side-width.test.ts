import { expect, test } from "vitest";
import { sideWidth, sideWidthOf } from "./side-width";

test("a kept width stays within its bounds, and what is none is the usual one", () => {
  for (const odd of [undefined, "", "wide", "NaN", "Infinity"]) expect(sideWidthOf(odd)).toBe(sideWidth.usual);
  expect([sideWidthOf("500.4"), sideWidthOf(1), sideWidthOf("9999")]).toEqual([500, sideWidth.least, sideWidth.most]);
});
