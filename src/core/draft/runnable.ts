import type { Problem } from "../formats/problem";
import type { Ruleset } from "../formats/ruleset";
import { checkRuleset } from "../ruleset/check";

/** A draft as the engine can run it, with what is unfinished in it. */
export interface Runnable {
  ruleset: Ruleset;
  problems: Problem[];
  /** The problems of each variant that is left out because of them, by its id. */
  unfinished: Map<string, Problem[]>;
}

/** Leaves out what an unfinished draft cannot be judged by, so that the rest of it can be looked at. */
export function runnable(draft: Ruleset): Runnable {
  const problems = checkRuleset(draft);
  const unfinished = new Map<string, Problem[]>();
  let ruleset = draft;
  // Leaving one thing out can leave another leaning on nothing, so this goes on until all that is left stands.
  for (let found = problems; found.length > 0; found = checkRuleset(ruleset)) {
    const smaller = without(ruleset, found, unfinished);
    if (smaller === undefined) break;
    ruleset = smaller;
  }
  return { ruleset, problems, unfinished };
}

/** A ruleset without the things that have problems; undefined if none of them can be left out. */
function without(
  ruleset: Ruleset,
  problems: readonly Problem[],
  unfinished: Map<string, Problem[]>,
): Ruleset | undefined {
  const variants = new Set<object>();
  const fallbacks = new Set<object>();
  const things = new Set<unknown>();
  for (const problem of problems) {
    const [list = "", index = "", part, inner] = problem.path.split("/").slice(1);
    const thing: unknown = (ruleset as unknown as Record<string, unknown[]>)[list]?.[Number(index)];
    const slot = list === "slots" ? ruleset.slots[Number(index)] : undefined;
    const variant = part === "variants" ? slot?.variants[Number(inner)] : undefined;
    if (variant) {
      variants.add(variant);
      unfinished.set(variant.id, [...(unfinished.get(variant.id) ?? []), problem]);
    } else if (slot && part === "fallback") fallbacks.add(slot);
    else if (thing) things.add(thing);
  }
  if (variants.size + fallbacks.size + things.size === 0) return undefined;
  const kept = Object.fromEntries(
    Object.entries(ruleset).map(([key, value]) => [
      key,
      Array.isArray(value) ? value.filter((item) => !things.has(item)) : value,
    ]),
  ) as unknown as Ruleset;
  kept.slots = kept.slots.map((slot) => ({
    ...slot,
    fallback: fallbacks.has(slot) ? null : slot.fallback,
    variants: slot.variants.filter((variant) => !variants.has(variant)),
  }));
  return kept;
}
