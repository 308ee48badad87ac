import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import { usualConfidence } from "@/core/statistics/shares";
import { judgeTest, leastEach, type ArmShare, type ArmVerdict } from "@/core/statistics/verdict";
import type { Arm } from "@/core/formats/ruleset";
import { controlOf, type Outcome } from "@/core/results/results";
import type { ValueRow } from "@/core/results/worth";
import { plain, share } from "../parts/numbers";
import { TestLine } from "./test-line";
import { TestWorth } from "./test-worth";
import { sureText, waitText } from "./words";

interface Props {
  name: string;
  arms: readonly Arm[];
  outcomes: readonly Outcome[];
  /** What is hoped for, in words: "reached “order”". */
  did: string;
  hits: (outcome: Outcome) => number;
  /** On so many days something was counted. */
  days: number;
  colour: string;
  /** How many goals and values the goal is read among; 1: it was said beforehand that it is read first. */
  goals: number;
  /** What visitors brought who reached the goal; empty: it has no worth. */
  values: readonly ValueRow[];
  /** How many goals and values there are in all. */
  readings: number;
  money: (minor: number) => string;
  /** What an arm is called: "Arm a". */
  armName: (arm: string) => string;
}

/** What may be said of a test: whether visitors were shared out as meant, and each arm beside the control. */
export function TestView(props: Props) {
  const { name, arms, outcomes, did, hits, days, colour, goals, values, readings, money, armName } = props;
  const shares = arms.map((arm) => {
    const found = outcomes.find((item) => item.arm === arm.id);
    return { id: arm.id, weight: arm.weight, hits: found ? hits(found) : 0, of: found?.visitors ?? 0 };
  });
  const control = controlOf(arms);
  const { ratio, mismatch, arms: judged } = judgeTest(shares, control?.id, goals);
  const controlName = !control ? "" : control.content === null ? t("the control") : armName(control.id).toLowerCase();
  const allowed = [judged.length > 1 && t("several arms"), goals > 1 && t("{goals} readings", { goals })]
    .filter(Boolean)
    .join(` ${t("and")} `);
  const spread = Math.max(0.001, ...judged.flatMap((item) => item.interval.map(Math.abs)));
  const best = judged.filter((item) => item.says === "better").sort((a, b) => b.by - a.by)[0];
  const seen = shares.reduce((sum, item) => sum + item.of, 0);
  return (
    <section className="stack test" aria-label={t("Test: {name}", { name })}>
      <h2>{t("The test in {name}", { name })}</h2>
      <p className="serif big">
        {mismatch ? (
          <>{t("Do not read this test: visitors were not shared out as its weights say.")}</>
        ) : best ? (
          <>
            {rich("{best} is better than {controlName}, as far as one may be sure.", {
              best: <b>{armName(best.id)}</b>,
              controlName,
            })}
          </>
        ) : judged.some((item) => item.says === "worse") && judged.every((item) => item.says !== "early") ? (
          <>{t("Nothing is better than {controlName}.", { controlName })}</>
        ) : (
          <>{t("It is too early to tell.")}</>
        )}
      </p>
      <ul className="plain stack">
        {judged.map((item) => (
          <TestLine
            key={item.id}
            name={armName(item.id)}
            verdict={verdictText(item, shares, control?.id, days)}
            {...{ says: item.says, by: item.by, interval: item.interval, spread, colour, signed }}
            unit={` ${t("points")}`}
            once={
              <>
                {t(
                  "{interval} to {interval2} points{p} (Newcombe{needed}). With more looks these are wrong far more often than once in twenty.",
                  {
                    interval: signed(item.once.interval[0]),
                    interval2: signed(item.once.interval[1]),
                    p:
                      item.once.p === undefined
                        ? ""
                        : `, p = ${item.once.p < 0.0001 ? t("under 0.0001") : item.once.p.toFixed(4)}`,
                    needed:
                      item.once.needed === undefined
                        ? ""
                        : t("; one plans for about {needed} visitors an arm", { needed: plain(item.once.needed) }),
                  },
                )}
              </>
            }
          />
        ))}
      </ul>
      <span className="quiet">
        {t(
          "Of {seen} visitors who gave consent, the share who {did}, beside {controlName}. Look as often as you like, and stop when it says so: intervals hold at all looks together, in {usualConfidence} of 100 tests (confidence sequences{allowed}), if the time begins with the test.",
          {
            seen: plain(seen),
            did,
            controlName,
            usualConfidence: Math.round(usualConfidence * 100),
            allowed: allowed === "" ? "" : t(", Bonferroni for {allowed}", { allowed }),
          },
        )}{" "}
        {ratio === undefined
          ? t("No visitor has seen it yet.")
          : mismatch
            ? t(
                "Expected {arms}, seen {shares} (sample ratio check, p = {toExponential}): look for a redirect, a cache or a bot that reaches one arm more.",
                {
                  arms: arms.map((arm) => arm.weight).join(" : "),
                  shares: shares.map((item) => plain(item.of)).join(" : "),
                  toExponential: ratio.p.toExponential(1),
                },
              )
            : t("Visitors were shared out as meant: {shares} (sample ratio check, p = {p}).", {
                shares: shares.map((item) => `${item.id} ${plain(item.of)}`).join(", "),
                p: ratio.p.toFixed(2),
              })}
      </span>
      {control && !mismatch && values.length > 0 && (
        <TestWorth
          control={{ id: control.id, name: controlName }}
          {...{ arms, outcomes, values, did, readings, days, colour, armName, money }}
        />
      )}
    </section>
  );
}

const signed = (value: number): string => `${value >= 0 ? "+" : "−"}${share(Math.abs(value)).replace(" %", "")}`;

function verdictText(item: ArmVerdict, shares: readonly ArmShare[], control: string | undefined, days: number): string {
  switch (item.says) {
    case "mismatch":
      return t("Not to be read.");
    case "better":
      return t("Better. {p}", { p: sureText(item.p) });
    case "worse":
      return t("Worse. {p}", { p: sureText(item.p) });
    case "early": {
      const both = shares.filter(({ id }) => id === item.id || id === control);
      const few = both.some((one) => Math.min(one.hits, one.of - one.hits) < leastEach);
      return t("Too early to tell: {few}.{waitText}", {
        few: few ? t("fewer than {leastEach} did it, or did not", { leastEach }) : t("it may as well be chance"),
        waitText: waitText(item.needed, both, days),
      });
    }
  }
}
