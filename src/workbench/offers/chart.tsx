"use client";
import { t } from "@/core/messages/t";
import { useMemo } from "react";
import { Line } from "react-chartjs-2";
import { curve } from "@/core/cart/account";
import { formatMoney, toMinor } from "@/core/money/currency";
import type { Offer } from "@/core/formats/ruleset";
import { token, useThemeName } from "../parts/charts";
import { useDesk } from "../parts/desk/desk";

/** Total and what is still missing to this offer, over the cart's value: where offers begin shows as a step. */
export function OfferChart({ offer }: { offer: Offer }) {
  const theme = useThemeName();
  const { look } = useDesk();
  const { engine, visit } = look;
  const { ruleset } = engine;
  const { currency, language } = ruleset.site;
  const thresholds = useMemo(
    () =>
      ruleset.offers.flatMap((item) => (item.threshold === undefined ? [] : [toMinor(item.threshold, currency) ?? 0])),
    [ruleset, currency],
  );
  const most = Math.max(toMinor("50", currency) ?? 5000, ...thresholds) * 1.6;
  const points = useMemo(
    () => curve(ruleset, (made) => engine.read(made), visit, most, thresholds),
    [ruleset, engine, visit, most, thresholds],
  );
  const money = (minor: number) => formatMoney(minor, currency, language);
  const series = (values: number[]) =>
    points.map((point, index) => ({ x: point.subtotal, y: values[index] as number }));
  return (
    <div style={{ height: 220 }}>
      <Line
        key={theme}
        aria-label={t("Total over cart value, and the amount left to {offer}", { offer: offer.name })}
        role="img"
        data={{
          datasets: [
            {
              label: t("Total"),
              data: series(points.map((point) => point.total)),
              borderColor: token("--ink"),
              backgroundColor: token("--ink"),
              borderWidth: 2,
              pointRadius: 0,
              tension: 0,
            },
            {
              label: t("Without offers"),
              data: series(points.map((point) => point.subtotal)),
              borderColor: token("--hair"),
              backgroundColor: token("--hair"),
              borderWidth: 1.5,
              borderDash: [4, 3],
              pointRadius: 0,
            },
            {
              label: t("Amount left to “{offer}”", { offer: offer.name }),
              data: series(points.map((point) => point.toGo[offer.id] ?? 0)),
              borderColor: token("--v2"),
              backgroundColor: token("--v2"),
              borderWidth: 1.5,
              pointRadius: 0,
            },
          ],
        }}
        options={{
          animation: false,
          maintainAspectRatio: false,
          interaction: { mode: "nearest", axis: "x", intersect: false },
          scales: {
            x: {
              type: "linear",
              max: most,
              title: { display: true, text: t("Cart value"), color: token("--quiet") },
              ticks: { callback: (value) => money(Number(value)), maxTicksLimit: 9, color: token("--quiet") },
              grid: { color: token("--hair") },
            },
            y: {
              ticks: { callback: (value) => money(Number(value)), maxTicksLimit: 6, color: token("--quiet") },
              grid: { color: token("--hair") },
            },
          },
          plugins: {
            legend: { labels: { boxWidth: 14, boxHeight: 2, color: token("--ink") } },
            tooltip: {
              callbacks: {
                title: (items) => t("Cart {x}", { x: money(items[0]?.parsed.x ?? 0) }),
                label: (item) => `${item.dataset.label}: ${money(item.parsed.y ?? 0)}`,
              },
            },
          },
        }}
      />
    </div>
  );
}
