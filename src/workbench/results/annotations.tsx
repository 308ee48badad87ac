"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { SlotCounts } from "@/server/types";
import { dayLabel } from "../parts/charts";

type Annotation = SlotCounts["annotations"][number];

/** What happened meanwhile, by its number in the chart. */
export function AnnotationList({
  annotations,
  onDrop,
}: {
  annotations: readonly Annotation[];
  onDrop?: (annotation: Annotation) => void;
}) {
  if (annotations.length === 0) return null;
  return (
    <ul className="plain stack" style={{ gap: 2 }} aria-label={t("What happened")}>
      {annotations.map((item, index) => (
        <li key={item.id} className="row" style={{ gap: 6 }}>
          <span>
            <b>{index + 1}</b> {dayLabel(item.day)}: {item.says}
            {item.by && <span className="quiet"> ({item.by})</span>}
          </span>
          {onDrop && (
            <IconButton
              size="small"
              className="noprint"
              aria-label={t("Delete the note of {day}: {says}", { day: dayLabel(item.day), says: item.says })}
              onClick={() => onDrop(item)}
            >
              <Trash2 size={14} />
            </IconButton>
          )}
        </li>
      ))}
    </ul>
  );
}

interface Props {
  days: readonly string[];
  /** The day that is suggested. */
  today: string;
  /** Resolves once it is kept. */
  onAdd: (day: string, says: string) => Promise<boolean>;
}

/** Notes what happened on a day: a price that changed, a newsletter, a page that was down. */
export function NoteForm({ days, today, onAdd }: Props) {
  const [open, setOpen] = useState(false);
  /** Whoever has noted something stays where it is done. */
  const [back, setBack] = useState(false);
  const close = () => {
    setOpen(false);
    setBack(true);
  };
  const [day, setDay] = useState(today);
  const [says, setSays] = useState("");
  const outside = !days.includes(day);
  if (!open)
    return (
      <div className="row noprint">
        <Button
          autoFocus={back}
          onClick={() => {
            setDay(days.includes(today) ? today : (days.at(-1) ?? today));
            setOpen(true);
          }}
        >
          {t("Note what happened")}
        </Button>
      </div>
    );
  return (
    <form
      className="row noprint"
      style={{ alignItems: "flex-start" }}
      onSubmit={(event) => {
        event.preventDefault();
        if (outside || says.trim() === "") return;
        void onAdd(day, says.trim()).then((kept) => {
          if (!kept) return;
          setSays("");
          close();
        });
      }}
    >
      <TextField
        type="date"
        label={t("On")}
        value={day}
        error={outside}
        helperText={outside ? t("A day of those that are shown") : undefined}
        onChange={(event) => setDay(event.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <TextField
        label={t("What happened")}
        autoFocus
        value={says}
        onChange={(event) => setSays(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
        sx={{ flex: 1 }}
      />
      <Button type="submit" variant="contained" disabled={outside || says.trim() === ""}>
        {t("Note it")}
      </Button>
      <Button onClick={close}>{t("Cancel")}</Button>
    </form>
  );
}
