import { weekday } from "../calendar/calendar";
import type { Arm } from "../formats/ruleset";
import { writeTable } from "../formats/table";

/** By what counts are parted: the day (of the site's zone), and groups of visits and visitors (formats/event.ts). */
export const dimensions = ["day", "country", "source", "device", "campaign", "language", "system", "visits"] as const;
export type Dimension = (typeof dimensions)[number];
/** What visitors are parted by, days aside. */
export const groups = dimensions.filter((of) => of !== "day");
export type Group = (typeof groups)[number];

/** What was counted of a variant and arm, on one day or of one group. */
export interface ResultRow {
  of: Dimension;
  /** The day YYYY-MM-DD, the country code, the source, …; "" where it is not known. */
  key: string;
  kind: "exposure" | "click" | "conversion";
  /** "" is the fallback. */
  variant: string;
  arm: string;
  /** The goal that was reached. */
  name: string;
  count: number;
  /** Firsts: visitors who gave consent, each once. */
  firsts: number;
  /** Minor units of the site's currency. */
  value: number;
}

/** What came of one variant and arm. */
export interface Outcome {
  variant: string;
  arm: string;
  exposures: number;
  /** Visitors who gave consent and saw it: of them only it is known whether they saw it before. */
  visitors: number;
  clicks: number;
  /** Of those visitors, how many clicked in it. */
  clicked: number;
  conversions: number;
  /** Of those visitors, how many reached the goal. */
  converted: number;
  value: number;
}

const none = (variant: string, arm: string): Outcome => ({
  variant,
  arm,
  exposures: 0,
  visitors: 0,
  clicks: 0,
  clicked: 0,
  conversions: 0,
  converted: 0,
  value: 0,
});

/** Adds rows up by variant and arm, in the order in which they first come. @param goal the goal that counts; undefined: any */
export function outcomes(rows: readonly ResultRow[], goal?: string): Outcome[] {
  const out = new Map<string, Outcome>();
  for (const row of rows) {
    const key = `${row.variant}\n${row.arm}`;
    let outcome = out.get(key);
    if (!outcome) out.set(key, (outcome = none(row.variant, row.arm)));
    if (row.kind === "exposure") {
      outcome.exposures += row.count;
      outcome.visitors += row.firsts;
    } else if (row.kind === "click") {
      outcome.clicks += row.count;
      outcome.clicked += row.firsts;
    } else if (goal === undefined || row.name === goal) {
      outcome.conversions += row.count;
      outcome.converted += row.firsts;
      outcome.value += row.value;
    }
  }
  // One who saw it before the stretch of time began may click within it: of nothing there can be no share.
  for (const outcome of out.values()) {
    outcome.clicked = Math.min(outcome.clicked, outcome.visitors);
    outcome.converted = Math.min(outcome.converted, outcome.visitors);
  }
  return [...out.values()];
}

/** Days as weekdays, from 0, a Monday, to 6. */
export const asWeekdays = (rows: readonly ResultRow[]): ResultRow[] =>
  rows.flatMap((row) => (row.of === "day" ? [{ ...row, key: String(weekday(Date.parse(row.key) / 86_400_000)) }] : []));

/** Parted by the keys of a dimension, most seen first; days in their order. */
export function parted(
  rows: readonly ResultRow[],
  of: Dimension,
  goal?: string,
): { key: string; outcomes: Outcome[] }[] {
  const keys = new Map<string, ResultRow[]>();
  for (const row of rows) {
    if (row.of !== of) continue;
    const list = keys.get(row.key);
    if (list) list.push(row);
    else keys.set(row.key, [row]);
  }
  const out = [...keys].map(([key, list]) => ({ key, outcomes: outcomes(list, goal) }));
  const seen = (item: { outcomes: Outcome[] }) => item.outcomes.reduce((sum, outcome) => sum + outcome.exposures, 0);
  return out.sort((a, b) => (of === "day" ? (a.key < b.key ? -1 : 1) : seen(b) - seen(a) || (a.key < b.key ? -1 : 1)));
}

/** The goals that were reached. */
export const goalsIn = (rows: readonly ResultRow[]): string[] =>
  [...new Set(rows.filter((row) => row.kind === "conversion").map((row) => row.name))].sort();

/** Every day and group with what came of each variant and arm, as a CSV. */
export function resultsToCsv(rows: readonly ResultRow[], slot: string, goal?: string): string {
  const columns = [
    "slot",
    "by",
    "of",
    "variant",
    "arm",
    "exposures",
    "visitors",
    "clicks",
    "clicked",
    "conversions",
    "converted",
    "value",
  ];
  return writeTable(
    columns,
    dimensions.flatMap((of) =>
      parted(rows, of, goal).flatMap(({ key, outcomes: list }) =>
        list.map((item) => [
          slot,
          of,
          key,
          item.variant || "fallback",
          item.arm,
          item.exposures,
          item.visitors,
          item.clicks,
          item.clicked,
          item.conversions,
          item.converted,
          item.value,
        ]),
      ),
    ),
  );
}

/** The arm that the others of a test are compared with: the one that shows the fallback, else the first that anybody gets. */
export const controlOf = (arms: readonly Arm[]): Arm | undefined =>
  arms.find((arm) => arm.content === null && arm.weight > 0) ?? arms.find((arm) => arm.weight > 0);
