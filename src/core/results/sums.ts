import { writeTable } from "../formats/table";
import type { Counted } from "./counted";

/** What was counted of a slot or pop-up, in all its variants together. */
export interface SlotSum {
  /** A slot's id, `popup:ID`, or the holdout's. */
  slot: string;
  exposures: number;
  /** Those who saw it, each counted once, and how many of them clicked in it. */
  visitors: number;
  clicked: number;
  /** How many of them reached each goal. */
  converted: Readonly<Record<string, number>>;
}

/** One of the things that may be counted, beside the others: by its own goal, else by the only one that was reached. */
export interface SumRow {
  thing: Counted;
  /** Whether arms are shared out by chance in it. */
  tested: boolean;
  exposures: number;
  visitors: number;
  clicked: number;
  goal: string | undefined;
  converted: number;
}

/** Everything that may be counted, in its order, with what was; nothing where nothing was. */
export function sideBySide(known: ReadonlyMap<string, Counted>, sums: readonly SlotSum[]): SumRow[] {
  const bySlot = new Map(sums.map((sum) => [sum.slot, sum]));
  return [...known.values()].map((thing) => {
    const { exposures = 0, visitors = 0, clicked = 0, converted = {} } = bySlot.get(thing.id) ?? {};
    const reached = Object.keys(converted);
    const goal = thing.goal ?? (reached.length === 1 ? reached[0] : undefined);
    return {
      thing,
      tested: thing.variants.some((variant) => variant.arms.length > 1),
      exposures,
      visitors,
      // One who saw it before the stretch of time began may click within it: of nothing there can be no share.
      clicked: Math.min(clicked, visitors),
      goal,
      converted: Math.min((goal !== undefined && converted[goal]) || 0, visitors),
    };
  });
}

/** A line each, as a CSV. */
export const sumsToCsv = (rows: readonly SumRow[]): string =>
  writeTable(
    ["slot", "exposures", "visitors", "clicked", "goal", "converted"],
    rows.map((row) => [row.thing.id, row.exposures, row.visitors, row.clicked, row.goal ?? "", row.converted]),
  );
