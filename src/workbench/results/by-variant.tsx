import { t } from "@/core/messages/t";
import type { Outcome } from "@/core/results/results";
import { wilson } from "@/core/statistics/shares";
import { plain } from "../parts/numbers";
import { Swatch } from "../parts/variants";
import { Rate } from "./rate";

interface Props {
  outcomes: readonly Outcome[];
  /** What the goal is called; undefined: none was reached. */
  goal: string | undefined;
  nameOf: (of: Pick<Outcome, "variant" | "arm">) => string;
  indexOf: (variant: string) => number;
  colour: (variant: string) => string;
  money: (minor: number) => string;
}

/** A scale that holds the intervals of all of which enough is known. */
const scaleOf = (list: readonly Outcome[], hits: (item: Outcome) => number): number =>
  Math.max(
    0.01,
    ...list.flatMap((item) => (item.visitors >= 20 ? [wilson({ hits: hits(item), of: item.visitors })?.[1] ?? 0] : [])),
  );

/** Each variant and arm: how often it was seen, by how many, and what they did. */
export function ByVariant({ outcomes, goal, nameOf, indexOf, colour, money }: Props) {
  const [clicks, goals] = [scaleOf(outcomes, (item) => item.clicked), scaleOf(outcomes, (item) => item.converted)];
  return (
    <table className="grid">
      <thead>
        <tr>
          <th>{t("Variant")}</th>
          <th className="num">{t("Exposures")}</th>
          <th className="num" title={t("Visitors who gave consent, each once: rates are of them")}>
            {t("Visitors")}
          </th>
          <th>{t("Clicked")}</th>
          <th>{goal ? t("Conversions: {goal}", { goal }) : t("Conversions")}</th>
          <th className="num">{t("Value")}</th>
          <th
            className="num"
            title={t("All that was brought, by visitor: tests compare what each brought the first time")}
          >
            {t("Per visitor")}
          </th>
        </tr>
      </thead>
      <tbody>
        {outcomes.map((item) => (
          <tr key={`${item.variant}/${item.arm}`}>
            <td>
              <span className="shownvariant">
                <Swatch index={indexOf(item.variant)} />
                {nameOf(item)}
              </span>
            </td>
            <td className="num">{plain(item.exposures)}</td>
            <td className="num">{plain(item.visitors)}</td>
            <td>
              <Rate of={{ hits: item.clicked, of: item.visitors }} most={clicks} colour={colour(item.variant)} />
            </td>
            <td>
              <Rate of={{ hits: item.converted, of: item.visitors }} most={goals} colour={colour(item.variant)} />
            </td>
            <td className="num">{money(item.value)}</td>
            <td className="num">{item.visitors > 0 ? money(Math.round(item.value / item.visitors)) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
