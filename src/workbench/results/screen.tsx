"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { formatMoney } from "@/core/money/currency";
import type { Arm } from "@/core/formats/ruleset";
import { goalsIn, outcomes, parted, resultsToCsv, type Dimension, type Outcome } from "@/core/results/results";
import { formatDate, parseDate } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { rateOf, wilson } from "@/core/statistics/shares";
import { countryName } from "@/core/visit/countries";
import type { ResultsNow } from "@/server/types";
import { whyNot } from "../parts/actions";
import { dayLabel } from "../parts/charts";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { saveFile } from "../parts/files";
import { plain } from "../parts/numbers";
import { colourOf, Swatch } from "../parts/variants";
import { measures, OverDays, type Line, type Measure } from "./over-days";
import { Rate } from "./rate";
import { TestView } from "./test-view";

const day = 86_400_000;
const dashes = [[], [6, 3], [2, 2], [8, 3, 2, 3]];
const splits: readonly { of: Exclude<Dimension, "day">; name: string }[] = [
  { of: "source", name: "Source" },
  { of: "country", name: "Country" },
  { of: "device", name: "Device" },
];

/** A slot or pop-up of which something was counted, as rulesets know it. */
interface Counted {
  id: string;
  name: string;
  variants: readonly { id: string; name: string; arms: readonly Arm[] }[];
}

