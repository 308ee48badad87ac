import { expect, test } from "vitest";
import type { Counted } from "./counted";
import { sideBySide, sumsToCsv, type SlotSum } from "./sums";

const arm = { id: "a", weight: 50, content: null };
const thing = (id: string, more: Partial<Counted> = {}): Counted => ({
  id,
  name: id.toUpperCase(),
  variants: [{ id: "v", name: "V", arms: [arm] }],
  ...more,
});
const known = new Map(
  [
    thing("own", { goal: "order" }),
    thing("one"),
    thing("several", { variants: [{ id: "v", name: "V", arms: [arm, { ...arm, id: "b" }] }] }),
    thing("never"),
  ].map((item) => [item.id, item]),
);
const sum = (slot: string, more: Partial<SlotSum> = {}): SlotSum => ({
  slot,
  exposures: 40,
  visitors: 20,
  clicked: 5,
  converted: {},
  ...more,
});
const rows = sideBySide(known, [
  sum("several", { converted: { order: 2, letter: 3 } }),
  sum("own", { clicked: 25, converted: { order: 30, letter: 1 } }),
  sum("one", { converted: { letter: 4 } }),
  sum("gone"),
]);

test("all that may be counted stands there in its order, and nothing else", () => {
  expect(rows.map((row) => row.thing.id)).toEqual(["own", "one", "several", "never"]);
  expect(rows.map((row) => row.tested)).toEqual([false, false, true, false]);
  expect(rows[3]).toMatchObject({ exposures: 0, visitors: 0, clicked: 0, goal: undefined, converted: 0 });
});

test("a thing is read by its own goal, else by the only one that was reached", () => {
  expect(rows.map(({ goal }) => goal)).toEqual(["order", "letter", undefined, undefined]);
  expect(rows.map(({ converted }) => converted)).toEqual([20, 4, 0, 0]);
});

test("no share is more than the whole", () => {
  expect(rows[0]).toMatchObject({ visitors: 20, clicked: 20, converted: 20 });
});

test("goes out as a CSV", () => {
  expect(sumsToCsv(rows).trim().split("\r\n").slice(0, 3)).toEqual([
    "slot,exposures,visitors,clicked,goal,converted",
    "own,40,20,20,order,20",
    "one,40,20,5,letter,4",
  ]);
});
