import { usualConfidence, type Share } from "@/core/statistics/shares";
import { judgeTest, leastEach, type ArmVerdict } from "@/core/statistics/verdict";
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
  colour: string;
}

/** What may be said of a test: whether visitors were shared out as meant, and each arm beside the control. */
export function TestView({ name, arms, outcomes, did, hits, colour }: Props) {
  const shares = arms.map((arm) => {
    const found = outcomes.find((item) => item.arm === arm.id);
    return { id: arm.id, weight: arm.weight, hits: found ? hits(found) : 0, of: found?.visitors ?? 0 };
  });
  const control = controlOf(arms);
  const { ratio, mismatch, arms: judged } = judgeTest(shares, control?.id);
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
            Arm <b>{best.id}</b> is better than{" "}
            {control?.content === null ? (
              "the control"
            ) : (
              <>
                arm <b>{control?.id}</b>
              </>
            )}
            , as far as one may be sure.
          </>
        ) : judged.some((item) => item.says === "worse") && judged.every((item) => item.says !== "early") ? (
          <>No arm is better than {control?.content === null ? "the control" : `arm ${control?.id}`}.</>
        ) : (
          <>It is too early to tell.</>
        )}
      </p>
      <ul className="plain stack">
        {judged.map((item) => (
          <li key={item.id} className="testline">
            <span>
              Arm <b>{item.id}</b>
            </span>
            <span className={item.says === "better" ? "yes" : item.says === "worse" ? "no" : "quiet"}>
              {verdictText(item, shares, control?.id)}
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
          </li>
        ))}
      </ul>
      <span className="quiet">
        Of {plain(seen)} visitors who agreed to be remembered, the share who {did}, beside{" "}
        {control?.content === null ? "the control" : `arm ${control?.id}`}. Intervals at{" "}
        {Math.round(usualConfidence * 100)} % (Newcombe; Bonferroni for several arms).{" "}
        {ratio === undefined
          ? "Nobody has seen it yet."
          : mismatch
            ? `Expected ${arms.map((arm) => arm.weight).join(" : ")}, seen ${shares.map((item) => plain(item.of)).join(" : ")} (sample ratio check, p = ${ratio.p.toExponential(1)}): look for a redirect, a cache or a bot that reaches one arm more.`
            : `Visitors were shared out as meant: ${shares.map((item) => `${item.id} ${plain(item.of)}`).join(", ")} (sample ratio check, p = ${ratio.p.toFixed(2)}).`}{" "}
        Who looks every day finds a difference by chance sooner or later: decide beforehand how long it runs.
      </span>
    </section>
  );
}

const signed = (value: number): string => `${value >= 0 ? "+" : "−"}${share(Math.abs(value)).replace(" %", "")}`;

function verdictText(
  item: ArmVerdict,
  shares: readonly (Share & { id: string })[],
  control: string | undefined,
): string {
  const sure =
    item.p === undefined
      ? ""
      : ` One may be ${item.p < 0.0001 ? "more than 99.99" : ((1 - item.p) * 100).toFixed(item.p < 0.01 ? 2 : 0)} % sure that it is no chance.`;
  switch (item.says) {
    case "mismatch":
      return "Not to be read.";
    case "better":
      return `Better.${sure}`;
    case "worse":
      return `Worse.${sure}`;
    case "early": {
      const few = [item.id, control].some((id) =>
        shares.some((one) => one.id === id && Math.min(one.hits, one.of - one.hits) < leastEach),
      );
      const needed =
        item.needed === undefined
          ? ""
          : ` A difference of this size takes about ${plain(item.needed)} visitors an arm.`;
      return `Too early to tell: ${few ? `fewer than ${leastEach} did it, or did not` : "it may as well be chance"}.${needed}`;
    }
  }
}
