import type { Group } from "@/core/results/results";
import type { Split } from "./by-whom";
import type { Measure } from "./over-days";

/** What is looked at of results: kept while one goes from slot to slot. */
export interface View {
  /** Undefined: the goal by which the slot is read first. */
  goal?: string | undefined;
  measure: Measure;
  split: Split;
}
/** The kind of group that is to be counted for it: a weekday is told by the day, beside any. */
export const groupOf = ({ split }: Pick<View, "split">): Group => (split === "weekday" ? "source" : split);
export const firstView: View = { measure: "exposures", split: "source" };
