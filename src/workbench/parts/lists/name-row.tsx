"use client";
import { t } from "@/core/messages/t";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { Field } from "../field";

interface Props {
  name: string;
  onName: (name: string) => void;
  /** Whether it is switched on; left out for things that have no switch. */
  on?: boolean;
  onSwitch?: (on: boolean) => void;
}

/** The first row of a thing's editor: its name and, where it has one, its switch. */
export function NameRow({ name, onName, on, onSwitch }: Props) {
  return (
    <div className="row" style={{ alignItems: "flex-start" }}>
      <Field
        label={t("Name")}
        value={name}
        problem={(text) => (text.trim() === "" ? t("Give it a name") : undefined)}
        onCommit={onName}
      />
      {on !== undefined && onSwitch && (
        <FormControlLabel
          sx={{ flex: "none", mr: 0 }}
          control={<Switch checked={on} onChange={(event) => onSwitch(event.target.checked)} />}
          label={on ? t("On") : t("Off")}
        />
      )}
    </div>
  );
}
