import { expect, it } from "vitest";
import type { Rule } from "../formats/rule";
import { timingOf, withoutTiming, withTiming } from "./timing";

const when = (start: string) =>
  ({ signal: "time", op: "within", value: { zone: "site", windows: [{ start, end: "18:00" }] } }) as const;
const who: Rule = { signal: "campaign.source", op: "is", value: "x" };

it("finds, sets and takes away the schedule beside the rest of a rule", () => {
  const nine = when("09:00") as never;
  const ten = when("10:00") as never;
  for (const rule of [null, who, { all: [who, who] }, { any: [who, who] }, { audience: "a" }] as Rule[]) {
    expect(timingOf(rule)).toBeUndefined();
    const timed = withTiming(rule, nine);
    expect(timingOf(timed)?.condition).toEqual(nine);
    expect(timingOf(withTiming(timed, ten))?.condition).toEqual(ten);
    const back = withoutTiming(timed);
    expect(back).toEqual(rule === null ? null : "all" in rule ? rule : { all: [rule] });
  }
  expect(withoutTiming(nine)).toBeNull();
  // A schedule among alternatives is no bound on the whole.
  expect(timingOf({ any: [nine, who] })).toBeUndefined();
});
