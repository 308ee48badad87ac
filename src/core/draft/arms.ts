/** The arms of a test: added, taken out and weighed. Their weights add up to 100 once a test is finished. */
import { drawArm } from "../decision/arms";
import type { Arm, Content } from "../formats/ruleset";

/** Shares in steps of 0.01 that add up to so many hundredths, as near to the wanted sizes as can be (largest remainders). */
function shares(sizes: readonly number[], hundredths: number): number[] {
  const whole = sizes.reduce((sum, size) => sum + size, 0);
  const exact = sizes.map((size) => (whole === 0 ? hundredths / sizes.length : (size / whole) * hundredths));
  const floors = exact.map(Math.floor);
  let left = hundredths - floors.reduce((sum, one) => sum + one, 0);
  const order = exact.map((value, index) => [value - Math.floor(value), index] as const).sort((a, b) => b[0] - a[0]);
  for (const [, index] of order) {
    if (left === 0) break;
    floors[index] = (floors[index] as number) + 1;
    left -= 1;
  }
  return floors.map((one) => one / 100);
}

const weigh = (arms: readonly Arm[], sizes: readonly number[], hundredths = 10_000): Arm[] => {
  const weights = shares(sizes, hundredths);
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

/** Adds an arm: with what is missing to 100, else with an equal share while the others keep their proportions. `null` is the control: it shows the fallback. */
export function addArm(arms: readonly Arm[], content: Content | null): Arm[] {
  const id = content === null && !arms.some((arm) => arm.id === "control") ? "control" : freshArm(arms);
  const missing = missingShare(arms);
  const next = [...arms, { id, weight: Math.max(0, missing), content }];
  if (missing > 0) return next;
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

/** How many percent are missing to 100; below 0: so many are too many. */
export const missingShare = (arms: readonly Arm[]): number =>
  (10_000 - arms.reduce((sum, arm) => sum + Math.round(arm.weight * 100), 0)) / 100;

/**
 * Shares out what is missing to 100, or too much, in proportion.
 * @param kept arms that keep what they have; where that leaves no way, all give or take
 */
export function shareOut(arms: readonly Arm[], kept: ReadonlySet<string> = new Set()): Arm[] {
  const free = arms.filter((arm) => !kept.has(arm.id));
  const taken = arms.reduce((sum, arm) => sum + (kept.has(arm.id) ? Math.round(arm.weight * 100) : 0), 0);
  const whole = (some: readonly Arm[], hundredths: number) =>
    weigh(
      some,
      some.map((arm) => arm.weight),
      hundredths,
    );
  if (free.length === 0 || taken > 10_000) return whole(arms, 10_000);
  const shared = whole(free, 10_000 - taken);
  return arms.map((arm) => shared.find((one) => one.id === arm.id) ?? arm);
}

/**
 * Gives an arm a share in percent, in steps of 0.01. Those that are `kept` keep theirs; the others take what is left, in proportion,
 * where there are any and something is left: else the sum is no longer 100.
 */
export function setWeight(arms: readonly Arm[], id: string, weight: number, kept: ReadonlySet<string>): Arm[] {
  const given = Math.min(100, Math.max(0, Math.round(weight * 100) / 100));
  const next = arms.map((arm) => (arm.id === id ? { ...arm, weight: given } : arm));
  const still = new Set([...kept, id]);
  const taken = next.reduce((sum, arm) => sum + (still.has(arm.id) ? Math.round(arm.weight * 100) : 0), 0);
  return taken <= 10_000 && next.some((arm) => !still.has(arm.id)) ? shareOut(next, still) : next;
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
