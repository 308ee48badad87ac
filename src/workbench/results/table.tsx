"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Goal } from "@/core/formats/goal";
import { writeTable } from "@/core/formats/table";
import type { Counted } from "@/core/results/counted";
import type { ResultsNow } from "@/server/types";
import { addressOf } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { saveFile } from "../parts/files";
import { goalName } from "../parts/goal-words";
import { percent, plain } from "../parts/numbers";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";

interface Row extends Omit<ResultsNow["slots"][number], "converted" | "slot"> {
  thing: Counted;
  /** Whether arms are shared out by chance in it. */
  tested: boolean;
  /** The goal that it is read by, and how many reached it. */
  goal: string | undefined;
  converted: number;
}

/** Rows of all that may be counted; by a slot's own goal, else by the one that was reached. */
function rowsFrom(known: ReadonlyMap<string, Counted>, sums: ResultsNow["slots"]): Row[] {
  const bySlot = new Map(sums.map((sum) => [sum.slot, sum]));
  return [...known.values()].map((thing) => {
    const sum = bySlot.get(thing.id);
    const reached = Object.keys(sum?.converted ?? {});
    const goal = thing.goal ?? (reached.length === 1 ? reached[0] : undefined);
    const visitors = sum?.visitors ?? 0;
    return {
      thing,
      tested: thing.variants.some((variant) => variant.arms.length > 1),
      exposures: sum?.exposures ?? 0,
      visitors,
      // One who saw it before the stretch of time began may click within it: of nothing there can be no share.
      clicked: Math.min(sum?.clicked ?? 0, visitors),
      goal,
      converted: Math.min((goal !== undefined && sum?.converted[goal]) || 0, visitors),
    };
  });
}

const shareOf = (hits: number, of: number): number => (of > 0 ? hits / of : -1);

const columnsOf = (goals: readonly Goal[]): Column<Row>[] => [
  {
    id: "slot",
    name: t("Slot or pop-up"),
    share: 1.8,
    value: ({ thing }) => thing.name,
    cell: ({ thing }) => (
      <To href={addressOf("/results", thing.id)}>
        <b>{thing.name}</b>
      </To>
    ),
  },
  { id: "test", name: t("Test"), few: true, share: 0.7, value: ({ tested }) => (tested ? t("test") : t("no test")) },
  { id: "seen", name: t("Exposures"), value: ({ exposures }) => exposures, cell: ({ exposures }) => plain(exposures) },
  { id: "visitors", name: t("Visitors"), value: ({ visitors }) => visitors, cell: ({ visitors }) => plain(visitors) },
  {
    id: "clicked",
    name: t("Clicked"),
    value: ({ clicked, visitors }) => shareOf(clicked, visitors),
    cell: ({ clicked, visitors }) => percent(clicked, visitors),
  },
  {
    id: "goal",
    name: t("Goal"),
    few: true,
    value: ({ goal }) => (goal === undefined ? "" : goalName(goal, goals)),
  },
  {
    id: "converted",
    name: t("Conversions"),
    value: ({ goal, converted, visitors }) => (goal === undefined ? -1 : shareOf(converted, visitors)),
    cell: ({ goal, converted, visitors }) => (goal === undefined ? "–" : percent(converted, visitors)),
  },
];

const csvOf = (rows: readonly Row[]): string =>
  writeTable(
    ["slot", "exposures", "visitors", "clicked", "goal", "converted"],
    rows.map((row) => [row.thing.id, row.exposures, row.visitors, row.clicked, row.goal ?? "", row.converted]),
  );

/** All slots and pop-ups side by side: how often each was seen, and what came of it. */
export function ResultsTable({
  known,
  sums,
  goals,
}: {
  known: ReadonlyMap<string, Counted>;
  sums: ResultsNow["slots"];
  goals: readonly Goal[];
}) {
  const rows = useMemo(() => rowsFrom(known, sums), [known, sums]);
  const columns = useMemo(() => columnsOf(goals), [goals]);
  return (
    <DataTable
      name={t("Results")}
      noun={[t("slot or pop-up"), t("slots and pop-ups")]}
      rows={rows}
      columns={columns}
      idOf={({ thing }) => thing.id}
      nameOf={({ thing }) => thing.name}
      teaches={t("There is no slot yet whose results could be counted.")}
      several={(chosen) => (
        <Button onClick={() => saveFile("results.csv", csvOf(chosen), "text/csv")}>{t("Export CSV")}</Button>
      )}
    />
  );
}
