import { usualConfidence } from "@/core/statistics/shares";
import { daysUntil, judgeTest, leastEach, type ArmShare, type ArmVerdict } from "@/core/statistics/verdict";
import type { Arm } from "@/core/formats/ruleset";
import { controlOf, type Outcome } from "@/core/results/results";
import { plain, share } from "../parts/numbers";
import { IntervalBar } from "./rate";

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
  /** How many goals it may be read by; 1: it was said beforehand which. */
  goals: number;
  /** What an arm is called: "Arm a". */
  armName: (arm: string) => string;
}

/** What may be said of a test: whether visitors were shared out as meant, and each arm beside the control. */
export function TestView({ name, arms, outcomes, did, hits, days, colour, goals, armName }: Props) {
  const shares = arms.map((arm) => {
    const found = outcomes.find((item) => item.arm === arm.id);
    return { id: arm.id, weight: arm.weight, hits: found ? hits(found) : 0, of: found?.visitors ?? 0 };
  });
  const control = controlOf(arms);
  const { ratio, mismatch, arms: judged } = judgeTest(shares, control?.id, goals);
  const controlName = !control ? "" : control.content === null ? "the control" : armName(control.id).toLowerCase();
  const allowed = [judged.length > 1 && "several arms", goals > 1 && `${goals} goals`].filter(Boolean).join(" and ");
  const spread = Math.max(0.001, ...judged.flatMap((item) => item.interval.map(Math.abs)));
  const best = judged.filter((item) => item.says === "better").sort((a, b) => b.by - a.by)[0];
  const seen = shares.reduce((sum, item) => sum + item.of, 0);
  return (
    <section className="stack test" aria-label={`Test: ${name}`}>
      <h2>The test in {name}</h2>
      <p className="serif big">
        {mismatch ? (
          <>Do not read this test: visitors were not shared out as its weights say.</>
        ) : best ? (
          <>
            <b>{armName(best.id)}</b> is better than {controlName}, as far as one may be sure.
          </>
        ) : judged.some((item) => item.says === "worse") && judged.every((item) => item.says !== "early") ? (
          <>Nothing is better than {controlName}.</>
        ) : (
          <>It is too early to tell.</>
        )}
      </p>
      <ul className="plain stack">
        {judged.map((item) => (
          <li key={item.id} className="testline">
            <span>
              <b>{armName(item.id)}</b>
            </span>
            <span className={item.says === "better" ? "yes" : item.says === "worse" ? "no" : "quiet"}>
              {verdictText(item, shares, control?.id, days)}
            </span>
            <span className="rate">
              <b>
                {item.by >= 0 ? "+" : "−"}
                {share(Math.abs(item.by)).replace(" %", "")} points
              </b>
              <IntervalBar interval={item.interval} at={item.by} from={-spread} to={spread} colour={colour} />
              <span className="quiet">
                {signed(item.interval[0])} to {signed(item.interval[1])}
              </span>
            </span>
            <details className="quiet">
              <summary>If it was planned to be looked at once, now</summary>
              {signed(item.once.interval[0])} to {signed(item.once.interval[1])} points
              {item.once.p === undefined
                ? ""
                : `, p = ${item.once.p < 0.0001 ? "under 0.0001" : item.once.p.toFixed(4)}`}{" "}
              (Newcombe
              {item.once.needed === undefined ? "" : `; one plans for about ${plain(item.once.needed)} visitors an arm`}
              ). Whoever looks more often is wrong by these far more often than once in twenty.
            </details>
          </li>
        ))}
      </ul>
      <span className="quiet">
        Of {plain(seen)} visitors who agreed to be remembered, the share who {did}, beside {controlName}. Look as often
        as you like, and stop when it says so: intervals hold at all looks together, in{" "}
        {Math.round(usualConfidence * 100)} of 100 tests (confidence sequences
        {allowed === "" ? "" : `, Bonferroni for ${allowed}`}), if the time begins with the test.{" "}
        {ratio === undefined
          ? "Nobody has seen it yet."
          : mismatch
            ? `Expected ${arms.map((arm) => arm.weight).join(" : ")}, seen ${shares.map((item) => plain(item.of)).join(" : ")} (sample ratio check, p = ${ratio.p.toExponential(1)}): look for a redirect, a cache or a bot that reaches one arm more.`
            : `Visitors were shared out as meant: ${shares.map((item) => `${item.id} ${plain(item.of)}`).join(", ")} (sample ratio check, p = ${ratio.p.toFixed(2)}).`}
      </span>
    </section>
  );
}

const signed = (value: number): string => `${value >= 0 ? "+" : "−"}${share(Math.abs(value)).replace(" %", "")}`;

const spanOf = (days: number): string => (days < 14 ? plural(days, "day") : plural(Math.round(days / 7), "week"));
const plural = (count: number, word: string): string => `${plain(count)} ${word}${count === 1 ? "" : "s"}`;

/** How long it takes until a difference like this one is told, at the traffic that there was. */
function wait(needed: number, of: readonly (ArmShare | undefined)[], days: number): string {
  const left = daysUntil(
    needed,
    of.flatMap((arm) => arm ?? []),
    days,
  );
  if (left === undefined)
    return " A difference as small as this one is not told within two years at this traffic: stop, or try something bolder.";
  return ` A difference of this size is told after about ${plain(needed)} visitors an arm: ${left === 0 ? "any day" : `in about ${spanOf(left)}`}, at this traffic.`;
}

function verdictText(item: ArmVerdict, shares: readonly ArmShare[], control: string | undefined, days: number): string {
  const sure = ` One may be ${item.p < 0.0001 ? "more than 99.99" : ((1 - item.p) * 100).toFixed(item.p < 0.01 ? 2 : 0)} % sure that it is no chance.`;
  switch (item.says) {
    case "mismatch":
      return "Not to be read.";
    case "better":
      return `Better.${sure}`;
    case "worse":
      return `Worse.${sure}`;
    case "early": {
      const both = [item.id, control].map((id) => shares.find((one) => one.id === id));
      const few = both.some((one) => one && Math.min(one.hits, one.of - one.hits) < leastEach);
      const needed = item.needed === undefined ? "" : wait(item.needed, both, days);
      return `Too early to tell: ${few ? `fewer than ${leastEach} did it, or did not` : "it may as well be chance"}.${needed}`;
    }
  }
}
