import { describe, expect, it } from "vitest";
import { ruleset, variant } from "@/core/testing";
import { stepsOf } from "./steps";

const rule = { signal: "campaign.source", op: "is", value: "letter" } as const;
const slots = (variants: ReturnType<typeof variant>[]) => ruleset({ slots: [{ id: "a", name: "A", variants }] }).slots;
const done = (progress: Parameters<typeof stepsOf>[0]) => stepsOf(progress).map((step) => step.done);

describe("the first steps on a site", () => {
  it("are done one by one", () => {
    expect(done({ slots: [], visitors: 1, live: false })).toEqual([false, false, false, false, false]);
    expect(done({ slots: slots([]), visitors: 1, live: false })).toEqual([true, false, false, false, false]);
    expect(done({ slots: slots([variant("v", null)]), visitors: 2, live: false })).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    const off = slots([variant("v", rule)]).map((slot) => ({
      ...slot,
      variants: slot.variants.map((item) => ({ ...item, on: false })),
    }));
    expect(done({ slots: off, visitors: 2, live: false })[2]).toBe(false);
    expect(done({ slots: slots([variant("v", rule)]), visitors: 3, live: false })).toEqual([
      true,
      true,
      true,
      true,
      false,
    ]);
    expect(done({ slots: slots([variant("v", rule)]), visitors: 4, live: true })).toEqual([
      true,
      true,
      true,
      true,
      true,
    ]);
  });
  it("tell how many visitors there were, and no more than are wanted", () => {
    expect(stepsOf({ slots: [], visitors: 2, live: false })[3]?.how).toContain("2 of 3 so far");
    expect(stepsOf({ slots: [], visitors: 9, live: false })[3]?.how).toContain("3 of 3 so far");
  });
});