/** What came of what was shown: by variant and arm, over time, with how sure one may be. */
export function ResultsScreen() {
  const { ruleset, live, actions, now } = useDesk();
  const go = useGo();
  const asked = useSearchParams().get("open");
  const { zone, currency, language } = ruleset.site;
  const today = Math.floor(zoneOf(zone).toLocal(Date.parse(now)) / day);
  const [from, setFrom] = useState(formatDate(today - 28));
  const [until, setUntil] = useState(formatDate(today));
  const [told, setTold] = useState<{ of: string; result: ResultsNow }>();
  const [problem, setProblem] = useState<string>();
  const [goal, setGoal] = useState<string>();
  const [measure, setMeasure] = useState<Measure>("exposures");
  const [split, setSplit] = useState<Exclude<Dimension, "day">>("source");

  // What is live is what was counted; the draft tells names of what is gone from it.
  const known = useMemo(() => {
    const out = new Map<string, Counted>();
    for (const of of [ruleset, ...(live ? [live.ruleset] : [])]) {
      for (const slot of of.slots)
        out.set(slot.id, {
          id: slot.id,
          name: slot.name,
          variants: [
            ...slot.variants,
            ...(out.get(slot.id)?.variants ?? []).filter(
              (item) => !slot.variants.some((other) => other.id === item.id),
            ),
          ],
        });
      for (const popup of of.popups)
        out.set(`popup:${popup.id}`, { id: `popup:${popup.id}`, name: `Pop-up ${popup.name}`, variants: [popup] });
    }
    return out;
  }, [ruleset, live]);
  const tested = [...known.values()].find((item) => item.variants.some((variant) => variant.arms.length > 1));
  const open = asked ?? tested?.id ?? ruleset.slots[0]?.id ?? "";
  const days = useMemo(() => {
    const [first, last] = [parseDate(from), parseDate(until)];
    return first === undefined || last === undefined || last < first || last - first > 399
      ? undefined
      : Array.from({ length: last - first + 1 }, (_, index) => formatDate(first + index));
  }, [from, until]);
  const key = `${open} ${from} ${until}`;
  useEffect(() => {
    if (!days || open === "") return;
    let stale = false;
    actions.results(open, from, until, zone).then(
      (result) => {
        if (stale) return;
        setTold({ of: key, result });
        setProblem(undefined);
      },
      (error: unknown) => !stale && setProblem(whyNot(error)),
    );
    return () => {
      stale = true;
    };
  }, [actions, open, from, until, zone, days, key]);
  const result = told?.of === key ? told.result : undefined;
  const slot = known.get(open) ?? { id: open, name: open, variants: [] };
  const listed = told?.result.slots ?? [];
  const name = (id: string) => known.get(id)?.name ?? id;
  return (
    <main className="twopart links">
      <nav aria-label="What was counted">
        <h1>Results</h1>
        <div className="navtools">
          <div className="row">
            {[7, 14, 28].map((count) => (
              <Button
                key={count}
                aria-pressed={from === formatDate(today - count) && until === formatDate(today)}
                onClick={() => {
                  setFrom(formatDate(today - count));
                  setUntil(formatDate(today));
                }}
              >
                {count} days
              </Button>
            ))}
          </div>
          <div className="row">
            <TextField
              type="date"
              label="From"
              value={from}
              error={!days}
              onChange={(event) => setFrom(event.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <TextField
              type="date"
              label="To"
              value={until}
              error={!days}
              helperText={days ? undefined : "Up to 400 days, the first before the last"}
              onChange={(event) => setUntil(event.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          </div>
        </div>
        <ul>
          {[...known.values()].map((item) => {
            const count = listed.find((one) => one.slot === item.id)?.exposures ?? 0;
            const arms = item.variants.some((variant) => variant.arms.length > 1);
            return (
              <li key={item.id}>
                <button
                  type="button"
                  aria-current={item.id === open}
                  onClick={() => go(addressOf("/results", item.id))}
                >
                  <b>{item.name}</b> {arms && <span className="pill">test</span>}
                  <span className="quiet">{count === 0 ? "not seen in this time" : `seen ${plain(count)} times`}</span>
                </button>
              </li>
            );
          })}
        </ul>
      </nav>
      <div className="detail">
        {problem && (
          <p className="error" role="alert">
            {problem}
          </p>
        )}
        {!result ? (
          <p className="quiet">{problem ? "" : "Counting …"}</p>
        ) : result.rows.length === 0 ? (
          <p className="teaches wide">
            {name(open)} was not seen in this time. What visitors see is counted by itself once it is live: by the page
            script, and by the site’s own application where it decides in its process.
          </p>
        ) : (
          <SlotResults
            key={open}
            slot={slot}
            result={result}
            days={days ?? []}
            goal={goal}
            setGoal={setGoal}
            measure={measure}
            setMeasure={setMeasure}
            split={split}
            setSplit={setSplit}
            money={(minor) => formatMoney(minor, currency, language)}
            today={formatDate(today)}
          />
        )}
      </div>
    </main>
  );
}

interface SlotProps {
  slot: Counted;
  result: ResultsNow;
  days: readonly string[];
  goal: string | undefined;
  setGoal: (goal: string | undefined) => void;
  measure: Measure;
  setMeasure: (measure: Measure) => void;
  split: Exclude<Dimension, "day">;
  setSplit: (of: Exclude<Dimension, "day">) => void;
  money: (minor: number) => string;
  /** The day that has only begun. */
  today: string;
}

function SlotResults({
  slot,
  result,
  days,
  goal: wanted,
  setGoal,
  measure,
  setMeasure,
  split,
  setSplit,
  money,
  today,
}: SlotProps) {
  const { ruleset } = useDesk();
  const { rows, releases } = result;
  const goals = useMemo(() => goalsIn(rows), [rows]);
  const goal = wanted !== undefined && goals.includes(wanted) ? wanted : goals[0];
  const list = useMemo(
    () =>
      outcomes(
        rows.filter((row) => row.of === "day"),
        goal,
      ),
    [rows, goal],
  );
  const indexOf = (variant: string) => slot.variants.findIndex((item) => item.id === variant);
  const nameOf = ({ variant, arm }: Pick<Outcome, "variant" | "arm">) => {
    const found = slot.variants.find((item) => item.id === variant);
    const base = found?.name ?? (variant === "" ? "Fallback" : variant);
    return (found?.arms.length ?? 0) > 1 && arm
      ? slot.variants.length === 1
        ? `Arm ${arm}`
        : `${base}, arm ${arm}`
      : base;
  };
  const place = (item: Outcome) =>
    item.variant === ""
      ? 1e6
      : indexOf(item.variant) * 100 +
        (slot.variants[indexOf(item.variant)]?.arms.findIndex((arm) => arm.id === item.arm) ?? 0);
  const ordered = [...list].sort((a, b) => place(a) - place(b));
  const lines: Line[] = ordered.map((item) => ({
    variant: item.variant,
    arm: item.arm,
    name: nameOf(item),
    colour: indexOf(item.variant),
    dash:
      dashes[
        Math.max(0, slot.variants[indexOf(item.variant)]?.arms.findIndex((arm) => arm.id === item.arm) ?? 0) %
          dashes.length
      ] ?? [],
  }));
  const high = (hits: (item: Outcome) => number) =>
    Math.max(
      0.01,
      ...ordered
        .map((item) => wilson({ hits: hits(item), of: item.visitors })?.[1] ?? 0)
        .filter((_, index) => (ordered[index]?.visitors ?? 0) >= 20),
    );
  const [clickScale, goalScale] = [high((item) => item.clicked), high((item) => item.converted)];
  const colour = (variant: string) => (indexOf(variant) < 0 ? "var(--quiet)" : colourOf(indexOf(variant)));
  const { zone } = ruleset.site;
  const marks = releases
    .map((item) => ({
      release: item.release,
      why: item.why,
      day: formatDate(Math.floor(zoneOf(zone).toLocal(Date.parse(item.at)) / day)),
    }))
    .filter((item) => days.includes(item.day));
  return (
    <>
      <section className="stack" aria-label="By variant">
        <div className="row">
          <h2 style={{ flex: 1 }}>{slot.name}</h2>
          {goals.length > 1 && (
            <TextField
              select
              label="Goal"
              value={goal ?? ""}
              onChange={(event) => setGoal(event.target.value)}
              sx={{ width: 180 }}
            >
              {goals.map((item) => (
                <MenuItem key={item} value={item}>
                  {item}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Button
            onClick={() =>
              saveFile(`results-${slot.id.replaceAll(":", "-")}.csv`, resultsToCsv(rows, slot.id, goal), "text/csv")
            }
          >
            Save as CSV
          </Button>
        </div>
        <table className="grid">
          <thead>
            <tr>
              <th>Variant</th>
              <th className="num">Exposures</th>
              <th className="num" title="Visitors who agreed to be remembered, each once: rates are of them">
                Visitors
              </th>
              <th>Clicked</th>
              <th>{goal ? `Reached “${goal}”` : "Reached a goal"}</th>
              <th className="num">Value</th>
              <th className="num">a visitor</th>
            </tr>
          </thead>
          <tbody>
            {ordered.map((item) => (
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
                  <Rate
                    of={{ hits: item.clicked, of: item.visitors }}
                    most={clickScale}
                    colour={colour(item.variant)}
                  />
                </td>
                <td>
                  <Rate
                    of={{ hits: item.converted, of: item.visitors }}
                    most={goalScale}
                    colour={colour(item.variant)}
                  />
                </td>
                <td className="num">{money(item.value)}</td>
                <td className="num">{item.visitors > 0 ? money(Math.round(item.value / item.visitors)) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <span className="quiet">
          Rates are of visitors who agreed to be remembered, each counted once, with 95 % intervals (Wilson). Variants
          are shown to different visitors, by their rules: only arms are shared out by chance, so only between arms does
          a difference prove anything.
        </span>
      </section>
      {slot.variants
        .filter(
          (item) =>
            item.arms.length > 1 &&
            list.some((one) => one.variant === item.id || (slot.id.startsWith("popup:") && one.variant === item.id)),
        )
        .map((item) => (
          <TestView
            key={item.id}
            name={item.name}
            arms={item.arms}
            outcomes={list.filter((one) => one.variant === item.id)}
            did={goal ? `reached “${goal}”` : "clicked"}
            hits={(one) => (goal ? one.converted : one.clicked)}
            days={new Set(rows.flatMap((row) => (row.of === "day" && row.variant === item.id ? [row.key] : []))).size}
            colour={colour(item.id)}
          />
        ))}
      <section className="stack" aria-label="Over time">
        <div className="row">
          <h2 style={{ flex: 1 }}>Over time</h2>
          <TextField
            select
            label="What"
            value={measure}
            onChange={(event) => setMeasure(event.target.value as Measure)}
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
          measure={measure}
          releases={marks}
          today={today}
          currency={ruleset.site.currency}
        />
        <ul className="plain row wrap" aria-label="What went live">
          {marks.map((item) => (
            <li key={`${item.release} ${item.day}`} className="quiet">
              <b className="yes">R{item.release}</b> {dayLabel(item.day)}: {item.why || "without a note"}
            </li>
          ))}
        </ul>
      </section>
      <section className="stack" aria-label="By whom">
        <div className="row">
          <h2 style={{ flex: 1 }}>Who saw it</h2>
          {splits.map((item) => (
            <Button
              key={item.of}
              aria-pressed={split === item.of}
              variant={split === item.of ? "contained" : "outlined"}
              onClick={() => setSplit(item.of)}
            >
              {item.name}
            </Button>
          ))}
        </div>
        <table className="grid beside">
          <thead>
            <tr>
              <th>{splits.find((item) => item.of === split)?.name}</th>
              {ordered.map((item) => (
                <th key={`${item.variant}/${item.arm}`} className="num">
                  <span className="shownvariant">
                    <Swatch index={indexOf(item.variant)} />
                    {nameOf(item)}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {parted(rows, split, goal)
              .slice(0, 20)
              .map((part) => (
                <tr key={part.key}>
                  <td>{part.key === "" ? "not known" : split === "country" ? countryName(part.key) : part.key}</td>
                  {ordered.map((item) => {
                    const own = part.outcomes.find((one) => one.variant === item.variant && one.arm === item.arm);
                    const rate = own && rateOf({ hits: own.converted, of: own.visitors });
                    return (
                      <td key={`${item.variant}/${item.arm}`} className="num">
                        {own && own.exposures > 0 ? (
                          <>
                            {plain(own.exposures)}
                            {rate !== undefined && own.visitors >= 20 && (
                              <span className="quiet" title={`${own.converted} of ${own.visitors} visitors`}>
                                &ensp;{(rate * 100).toFixed(0)} %
                              </span>
                            )}
                          </>
                        ) : (
                          <span className="quiet">–</span>
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
          </tbody>
        </table>
        <span className="quiet">
          Exposures, and the share of visitors who {goal ? `reached “${goal}”` : "reached a goal"} where at least 20 are
          known.
        </span>
      </section>
    </>
  );
}
