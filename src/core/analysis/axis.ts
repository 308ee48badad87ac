/** A facet with the conditions on it (by number) and its cells: settings in which all of them come out alike. */
import type { Cell } from "./search";

export interface Axis {
  name: string;
  conditions: number[];
  cells: Cell[];
  /** The truths of one condition in all cells, by its place; made anew with the cells. */
  columns?: { of: readonly Cell[]; byPlace: Map<number, Uint8Array> };
  exact: boolean;
  /** Whether conditions on it lean on memory, and so are unknown without consent. */
  remembered: boolean;
}

/** The columns of an axis's cells, as they now are. */
export function columnsOf(axis: Axis): Map<number, Uint8Array> {
  if (axis.columns?.of !== axis.cells) axis.columns = { of: axis.cells, byPlace: new Map() };
  return axis.columns.byPlace;
}

/**
 * Cells seen by some of their facet's conditions only: one for each outcome of these. `columns` keeps, for each condition of the
 * facet, the truths of all cells in a row: read in that order they are at hand.
 */
export function project(
  axis: Axis,
  cells: readonly Cell[],
  mine: readonly number[],
  columns: Map<number, Uint8Array>,
): readonly Cell[] {
  if (mine.length === axis.conditions.length) return cells;
  const places = mine.map((condition) => axis.conditions.indexOf(condition));
  const rows = places.map((place) => {
    let column = columns.get(place);
    if (!column) columns.set(place, (column = Uint8Array.from(cells, (cell) => cell.truths[place] as number)));
    return column;
  });
  const out: Cell[] = [];
  const add = (index: number) =>
    out.push({
      setting: (cells[index] as Cell).setting,
      truths: Uint8Array.from(rows, (column) => column[index] as number),
    });
  // Few outcomes fit a small table, up to 30 a whole number; more are told apart as text.
  const small = rows.length <= 6 ? new Uint8Array(3 ** rows.length) : undefined;
  const seen = new Set<number | string>();
  for (let index = 0; index < cells.length; index++) {
    let key: number | string = 0;
    if (rows.length <= 30) for (const column of rows) key = key * 3 + (column[index] as number);
    else key = rows.map((column) => column[index]).join("");
    if (small) {
      if (small[key as number] === 1) continue;
      small[key as number] = 1;
    } else {
      if (seen.has(key)) continue;
      seen.add(key);
    }
    add(index);
  }
  return out;
}
