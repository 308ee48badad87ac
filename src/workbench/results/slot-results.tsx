"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo } from "react";
import { formatDate } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { holdoutSlot } from "@/core/decision/holdout";
import type { Goal } from "@/core/formats/goal";
import type { Site } from "@/core/formats/ruleset";
import { formatMoney } from "@/core/money/currency";
import { armName, type Counted } from "@/core/results/counted";
import { goalsIn, outcomes, type Outcome, type ResultRow } from "@/core/results/results";
import { spikesIn } from "@/core/results/spikes";
import type { SlotCounts } from "@/server/types";
import { dayLabel } from "../parts/charts";
import { goalName } from "../parts/goal-words";
import { plain } from "../parts/numbers";
import { colourOf } from "../parts/variants";
import { ApartLine } from "./apart-line";
import { ByVariant } from "./by-variant";
import { ByWhom } from "./by-whom";
import { measures, OverDays, type Line, type Measure } from "./over-days";
import { TestPlan } from "./plan";
import { TestView } from "./test-view";
import type { View } from "./view";

const day = 86_400_000;
const dashes = [[], [6, 3], [2, 2], [8, 3, 2, 3]];

/** The first of some names that is among those there are. */
const firstOf = (wanted: readonly (string | undefined)[], there: readonly string[]): string | undefined =>
  wanted.find((item) => item !== undefined && there.includes(item));

/** What came of each variant and arm, by a goal. */
const useOutcomes = (rows: readonly ResultRow[], goal: string | undefined): Outcome[] =>
  useMemo(() => {
    const byDay = rows.filter((row) => row.of === "day");
    return outcomes(byDay, goal);
  }, [rows, goal]);

interface Props {
  slot: Counted;
  counts: SlotCounts;
  days: readonly string[];
  goals: readonly Pick<Goal, "id" | "name">[];
  site: Pick<Site, "zone" | "currency" | "language">;
  /** The day that has only begun. */
  today: string;
  view: View;
  onView: (view: View) => void;
  /** Makes a goal the one by which the slot is read first; undefined: that cannot be changed here. */
  onMain?: ((goal: string) => void) | undefined;
  /** What else can be done with what is shown by a goal. */
  tools?: (goal: string | undefined) => React.ReactNode;
  /** Notes what happened. */
  notes?: React.ReactNode;
  /** Saves all that is counted of the slot, by a goal. */
  onSave: (goal: string | undefined) => void;
  /** Beside the chart's choice of measure. */
  overTime?: React.ReactNode;
}

