"use client";
import { t } from "@/core/messages/t";
import { zonePhrase } from "@/core/rules/phrases";
import { parseLocal } from "@/core/calendar/calendar";
import { useDesk } from "./desk/desk";
import { Field } from "./field";

interface Props {
  label: string;
  value: string | undefined;
  /** The bounds it must keep to, if they are set. */
  after?: string | undefined;
  before?: string | undefined;
  onCommit: (value: string | undefined) => void;
}

/** A date and time of the site's zone, which stands beside it; empty is no bound. */
export function LocalField({ label, value, after, before, onCommit }: Props) {
  const { ruleset } = useDesk();
  return (
    <Field
      type="datetime-local"
      label={label}
      helperText={zonePhrase(ruleset.site.zone)}
      value={value ?? ""}
      slotProps={{ inputLabel: { shrink: true } }}
      problem={(text) =>
        text === ""
          ? undefined
          : parseLocal(text) === undefined
            ? t("Choose a date and a time that exist")
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
