"use client";
import { said, t, text } from "@/core/messages/t";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Field } from "../field";

/** The usual repeats (RFC 5545), and how they are called. */
const usual = said({
  "FREQ=DAILY": text("every day"),
  "FREQ=WEEKLY": text("every week"),
  "FREQ=WEEKLY;INTERVAL=2": text("every two weeks"),
  "FREQ=MONTHLY": text("every month"),
  "FREQ=YEARLY": text("every year"),
});
type Usual = keyof typeof usual;
const isUsual = (repeat: string): repeat is Usual => Object.hasOwn(usual, repeat);

interface Props {
  repeat: string | undefined;
  /** Whether the schedule has a start: repeats count from it. */
  hasStart: boolean;
  /** What is wrong with a rule of one's own, or undefined. */
  problem: (repeat: string) => string | undefined;
  onChange: (repeat: string | undefined) => void;
}

/** How often a schedule comes again: a usual repeat, or a rule of one's own. */
export function RepeatField({ repeat, hasStart, problem, onChange }: Props) {
  const [own, setOwn] = useState(repeat !== undefined && !isUsual(repeat));
  const chosen = own ? "own" : (repeat ?? "");
  return (
    <>
      <TextField
        select
        label={t("Repeats")}
        value={chosen}
        disabled={!hasStart && chosen === ""}
        helperText={hasStart ? t("Counted from the start") : t("Give a start first: a repeat counts from it")}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        onChange={({ target: { value } }) => {
          setOwn(value === "own");
          if (value !== "own") onChange(value || undefined);
        }}
      >
        <MenuItem value="">{t("does not repeat")}</MenuItem>
        {Object.entries(usual).map(([rule, words]) => (
          <MenuItem key={rule} value={rule}>
            {words}
          </MenuItem>
        ))}
        <MenuItem value="own">{t("by a rule …")}</MenuItem>
      </TextField>
      {own && (
        <Field
          label={t("Rule (RRULE, RFC 5545)")}
          placeholder="FREQ=WEEKLY;INTERVAL=2;BYDAY=TU"
          value={repeat ?? ""}
          problem={(text) => (text.trim() === "" ? undefined : problem(text.trim()))}
          onCommit={(text) => onChange(text.trim() || undefined)}
        />
      )}
    </>
  );
}
