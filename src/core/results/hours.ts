import { writeTable } from "../formats/table";

/** What was counted in one hour, of one kind, variant, arm, goal, country, source and device. */
export interface HourRow {
  /** When the hour began, in UTC: 2026-11-24T10:00:00Z. */
  hour: string;
  kind: "exposure" | "click" | "conversion";
  variant: string;
  arm: string;
  /** The goal of a conversion, what was clicked; "" for exposures. */
  name: string;
  country: string;
  source: string;
  device: string;
  count: number;
  firsts: number;
  /** Minor units of the site's currency. */
  value: number;
}

const columns = [
  "hour",
  "kind",
  "variant",
  "arm",
  "name",
  "country",
  "source",
  "device",
  "count",
  "firsts",
  "value",
] as const;

/** Counts by hour as a CSV, the open format of results (docs/formats.md). */
export const hoursToCsv = (slot: string, rows: readonly HourRow[]): string =>
  writeTable(
    ["slot", ...columns],
    rows.map((row) => [slot, ...columns.map((column) => row[column])]),
  );
