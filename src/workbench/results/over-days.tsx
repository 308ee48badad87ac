"use client";
import { locale, said, t, text } from "@/core/messages/t";
import type { Plugin } from "chart.js";
import { useMemo } from "react";
import { Chart } from "react-chartjs-2";
import { exponentOf } from "@/core/money/currency";
import type { Outcome, ResultRow } from "@/core/results/results";
import { parted } from "@/core/results/results";
import { chartColour, dayLabel, token, useThemeName } from "../parts/charts";

/** What is drawn over time. */
export const measures = said([
  { id: "exposures", name: text("Exposures"), of: (item: Outcome) => item.exposures },
  {
    id: "clicks",
    name: text("Share who clicked, %"),
    of: (item: Outcome) => (item.visitors > 0 ? (100 * item.clicked) / item.visitors : null),
  },
  {
    id: "goal",
    name: text("Share who reached the goal, %"),
    of: (item: Outcome) => (item.visitors > 0 ? (100 * item.converted) / item.visitors : null),
  },
  { id: "value", name: text("Value"), of: (item: Outcome) => item.value },
]);
export type Measure = (typeof measures)[number]["id"];

export interface Line {
  variant: string;
  arm: string;
  name: string;
  colour: number;
  /** Arms of one variant have its colour; the dash tells them apart. */
  dash: number[];
}

/** One line a variant and arm over the days, with what went live as upright lines. */
export function OverDays({
  rows,
  goal,
  days,
  lines,
  measure,
  releases,
  annotations,
  today,
  currency,
}: {
  rows: readonly ResultRow[];
  goal: string | undefined;
  days: readonly string[];
  lines: readonly Line[];
  measure: Measure;
  releases: readonly { release: number; day: string; why: string }[];
  /** What happened, by their numbers from 1 on. */
  annotations: readonly { day: string }[];
  /** The day that has only begun: the way to it is drawn dotted. */
  today: string;
  currency: string;
}) {
  const theme = useThemeName();
  const byDay = useMemo(
    () => new Map(parted(rows, "day", goal).map((item) => [item.key, item.outcomes])),
    [rows, goal],
  );
  // Days of which nothing is counted yet are no days without anybody.
  const last = [...byDay.keys()].at(-1) ?? "";
  const digits = exponentOf(currency) ?? 2;
  const { of, name } = measures.find((item) => item.id === measure) ?? measures[0];
  const valueAt = (line: Line, day: string): number | null => {
    const found = byDay.get(day)?.find((item) => item.variant === line.variant && item.arm === line.arm);
    if (!found) return day <= last && (measure === "exposures" || measure === "value") ? 0 : null;
    return measure === "value" ? found.value / 10 ** digits : of(found);
  };
  const marks: Plugin<"line"> = useMemo(
    () => ({
      id: "releases",
      afterDatasetsDraw({ ctx, chartArea, scales }) {
        ctx.save();
        ctx.font = `600 12px ${token("--face") || "sans-serif"}`;
        ctx.setLineDash([3, 3]);
        const upright = (on: string, text: string, colour: string, at: number) => {
          const index = days.indexOf(on);
          if (index < 0) return;
          const x = scales.x?.getPixelForValue(index) ?? 0;
          ctx.strokeStyle = colour;
          ctx.fillStyle = colour;
          ctx.beginPath();
          ctx.moveTo(x, chartArea.top);
          ctx.lineTo(x, chartArea.bottom);
          ctx.stroke();
          // At the right edge there is room on the left alone.
          const isLast = x > chartArea.right - 24;
          ctx.textAlign = isLast ? "right" : "left";
          ctx.fillText(text, isLast ? x - 4 : x + 4, at);
        };
        for (const item of releases) upright(item.day, `R${item.release}`, token("--live"), chartArea.top + 10);
        for (const [index, item] of annotations.entries())
          upright(item.day, String(index + 1), token("--ink"), chartArea.top + 24);
        ctx.restore();
      },
    }),
    [releases, annotations, days],
  );
  return (
    <>
      <div style={{ height: 260 }}>
        <Chart
          key={[theme, ...releases.map((item) => item.release), ...annotations.map((item) => item.day)].join()}
          type="line"
          role="img"
          aria-label={t("{name} by day", { name })}
          plugins={[marks]}
          data={{
            labels: days.map(dayLabel),
            datasets: lines.map((line) => ({
              label: line.name,
              data: days.map((day) => valueAt(line, day)),
              borderColor: chartColour(line.colour),
              backgroundColor: chartColour(line.colour),
              borderDash: line.dash,
              borderWidth: 2,
              pointRadius: 2,
              spanGaps: true,
              segment: {
                borderDash: ({ p1DataIndex }: { p1DataIndex: number }) =>
                  days[p1DataIndex] === today ? [1, 4] : undefined,
              },
            })),
          }}
          options={{
            maintainAspectRatio: false,
            interaction: { mode: "index", intersect: false },
            scales: {
              x: { grid: { display: false }, ticks: { color: token("--quiet"), maxRotation: 0, autoSkipPadding: 12 } },
              y: {
                beginAtZero: true,
                grid: { color: token("--hair") },
                ticks: { color: token("--quiet") },
                title: {
                  display: true,
                  text: measure === "value" ? t("Value, {currency}", { currency }) : name,
                  color: token("--quiet"),
                },
              },
            },
            plugins: { legend: { position: "bottom", labels: { boxWidth: 18, boxHeight: 2, color: token("--ink") } } },
          }}
        />
      </div>
      <AsTable
        caption={t("{name}, by day", { name: measure === "value" ? t("Value, {currency}", { currency }) : name })}
        names={lines.map((line) => line.name)}
        rows={days
          .filter((day) => day <= last)
          .map((day) => ({ name: dayLabel(day), values: lines.map((line) => valueAt(line, day)) }))}
      />
    </>
  );
}

/** What a chart draws, as a table: for whoever reads figures, or hears them. */
function AsTable({
  caption,
  names,
  rows,
}: {
  caption: string;
  names: readonly string[];
  rows: readonly { name: string; values: readonly (number | null)[] }[];
}) {
  return (
    <details className="astable">
      <summary className="quiet">{t("The same as a table")}</summary>
      <table className="grid" aria-label={caption}>
        <thead>
          <tr>
            <th scope="col">{t("Day")}</th>
            {names.map((name) => (
              <th key={name} scope="col" className="num">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.name}>
              <th scope="row">{row.name}</th>
              {row.values.map((value, index) => (
                <td key={index} className="num">
                  {value === null ? "–" : value.toLocaleString(locale(), { maximumFractionDigits: 2 })}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