/** What came of one slot: by variant and arm, its tests, over time, and by whom. */
export function SlotResults(props: Props) {
  const {
    slot,
    counts,
    days,
    goals: declared,
    site,
    today,
    view,
    onView,
    onMain,
    onSave,
    tools,
    notes,
    overTime,
  } = props;
  const { rows, by, values, releases, annotations } = counts;
  const reached = useMemo(() => goalsIn(rows), [rows]);
  const goals = [...new Set([...declared.map(({ id }) => id), ...reached])];
  const goal = firstOf([view.goal, slot.goal, reached[0], goals[0]], goals);
  const called = goal === undefined ? undefined : goalName(goal, declared);
  const did = called === undefined ? t("reached a goal") : t("reached “{called}”", { called });
  // Each goal is read, and what it is worth where it is worth anything.
  const readings = goals.length + new Set(values.map((row) => row.name)).size;
  // Said beforehand, or the only one, a goal is read as if there were nothing else.
  const readFirst = slot.goal ?? (goals.length === 1 ? goals[0] : undefined);
  const readBy = goal === readFirst ? 1 : Math.max(1, readings);
  const money = (minor: number) => formatMoney(minor, site.currency, site.language);
  const list = useOutcomes(rows, goal);
  const indexOf = (variant: string) => slot.variants.findIndex((item) => item.id === variant);
  const armAt = ({ variant, arm }: Pick<Outcome, "variant" | "arm">) =>
    Math.max(0, slot.variants[indexOf(variant)]?.arms.findIndex((item) => item.id === arm) ?? 0);
  const nameOf = ({ variant, arm }: Pick<Outcome, "variant" | "arm">) => {
    const found = slot.variants.find((item) => item.id === variant);
    const base = found?.name ?? (variant === "" ? t("Fallback") : variant);
    if ((found?.arms.length ?? 0) <= 1 || !arm) return base;
    return slot.variants.length === 1 ? armName(slot, arm) : t("{base}, arm {arm}", { base, arm });
  };
  const place = (item: Outcome) => (indexOf(item.variant) < 0 ? 1e6 : indexOf(item.variant) * 100 + armAt(item));
  const ordered = [...list].sort((a, b) => place(a) - place(b));
  const lines: Line[] = ordered.map((item) => ({
    variant: item.variant,
    arm: item.arm,
    name: nameOf(item),
    colour: indexOf(item.variant),
    dash: dashes[armAt(item) % dashes.length] ?? [],
  }));
  const colour = (variant: string) => (indexOf(variant) < 0 ? "var(--quiet)" : colourOf(indexOf(variant)));
  const marks = releases
    .map((item) => ({
      release: item.release,
      why: item.why,
      day: formatDate(Math.floor(zoneOf(site.zone).toLocal(Date.parse(item.at)) / day)),
    }))
    .filter((item) => days.includes(item.day));
  const spikes = useMemo(
    () =>
      spikesIn(
        rows,
        days.filter((one) => one !== today),
      ),
    [rows, days, today],
  );
  const sum = (of: (item: Outcome) => number) => list.reduce((total, item) => total + of(item), 0);
  const all = {
    visitors: sum((item) => item.visitors),
    clicked: sum((item) => item.clicked),
    converted: sum((item) => item.converted),
  };
  /** On so many days anything was counted. */
  const counted = new Set(rows.flatMap((row) => (row.of === "day" ? [row.key] : []))).size;
  return (
    <>
      <section className="stack" aria-label={t("By variant")}>
        <div className="row wrap">
          <h2 style={{ flex: 1 }}>{slot.name}</h2>
          {goals.length > 1 && (
            <TextField
              select
              label={t("Goal")}
              value={goal ?? ""}
              onChange={(event) => onView({ ...view, goal: event.target.value })}
              sx={{ width: 180 }}
            >
              {goals.map((item) => (
                <MenuItem key={item} value={item}>
                  {goalName(item, declared)}
                </MenuItem>
              ))}
            </TextField>
          )}
          {onMain && goals.length > 1 && goal !== undefined && goal !== slot.goal && (
            <Button
              title={t("Said beforehand, one goal is told sooner: it need not allow for the others")}
              onClick={() => onMain(goal)}
            >
              {t("Read by it first")}
            </Button>
          )}
          <Button className="noprint" onClick={() => onSave(goal)}>
            {t("Export CSV")}
          </Button>
          <Button className="noprint" onClick={() => window.print()}>
            {t("Print")}
          </Button>
          {tools?.(goal)}
        </div>
        {spikes.map((spike) => (
          <div key={spike.day} className="missing" role="note">
            {t(
              "On {day} it was seen {exposures} times, usually about {usual} a day: a campaign, or a machine. Look before you trust that day.",
              { day: dayLabel(spike.day), exposures: plain(spike.exposures), usual: plain(Math.round(spike.usual)) },
            )}
          </div>
        ))}
        <ByVariant outcomes={ordered} goal={called} nameOf={nameOf} indexOf={indexOf} colour={colour} money={money} />
        <span className="quiet">
          {slot.id === holdoutSlot
            ? t(
                "Visitors who gave consent, shared out by chance: so the difference is what all variants and pop-ups together are worth. Rates with 95 % intervals (Wilson).",
              )
            : t(
                "Rates are of visitors who gave consent, each counted once, with 95 % intervals (Wilson). Variants are shown to different visitors, by their rules: only arms are shared out by chance, so only between arms does a difference prove anything.",
              )}
        </span>
        <ApartLine apart={counts.apart} />
        {all.visitors > 0 && (
          <TestPlan
            rate={(goal ? all.converted : all.clicked) / all.visitors}
            weekly={(7 * all.visitors) / Math.max(1, counted)}
            did={goal ? did : "clicked"}
          />
        )}
      </section>
      {slot.variants
        .filter((item) => item.arms.length > 1 && list.some((one) => one.variant === item.id))
        .map((item) => (
          <TestView
            key={item.id}
            name={item.name}
            arms={item.arms}
            outcomes={list.filter((one) => one.variant === item.id)}
            did={goal ? did : "clicked"}
            hits={(one) => (goal ? one.converted : one.clicked)}
            days={new Set(rows.flatMap((row) => (row.of === "day" && row.variant === item.id ? [row.key] : []))).size}
            colour={colour(item.id)}
            goals={readBy}
            values={values.filter((row) => row.variant === item.id && row.name === goal)}
            readings={readings}
            money={money}
            armName={(arm) => armName(slot, arm)}
          />
        ))}
      <section className="stack" aria-label={t("Over time")}>
        <div className="row">
          <h2 style={{ flex: 1 }}>{t("Over time")}</h2>
          {overTime}
          <TextField
            select
            label={t("What")}
            value={view.measure}
            onChange={(event) => onView({ ...view, measure: event.target.value as Measure })}
            sx={{ width: 250 }}
          >
            {measures.map((item) => (
              <MenuItem key={item.id} value={item.id}>
                {item.name}
              </MenuItem>
            ))}
          </TextField>
        </div>
        <OverDays
          rows={rows}
          goal={goal}
          days={days}
          lines={lines}
          measure={view.measure}
          releases={marks}
          annotations={annotations}
          today={today}
          currency={site.currency}
        />
        <ul className="plain row wrap" aria-label={t("What went live")}>
          {marks.map((item) => (
            <li key={`${item.release} ${item.day}`} className="quiet">
              <b className="yes">R{item.release}</b> {dayLabel(item.day)}: {item.why || t("without a note")}
            </li>
          ))}
        </ul>
        {notes}
      </section>
      <ByWhom
        rows={rows}
        by={by}
        goal={goal}
        did={did}
        split={view.split}
        onSplit={(split) => onView({ ...view, split })}
        lines={ordered}
        nameOf={nameOf}
        indexOf={indexOf}
      />
    </>
  );
}
