/** The arms of a test: added, taken out and weighed, so that their weights always add up to 100. */
import { drawArm } from "../decision/arms";
import type { Arm, Content } from "../formats/ruleset";

/** Shares of 100 in steps of 0.01 that add up, as near to the wanted sizes as can be (largest remainders). */
function shares(sizes: readonly number[]): number[] {
  const whole = sizes.reduce((sum, size) => sum + size, 0);
  const exact = sizes.map((size) => (whole === 0 ? 10_000 / sizes.length : (size / whole) * 10_000));
  const floors = exact.map(Math.floor);
  let left = 10_000 - floors.reduce((sum, one) => sum + one, 0);
  const order = exact.map((value, index) => [value - Math.floor(value), index] as const).sort((a, b) => b[0] - a[0]);
  for (const [, index] of order) {
    if (left === 0) break;
    floors[index] = (floors[index] as number) + 1;
    left -= 1;
  }
  return floors.map((one) => one / 100);
}

const weigh = (arms: readonly Arm[], sizes: readonly number[]): Arm[] => {
  const weights = shares(sizes);
  return arms.map((arm, index) => ({ ...arm, weight: weights[index] as number }));
};

/** A letter that no arm has as its id yet. */
function freshArm(arms: readonly Arm[]): string {
  for (let code = 97; code < 123; code++) {
    const id = String.fromCharCode(code);
    if (!arms.some((arm) => arm.id === id)) return id;
  }
  return `arm-${arms.length + 1}`;
}

/** Adds an arm with an equal share; the others keep their proportions. `null` is the control: it shows the fallback. */
export function addArm(arms: readonly Arm[], content: Content | null): Arm[] {
  const id = content === null && !arms.some((arm) => arm.id === "control") ? "control" : freshArm(arms);
  const next = [...arms, { id, weight: 0, content }];
  const part = 100 / next.length;
  return weigh(next, [...arms.map((arm) => (arm.weight * (100 - part)) / 100), part]);
}

/** Takes an arm out; the others share its weight in proportion. The last one stays. */
export function removeArm(arms: readonly Arm[], id: string): Arm[] {
  const next = arms.filter((arm) => arm.id !== id);
  if (next.length === 0) return [...arms];
  return weigh(
    next,
    next.map((arm) => arm.weight),
  );
}

/** Gives an arm a weight (0 to 100); the others share what is left in proportion. */
export function setWeight(arms: readonly Arm[], id: string, weight: number): Arm[] {
  if (arms.length === 1) return [...arms];
  const given = Math.min(100, Math.max(0, Math.round(weight * 100) / 100));
  const others = arms.filter((arm) => arm.id !== id);
  const rest = others.reduce((sum, arm) => sum + arm.weight, 0);
  const left = shares(others.map((arm) => (rest === 0 ? 1 : arm.weight)));
  const spread = others.map((_, index) => Math.round((left[index] as number) * (100 - given)) / 100);
  // What rounding leaves over goes to the largest of the others.
  const over = Math.round((100 - given - spread.reduce((sum, one) => sum + one, 0)) * 100) / 100;
  const largest = spread.indexOf(Math.max(...spread));
  let next = 0;
  return arms.map((arm) => {
    if (arm.id === id) return { ...arm, weight: given };
    const index = next++;
    const own = (spread[index] as number) + (index === largest ? over : 0);
    return { ...arm, weight: Math.round(own * 100) / 100 };
  });
}

/** A visitor's id with which an arm is drawn; undefined if its weight is 0. */
export function visitorFor(owner: string, arms: readonly Arm[], arm: string): string | undefined {
  if (!arms.some((item) => item.id === arm && item.weight > 0)) return undefined;
  for (let count = 1; count < 200_000; count++) {
    const id = `lens-${count}`;
    if (drawArm(owner, arms, id).id === arm) return id;
  }
  return undefined;
}
