import { expect, it } from "vitest";
import { chaos } from "../../scripts/lib/chaos";

it("holds while it is broken in every way that broke it once, in short; npm run chaos does it longer", async () => {
  const trials = await chaos(true, () => undefined);
  expect(trials.length).toBeGreaterThan(7);
  expect(trials.filter(({ faults }) => faults.length > 0)).toEqual([]);
  // A trial that breaks nothing proves nothing.
  expect(trials.find(({ what }) => what === "delivery: killed")?.wrong).toBeGreaterThan(0);
}, 180_000);
