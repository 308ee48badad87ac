"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Goal } from "@/core/formats/goal";
import type { Counted } from "@/core/results/counted";
import { sideBySide, sumsToCsv, type SlotSum, type SumRow } from "@/core/results/sums";
import { addressOf } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { saveFile } from "../parts/files";
import { goalName } from "../parts/goal-words";
import { percent, plain } from "../parts/numbers";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";

const shareOf = (hits: number, of: number): number => (of > 0 ? hits / of : -1);

const columnsOf = (goals: readonly Goal[]): Column<SumRow>[] => [
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

/** All slots and pop-ups side by side: how often each was seen, and what came of it. */
export function ResultsTable({
  known,
  sums,
  goals,
}: {
  known: ReadonlyMap<string, Counted>;
  sums: readonly SlotSum[];
  goals: readonly Goal[];
}) {
  const rows = useMemo(() => sideBySide(known, sums), [known, sums]);
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
        <Button onClick={() => saveFile("results.csv", sumsToCsv(chosen), "text/csv")}>{t("Export CSV")}</Button>
      )}
    />
  );
}
