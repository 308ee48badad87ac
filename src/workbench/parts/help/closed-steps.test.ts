import { expect, test } from "vitest";
import { closedSteps, closedStepsAfter } from "./closed-steps";

test("the sites at which the first steps were closed are kept, each once, the latest first", () => {
  let value: string | undefined;
  for (const site of ["one", "two", "one"]) value = closedStepsAfter(value, site, true);
  expect(closedSteps(value)).toEqual(["one", "two"]);
  expect(closedSteps(closedStepsAfter(value, "one", false))).toEqual(["two"]);
  expect(closedSteps(undefined)).toEqual([]);
  for (let i = 0; i < 100; i += 1) value = closedStepsAfter(value, `site-${i}`, true);
  expect(closedSteps(value)).toHaveLength(40);
  expect(closedSteps(value)[0]).toBe("site-99");
});
