import type { Split } from "./by-whom";
import type { Measure } from "./over-days";

/** What is looked at of results: kept while one goes from slot to slot. */
export interface View {
  /** Undefined: the goal by which the slot is read first. */
  goal?: string | undefined;
  measure: Measure;
  split: Split;
}
export const firstView: View = { measure: "exposures", split: "source" };
