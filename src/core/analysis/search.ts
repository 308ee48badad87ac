/** The search for one cell of each facet so that every clause comes true. */
import { YES } from "../rules/truth";
import type { Setting } from "./facet";
import { eachCondition, highOf, lowOf, type Bounds, type Node } from "./nodes";

/** A part of a facet's values in which all conditions on it come out alike. */
export interface Cell {
  setting: Setting;
  /** The truth of each of the facet's conditions, in their order. */
  truths: Uint8Array;
}
/** A facet with the conditions (by number) that a goal asks of it, and its cells. */
export interface SearchAxis {
  name: string;
  conditions: readonly number[];
  cells: readonly Cell[];
}
/** At least one literal must come true: a rule that holds, or one that does not (false or unknown). */
export type NodeClause = readonly { node: Node; holds: boolean }[];

export interface SearchResult<T> {
  found: T | undefined;
  tries: number;
  /** Whether the search looked at everything. */
  whole: boolean;
}

const mostTries = 3000;

/**
 * Looks for a choice of cells under which every clause comes true and `confirm` agrees. Bounds on the truth of each rule
 * prune whatever cannot lead there. `bounds` must hold those of all axes' cells, and comes back as it was unless found.
 */
export function search<T>(
  clauses: readonly NodeClause[],
  axes: readonly SearchAxis[],
  bounds: Bounds,
  confirm: (chosen: ReadonlyMap<number, Cell>) => T | undefined,
  /** Given: what hangs only on conditions of no facet counts as met. For asking whether the rest alone rules it out. */
  relaxed?: T,
): SearchResult<T> {
  const chosen = new Map<number, Cell>();
  const axisOf = new Map<number, number>();
  axes.forEach((axis, place) => axis.conditions.forEach((condition) => axisOf.set(condition, place)));
  let tries = 0;
  let whole = true;
  let gaveUp = false;

  /** The clause to work on next; undefined: all are met; null: one cannot be met any more. */
  const next = (): NodeClause | undefined | null => {
    let open: NodeClause | undefined;
    let rank = Infinity;
    for (const clause of clauses) {
      let met = false;
      let possible = false;
      for (const { node, holds } of clause) {
        if (holds ? lowOf(node, bounds) === YES : highOf(node, bounds) < YES) {
          met = true;
          break;
        }
        if (holds ? highOf(node, bounds) === YES : lowOf(node, bounds) < YES) possible = true;
      }
      if (met) continue;
      if (!possible) return null;
      if (relaxed !== undefined && axisFor(clause) === undefined) continue;
      // Rules that must hold are worked on first: they leave the fewest choices.
      const mine = clause.length === 1 && clause[0]?.holds ? 0 : 1;
      if (mine < rank) {
        open = clause;
        rank = mine;
      }
    }
    return open;
  };
  /** A facet that is not chosen yet and on which the clause still hangs: the one with the fewest cells. */
  const axisFor = (clause: NodeClause): number | undefined => {
    let best: number | undefined;
    for (const { node, holds } of clause)
      if (holds ? highOf(node, bounds) === YES : lowOf(node, bounds) < YES)
        eachCondition(node, (index) => {
          const place = axisOf.get(index);
          if (place === undefined || chosen.has(place) || bounds.low[index] === bounds.high[index]) return;
          if (best === undefined || (axes[place]?.cells.length ?? 0) < (axes[best]?.cells.length ?? 0)) best = place;
        });
    return best;
  };

  const step = (): T | undefined => {
    if (tries > mostTries) {
      gaveUp = true;
      return undefined;
    }
    const clause = next();
    if (clause === null) return undefined;
    if (clause === undefined) {
      if (relaxed !== undefined) return relaxed;
      tries += 1;
      const confirmed = confirm(chosen);
      if (confirmed === undefined) whole = false;
      return confirmed;
    }
    const place = axisFor(clause);
    if (place === undefined) return undefined;
    const axis = axes[place] as SearchAxis;
    const was = axis.conditions.map((condition) => [bounds.low[condition] as number, bounds.high[condition] as number]);
    for (const cell of axis.cells) {
      tries += 1;
      chosen.set(place, cell);
      axis.conditions.forEach((condition, i) => {
        bounds.low[condition] = bounds.high[condition] = cell.truths[i] as number;
      });
      const found = step();
      if (found !== undefined) return found;
      if (gaveUp) break;
    }
    chosen.delete(place);
    axis.conditions.forEach((condition, i) => {
      const [low, high] = was[i] as [number, number];
      bounds.low[condition] = low;
      bounds.high[condition] = high;
    });
    return undefined;
  };
  const found = step();
  return { found, tries, whole: whole && !gaveUp };
}
