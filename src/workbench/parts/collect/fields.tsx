"use client";
import { t } from "@/core/messages/t";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { allCollectable } from "@/core/collect/sources";
import { useDesk } from "../desk/desk";

interface SignalProps {
  value: string;
  onChange: (signal: string) => void;
  label: string;
}
/** Chooses what a value is: the cart's, a fact of the page, or a declared field. */
export function CollectSignal({ value, onChange, label }: SignalProps) {
  const { ruleset } = useDesk();
  return (
    <TextField select label={label} value={value} onChange={(event) => onChange(event.target.value)} fullWidth>
      {allCollectable(ruleset).map(({ signal, name }) => (
        <MenuItem key={signal} value={signal}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

interface DecimalProps {
  value: "." | ",";
  onChange: (decimal: "." | ",") => void;
}
/** Chooses how numbers are written on the page. */
export function DecimalSign({ value, onChange }: DecimalProps) {
  return (
    <TextField
      select
      label={t("Numbers are written")}
      value={value}
      onChange={(event) => onChange(event.target.value as "." | ",")}
      fullWidth
    >
      <MenuItem value=".">{t("1,234.50 – a point before the decimals")}</MenuItem>
      <MenuItem value=",">{t("1.234,50 – a comma before the decimals")}</MenuItem>
    </TextField>
  );
}
