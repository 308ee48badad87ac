"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import * as z from "zod";
import type { SlotCounts } from "@/server/types";
import { dayLabel } from "../parts/charts";
import { Form } from "../parts/form/form";
import { FormDate } from "../parts/form/form-date";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";

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
  const shape = z.object({
    day: z.string().refine((day) => days.includes(day), { error: () => t("A day of those that are shown") }),
    says: saying(() => t("Say what happened")),
  });
  const form = useForm(shape, { day: today, says: "" });
  const { control, reset } = form;
  if (!open)
    return (
      <div className="row noprint">
        <Button
          autoFocus={back}
          onClick={() => {
            reset({ day: days.includes(today) ? today : (days.at(-1) ?? today), says: "" });
            setOpen(true);
          }}
        >
          {t("Note what happened")}
        </Button>
      </div>
    );
  return (
    <Form
      className="row noprint"
      style={{ alignItems: "flex-start" }}
      form={form}
      onSend={async ({ day, says }) => {
        if (await onAdd(day, says)) close();
      }}
    >
      <FormDate control={control} name="day" grain="day" label={t("On")} width={180} />
      <FormText
        control={control}
        name="says"
        label={t("What happened")}
        autoFocus
        slotProps={{ htmlInput: { maxLength: 200 } }}
        sx={{ flex: 1 }}
      />
      <Button type="submit" variant="contained">
        {t("Note it")}
      </Button>
      <Button onClick={close}>{t("Cancel")}</Button>
    </Form>
  );
}
