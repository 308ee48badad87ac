"use client";
import { t } from "@/core/messages/t";
import { useMemo } from "react";
import { Chart } from "react-chartjs-2";
import type { Slot } from "@/core/formats/ruleset";
import { overTime } from "@/core/replay/series";
import type { Tally } from "@/core/replay/tally";
import { formatLocal } from "@/core/calendar/calendar";
import { chartColour, dayLabel, token, useThemeName } from "../parts/charts";

/** Page views by hour or day: which variant of a slot they would have seen, and on how many something would change. */
export function OverTime({ tally, slot, of, zone }: { tally: Tally; slot: Slot; of: "shown" | "other"; zone: string }) {
  const theme = useThemeName();
  const { labels, series, changed, daily } = useMemo(() => {
    const { bins, variants, changed, daily } = overTime(tally, slot.id, of, zone);
    const label = (at: number) =>
      `${dayLabel(formatLocal(at).slice(0, 10))}${daily ? "" : ` ${formatLocal(at).slice(11, 16)}`}`;
    return {
      daily,
      labels: bins.map(label),
      series: [...slot.variants, { id: "fallback", name: t("Fallback") }].flatMap(({ id, name }, index) => {
        const values = variants.get(id);
        return values ? [{ name, index: id === "fallback" ? -1 : index, values }] : [];
      }),
      changed: changed.some((count) => count > 0) ? changed : undefined,
    };
  }, [tally, slot, of, zone]);
  return (
    <div style={{ height: 240 }}>
      <Chart
        key={theme}
        type="bar"
        role="img"
        aria-label={t("Page views by {daily} and variant of {slot}", {
          daily: daily ? t("day") : t("hour"),
          slot: slot.name,
        })}
        data={{
          labels,
          datasets: [
            ...(changed
              ? [
                  {
                    type: "line" as const,
                    label: t("Changed"),
                    data: changed,
                    borderColor: token("--ink"),
                    backgroundColor: token("--ink"),
                    borderWidth: 1.5,
                    pointRadius: 0,
                  },
                ]
              : []),
            ...series.map((item) => ({
              type: "bar" as const,
              label: item.name,
              data: item.values,
              backgroundColor: chartColour(item.index),
              stack: "shown",
            })),
          ],
        }}
        options={{
          maintainAspectRatio: false,
          interaction: { mode: "index", intersect: false },
          scales: {
            x: {
              stacked: true,
              grid: { display: false },
              ticks: { color: token("--quiet"), maxRotation: 0, autoSkipPadding: 12 },
            },
            y: {
              stacked: true,
              beginAtZero: true,
              grid: { color: token("--hair") },
              ticks: { color: token("--quiet"), precision: 0 },
              title: { display: true, text: t("Page views"), color: token("--quiet") },
            },
          },
          plugins: { legend: { position: "bottom", labels: { boxWidth: 12, color: token("--ink") } } },
        }}
      />
    </div>
  );
}
