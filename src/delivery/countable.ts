/** What may be counted of a site: what is told of anything else is nobody's, and would only fill the tables. */
import type { Engine } from "@/core/decision/engine";
import { countedThings } from "@/core/results/counted";
import { receiptName, type ShownThing } from "./receipts";

/** Goals that pages tell and nobody declared: of each site so many, for each process. */
const mostUndeclared = 100;
const mostSites = 10_000;

interface Countable {
  slots: ReadonlySet<string>;
  /** By `receiptName`, the fallback of each slot among them. */
  things: ReadonlySet<string>;
  goals: ReadonlySet<string>;
}

const known = new WeakMap<Engine, Countable>();
/** What is live of a site, as far as it is counted. */
export function countableOf(engine: Engine): Countable {
  let found = known.get(engine);
  if (!found) {
    const { ruleset } = engine;
    const all = [...countedThings(ruleset).values()];
    const things = all.flatMap(({ id: slot, variants }) => [
      receiptName({ slot, variant: "", arm: "" }),
      ...variants.flatMap(({ id: variant, arms }) => arms.map(({ id: arm }) => receiptName({ slot, variant, arm }))),
    ]);
    const named = [...ruleset.slots, ...ruleset.popups].flatMap(({ goal }) => goal ?? []);
    found = {
      slots: new Set(all.map(({ id }) => id)),
      things: new Set(things),
      goals: new Set([...ruleset.goals.map(({ id }) => id), ...named]),
    };
    known.set(engine, found);
  }
  return found;
}

const undeclared = new Map<string, Set<string>>();
/** Whether a goal counts under its own name: one that is declared, or one of the first so many that pages of the site tell. */
export function isGoal(engine: Engine, name: string): boolean {
  if (countableOf(engine).goals.has(name)) return true;
  const { id } = engine.ruleset.site;
  let told = undeclared.get(id);
  if (!told) {
    if (undeclared.size >= mostSites) undeclared.clear();
    undeclared.set(id, (told = new Set()));
  }
  if (told.size < mostUndeclared) told.add(name);
  return told.has(name);
}

/** The same, as it is counted apart: of what there is nothing is said that a stranger made up. Undefined: there is no such slot. */
export function asApart<T extends ShownThing & { name: string; source: string; campaign: string }>(
  event: T,
  engine: Engine,
): T | undefined {
  const { slots, things } = countableOf(engine);
  if (!slots.has(event.slot)) return undefined;
  const shown = things.has(receiptName(event)) ? {} : { variant: "", arm: "" };
  return { ...event, ...shown, name: "", source: "", campaign: "" };
}
