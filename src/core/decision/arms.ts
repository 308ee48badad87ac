import type { Arm } from "../formats/ruleset";
import { murmur3 } from "./murmur";

const encoder = new TextEncoder();

/** The arm that a visitor gets, always the same one: by the hash of owner and visitor (docs/engine.md, section 6, rule 4). */
export function drawArm(owner: string, arms: readonly Arm[], visitorId: string | undefined): Arm {
  const first = arms.find((arm) => arm.weight > 0) ?? (arms[0] as Arm);
  if (!visitorId || arms.length === 1) return first;
  const share = (murmur3(encoder.encode(`${owner}:${visitorId}`)) / 2 ** 32) * 10_000;
  let sum = 0;
  for (const arm of arms) {
    sum += Math.round(arm.weight * 100);
    if (sum > share) return arm;
  }
  return first;
}
