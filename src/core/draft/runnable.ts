import type { Problem } from "../formats/problem";
import type { Arm, Popup, Ruleset } from "../formats/ruleset";
import { checkRuleset } from "../ruleset/check";
import { missingShare, shareOut } from "./arms";

/** A draft as the engine can run it, with what is unfinished in it. */
export interface Runnable {
  ruleset: Ruleset;
  problems: Problem[];
  /** The problems of each variant that is left out or switched off because of them, by its id. */
  unfinished: Map<string, Problem[]>;
  /** The pop-ups of which only the rule is unfinished, by their id. */
  unfinishedPopups: Set<string>;
}

/**
 * Leaves out what an unfinished draft cannot be judged by, so that the rest of it can be looked at. Where only the rule of a
 * variant or pop-up is unfinished, it stays, switched off: what it says can still be looked at.
 */
export function runnable(draft: Ruleset): Runnable {
  const problems = checkRuleset(draft);
  const unfinished = new Map<string, Problem[]>();
  const unfinishedPopups = new Set<string>();
  let ruleset = draft;
  // Leaving one thing out can leave another leaning on nothing, so this goes on until all that is left stands.
  for (let found = problems; found.length > 0; found = checkRuleset(ruleset)) {
    const smaller = without(ruleset, found, unfinished, unfinishedPopups);
    if (smaller === undefined) break;
    ruleset = smaller;
  }
  return { ruleset, problems, unfinished, unfinishedPopups };
}

/** The things of a list of a ruleset, by the list’s name; none where it is no list. */
const listIn = (ruleset: Ruleset, name: string): readonly unknown[] => {
  const found: unknown = Object.entries(ruleset).find(([key]) => key === name)?.[1];
  return Array.isArray(found) ? found : [];
};

/** A ruleset without the things that have problems; undefined if none of them can be left out. */
function without(
  ruleset: Ruleset,
  problems: readonly Problem[],
  unfinished: Map<string, Problem[]>,
  unfinishedPopups: Set<string>,
): Ruleset | undefined {
  const variants = new Set<object>();
  const silent = new Set<unknown>();
  const fallbacks = new Set<object>();
  const things = new Set<unknown>();
  const uneven = new Set<object>();
  const evened = <T extends { arms: Arm[] }>(owner: T): T =>
    uneven.has(owner) ? { ...owner, arms: shareOut(owner.arms) } : owner;
  for (const problem of problems) {
    const [list = "", index = "", part = "", inner, within] = problem.path.split("/").slice(1);
    const thing = listIn(ruleset, list)[Number(index)];
    const slot = list === "slots" ? ruleset.slots[Number(index)] : undefined;
    const variant = part === "variants" ? slot?.variants[Number(inner)] : undefined;
    const owner = variant ?? (list === "popups" ? (thing as Popup) : undefined);
    // Shares that do not add up yet are shared out meanwhile, so that all arms can be looked at.
    if (
      owner &&
      (variant ? within : part) === "arms" &&
      problem.path.endsWith("/arms") &&
      missingShare(owner.arms) !== 0
    ) {
      uneven.add(owner);
      if (variant) unfinished.set(variant.id, [...(unfinished.get(variant.id) ?? []), problem]);
    } else if (variant) {
      if (within === "rule") silent.add(variant);
      else variants.add(variant);
      unfinished.set(variant.id, [...(unfinished.get(variant.id) ?? []), problem]);
    } else if (slot && part === "fallback") fallbacks.add(slot);
    else if (list === "popups" && /^(rule|pages)$/.test(part)) {
      silent.add(thing);
      unfinishedPopups.add((thing as Popup).id);
    } else if (thing) things.add(thing);
  }
  if (variants.size + silent.size + fallbacks.size + things.size + uneven.size === 0) return undefined;
  const kept = { ...ruleset };
  for (const key of Object.keys(kept)) {
    const list = listIn(kept, key);
    if (list.some((item) => things.has(item))) Object.assign(kept, { [key]: list.filter((item) => !things.has(item)) });
  }
  kept.popups = kept.popups.map((popup) => ({
    ...evened(popup),
    ...(silent.has(popup) ? { on: false, rule: null, pages: null } : {}),
  }));
  kept.slots = kept.slots.map((slot) => ({
    ...slot,
    fallback: fallbacks.has(slot) ? null : slot.fallback,
    variants: slot.variants
      .filter((variant) => !variants.has(variant))
      .map((variant) => ({ ...evened(variant), ...(silent.has(variant) ? { on: false, rule: null } : {}) })),
  }));
  return kept;
}
