"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { formatDate, parseDate } from "@/core/calendar/calendar";
import { DateField } from "../parts/dates/date-field";

/** The longest time that results are shown for, in days. */
const longest = 400;

/** The days from one (YYYY-MM-DD) until another, both counted; undefined where results are not shown for so many. */
export function daysOf(from: string, until: string): string[] | undefined {
  const [first, last] = [parseDate(from), parseDate(until)];
  return first === undefined || last === undefined || last < first || last - first >= longest
    ? undefined
    : Array.from({ length: last - first + 1 }, (_, index) => formatDate(first + index));
}

interface Props {
  from: string;
  until: string;
  /** By its day number. */
  today: number;
  onFrom: (day: string) => void;
  onUntil: (day: string) => void;
}

/** For which days results are shown: the last ones, or from one day to another. */
export function SpanFields({ from, until, today, onFrom, onUntil }: Props) {
  const missing = (text: string) => (text === "" ? t("Choose a date that exists") : undefined);
  return (
    <>
      <div className="row">
        {[7, 14, 28].map((count) => (
          <Button
            key={count}
            aria-pressed={from === formatDate(today - count) && until === formatDate(today)}
            onClick={() => {
              onFrom(formatDate(today - count));
              onUntil(formatDate(today));
            }}
          >
            {t("{count} days", { count })}
          </Button>
        ))}
      </div>
      <div className="row">
        <DateField grain="day" label={t("From")} value={from} problem={missing} onCommit={onFrom} />
        <DateField
          grain="day"
          label={t("To")}
          value={until}
          problem={missing}
          known={daysOf(from, until) ? undefined : t("Up to 400 days, the first before the last")}
          onCommit={onUntil}
        />
      </div>
    </>
  );
}
