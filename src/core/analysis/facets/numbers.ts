/** Numbers that tell conditions apart. */
import { meaningOf, valueReader, type ValueReader } from "../../formats/operators";
import type { Condition } from "../../formats/rule";

/** Numbers around and between the limits of conditions; whole ones of at least 0 where the signal counts something. */
export function numberCandidates(
  conditions: readonly Condition[],
  counts: boolean,
  read: ValueReader = valueReader("number", ""),
): number[] {
  const limits = new Set<number>();
  for (const { op, value } of conditions) {
    const meaning = meaningOf(op, value, read);
    if (meaning?.is === "range")
      for (const limit of [meaning.low, meaning.high]) if (Number.isFinite(limit)) limits.add(limit);
  }
  const out = new Set<number>(counts ? [0, 1] : []);
  const sorted = [...limits].sort((a, b) => a - b);
  sorted.forEach((limit, index) => {
    if (counts) for (const near of [Math.ceil(limit) - 1, Math.floor(limit), Math.floor(limit) + 1]) out.add(near);
    else {
      out.add(limit);
      out.add(index === 0 ? limit - 1 : (limit + (sorted[index - 1] as number)) / 2);
      if (index === sorted.length - 1) out.add(limit + 1);
    }
  });
  if (out.size === 0) out.add(1);
  return [...out].filter((number) => !counts || number >= 0).sort((a, b) => a - b);
}
