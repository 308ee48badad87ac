import { t } from "@/core/messages/t";
import { rateOf, wilson, type Interval, type Share } from "@/core/statistics/shares";
import { share } from "../parts/numbers";

/** A share with Wilson's interval: in figures, and as a bar on a scale that ends at `most`. */
export function Rate({ of, most, colour }: { of: Share; most: number; colour: string }) {
  const rate = rateOf(of);
  const interval = wilson(of);
  if (rate === undefined || !interval) return <span className="quiet">–</span>;
  return (
    <span
      className="rate"
      title={t("95 % sure between {interval} and {interval2}", {
        interval: share(interval[0]),
        interval2: share(interval[1]),
      })}
    >
      <b>{share(rate)}</b>
      <IntervalBar interval={interval} at={rate} from={0} to={most} colour={colour} />
      <span className="quiet">
        {share(interval[0]).replace(" %", "")} – {share(interval[1])}
      </span>
    </span>
  );
}

/** An interval on a scale, its middle value marked; 0 is drawn if it lies within. */
export function IntervalBar({
  interval,
  at,
  from,
  to,
  colour,
}: {
  interval: Interval;
  at: number;
  from: number;
  to: number;
  colour: string;
}) {
  const x = (value: number) => `${(100 * (Math.min(to, Math.max(from, value)) - from)) / (to - from || 1)}%`;
  return (
    <svg className="intervalbar" aria-hidden>
      <line x1="0" x2="100%" y1="7" y2="7" stroke="var(--hair)" />
      {from < 0 && <line x1={x(0)} x2={x(0)} y1="0" y2="14" stroke="var(--quiet)" strokeDasharray="2 2" />}
      <line
        x1={x(interval[0])}
        x2={x(interval[1])}
        y1="7"
        y2="7"
        stroke={colour}
        strokeWidth="4"
        strokeOpacity="0.45"
      />
      <circle cx={x(at)} cy="7" r="3.5" fill={colour} />
    </svg>
  );
}
