"use client";
import dynamic from "next/dynamic";
import { parseDate, parseLocal } from "@/core/calendar/calendar";
import { t } from "@/core/messages/t";
import { zonePhrase } from "@/core/rules/phrases";
import { useDesk } from "../desk/desk";
import { useTyped } from "../use-typed";
import type { Grain } from "./moments";

export interface DateFieldProps {
  label: string;
  /** `YYYY-MM-DD`, or `YYYY-MM-DDTHH:MM` by the minute; empty: none. */
  value: string;
  grain: Grain;
  /** Called with such a text, or an empty one, a moment after the last change and when the field is left. */
  onCommit: (text: string) => void;
  /** What is wrong with a date that exists, or with none: it is shown at the field, and not committed. */
  problem?: ((text: string) => string | undefined) | undefined;
  /** A problem that is known from elsewhere. */
  known?: string | undefined;
  helperText?: string | undefined;
  delay?: number;
  autoFocus?: boolean;
  width?: number;
}

const Picker = dynamic(() => import("./picker").then((module) => module.Picker), {
  ssr: false,
  loading: () => <div className="datefield" style={{ minHeight: 31 }} aria-busy />,
});

/** A date, typed or chosen from a calendar, with a time of the day by the minute; kept until it is good, as other fields are. */
export function DateField({ value, grain, onCommit, problem, known, helperText, delay, ...rest }: DateFieldProps) {
  const exists = grain === "day" ? parseDate : parseLocal;
  const wrongIn = (text: string) =>
    text !== "" && exists(text) === undefined
      ? grain === "day"
        ? t("Choose a date that exists")
        : t("Choose a date and a time that exist")
      : problem?.(text);
  const { text, type, leave } = useTyped({
    value,
    onCommit,
    problem: wrongIn,
    ...(delay === undefined ? {} : { delay }),
  });
  return (
    <Picker
      {...rest}
      grain={grain}
      text={text}
      wrong={wrongIn(text) ?? known}
      helperText={helperText}
      onType={type}
      onLeave={leave}
    />
  );
}

interface LocalProps {
  label: string;
  value: string | undefined;
  /** The bounds it must keep to, if they are set. */
  after?: string | undefined;
  before?: string | undefined;
  onCommit: (value: string | undefined) => void;
}

/** A date and time of the site's zone, which stands beside it; empty is no bound. */
export function LocalField({ label, value, after, before, onCommit }: LocalProps) {
  const { ruleset } = useDesk();
  return (
    <DateField
      grain="minute"
      label={label}
      helperText={zonePhrase(ruleset.site.zone)}
      value={value ?? ""}
      problem={(text) =>
        text === ""
          ? undefined
          : after && text <= after
            ? t("It must be later than the beginning")
            : before && text >= before
              ? t("It must be earlier than the end")
              : undefined
      }
      onCommit={(text) => onCommit(text || undefined)}
    />
  );
}
