import { t } from "@/core/messages/t";
import type { ReactNode } from "react";
import type { Interval } from "@/core/statistics/shares";
import { IntervalBar } from "./rate";

interface Props {
  name: string;
  /** What may be said, and what may be said of the whole of it. */
  verdict: string;
  says: string;
  by: number;
  interval: Interval;
  /** How far the scale goes to either side. */
  spread: number;
  colour: string;
  /** A difference in words, with its sign: the first alone with its unit. */
  signed: (value: number) => string;
  unit?: string;
  /** What whoever planned to look once may say. */
  once: ReactNode;
}

/** One arm beside the control: what may be said, by how much, with its interval. */
export function TestLine({ name, verdict, says, by, interval, spread, colour, signed, unit = "", once }: Props) {
  return (
    <li className="testline">
      <span>
        <b>{name}</b>
      </span>
      <span className={says === "better" ? "yes" : says === "worse" ? "no" : "quiet"}>{verdict}</span>
      <span className="rate">
        <b>
          {signed(by)}
          {unit}
        </b>
        <IntervalBar interval={interval} at={by} from={-spread} to={spread} colour={colour} />
        <span className="quiet">
          {t("{interval} to {interval2}", { interval: signed(interval[0]), interval2: signed(interval[1]) })}
        </span>
      </span>
      <details className="quiet">
        <summary>{t("If it was planned to be looked at once, now")}</summary>
        {once}
      </details>
    </li>
  );
}
