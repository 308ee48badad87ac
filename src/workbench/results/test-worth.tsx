import { t } from "@/core/messages/t";
import type { Outcome } from "@/core/results/results";
import { boundedShare, boundOf, worthOf, type ValueRow } from "@/core/results/worth";
import { judgeWorth, leastSome, type WorthVerdict } from "@/core/statistics/worth";
import { plain } from "../parts/numbers";
import { TestLine } from "./test-line";
import { sureText, waitText } from "./words";

interface Props {
  /** The arm that the others are compared with, and what it is called. */
  control: { id: string; name: string };
  arms: readonly { id: string; weight: number }[];
  outcomes: readonly Outcome[];
  /** What was brought in this test when each visitor reached the goal for the first time. */
  values: readonly ValueRow[];
  did: string;
  /** How many goals and values the test may be read by. */
  readings: number;
  days: number;
  colour: string;
  armName: (arm: string) => string;
  money: (minor: number) => string;
}

/** By how much a visitor of each arm was worth more than one of the control. */
export function TestWorth(props: Props) {
  const { control, arms, outcomes, values, did, readings, days, colour, armName, money } = props;
  const bound = boundOf(values);
  const worths = arms
    .filter((arm) => arm.weight > 0)
    .map(({ id }) => {
      const visitors = outcomes.find((item) => item.arm === id)?.visitors ?? 0;
      return {
        id,
        ...worthOf(
          values.filter((row) => row.arm === id),
          visitors,
          bound,
        ),
      };
    });
  const base = worths.find(({ id }) => id === control.id);
  const others = worths.filter(({ id }) => id !== control.id);
  if (!base) return null;
  const judged = judgeWorth(base, others, others.length * readings);
  const spread = Math.max(1, ...judged.flatMap((item) => item.interval.map(Math.abs)));
  const some = worths.reduce((sum, item) => sum + item.some, 0);
  const signed = (minor: number) => `${minor >= 0 ? "+" : "−"}${money(Math.round(Math.abs(minor)))}`;
  return (
    <>
      <h3>{t("What a visitor was worth")}</h3>
      <ul className="plain stack" aria-label={t("What a visitor was worth")}>
        {judged.map((item) => (
          <TestLine
            key={item.id}
            name={armName(item.id)}
            verdict={verdictText(item, [base, ...others.filter(({ id }) => id === item.id)], days)}
            {...{ says: item.says, by: item.by, interval: item.interval, spread, colour, signed }}
            once={t("{once} to {once2}. With more looks this is wrong far more often than once in twenty.", {
              once: signed(item.once[0]),
              once2: signed(item.once[1]),
            })}
          />
        ))}
      </ul>
      <span className="quiet">
        {t(
          "Beside {control}, by what each visitor brought who {did}, the first time. Of {some} values {some2}. Read beside the goal itself, so its intervals are wider ({readings} readings, Bonferroni); they hold at all looks, too.",
          {
            control: control.name,
            did,
            some: plain(some),
            some2:
              bound === Infinity
                ? some < 1 / boundedShare
                  ? t("none is bounded: that begins with a hundred of them")
                  : t("none stands out, so none is bounded")
                : t(
                    "the largest, 1 in {boundedShare} at most, count as {bound}, so that a few very large ones decide nothing",
                    { boundedShare: Math.round(1 / boundedShare), bound: money(Math.round(bound)) },
                  ),
            readings,
          },
        )}
      </span>
    </>
  );
}

function verdictText(item: WorthVerdict, both: readonly { of: number }[], days: number): string {
  switch (item.says) {
    case "better":
      return t("Worth more. {p}", { p: sureText(item.p) });
    case "worse":
      return t("Worth less. {p}", { p: sureText(item.p) });
    case "few":
      return t("Too early to tell: fewer than {leastSome} in one of the arms brought anything.", { leastSome });
    case "early":
      return t("Too early to tell: it may as well be chance.{waitText}", {
        waitText: waitText(item.needed, both, days),
      });
  }
}
