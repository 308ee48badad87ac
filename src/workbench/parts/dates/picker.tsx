"use client";
import { AdapterDayjs } from "@mui/x-date-pickers/AdapterDayjs";
import { DesktopDatePicker } from "@mui/x-date-pickers/DesktopDatePicker";
import { DesktopDateTimePicker } from "@mui/x-date-pickers/DesktopDateTimePicker";
import { LocalizationProvider } from "@mui/x-date-pickers/LocalizationProvider";
import { deDE, enUS, ptPT } from "@mui/x-date-pickers/locales";
import type { Dayjs } from "dayjs";
import "dayjs/locale/de.js";
import "dayjs/locale/en-gb.js";
import "dayjs/locale/pt.js";
import { CalendarDays } from "lucide-react";
import { useState } from "react";
import { locale } from "@/core/messages/t";
import { momentOf, textOf, unfinished, type Grain } from "./moments";

interface Props {
  label: string;
  grain: Grain;
  /** What it says, as `moments.ts` writes it. */
  text: string;
  wrong: string | undefined;
  helperText: string | undefined;
  autoFocus?: boolean;
  width?: number;
  onType: (text: string) => void;
  onLeave: () => void;
}

/** By the language of the interface: how Day.js calls it, and the words of the calendar. */
const spoken: Readonly<Record<string, { dates: string; words: typeof enUS }>> = {
  de: { dates: "de", words: deDE },
  pt: { dates: "pt", words: ptPT },
};
const english = { dates: "en-gb", words: enUS };

const CalendarIcon = () => <CalendarDays size={16} />;

/** The field of a date with its calendar, and the hours and minutes beside it where it is told by the minute. */
export function Picker({ label, grain, text, wrong, helperText, autoFocus, width, onType, onLeave }: Props) {
  const { dates, words } = spoken[locale().slice(0, 2)] ?? english;
  // While a part of it is typed, the parts that are there stay.
  const [held, setHeld] = useState<{ text: string; moment: Dayjs | null }>(() => ({ text, moment: momentOf(text) }));
  // What is unfinished was typed here, and is held: no other date says it.
  if (held.text !== text && text !== unfinished) setHeld({ text, moment: momentOf(text) });
  const [inside, setInside] = useState(false);
  const typing = inside && text === unfinished;
  const problem = typing ? undefined : wrong;
  const shared = {
    label,
    value: held.moment,
    timezone: "UTC",
    onChange(moment: Dayjs | null) {
      const next = textOf(moment, grain);
      setHeld({ text: next, moment });
      onType(next);
    },
    onClose: onLeave,
    slots: { openPickerIcon: CalendarIcon },
    slotProps: {
      textField: {
        size: "small" as const,
        fullWidth: true,
        error: problem !== undefined,
        helperText: problem ?? helperText,
      },
      field: { clearable: true },
      openPickerButton: { size: "small" as const, sx: { p: 1 } },
      clearButton: { size: "small" as const, sx: { p: 1 } },
    },
    autoFocus: autoFocus ?? false,
  };
  return (
    <LocalizationProvider
      dateAdapter={AdapterDayjs}
      adapterLocale={dates}
      localeText={words.components.MuiLocalizationProvider.defaultProps.localeText}
    >
      {/* Its buttons are of the field, too: it is left when the keyboard is on none of it. */}
      <div
        className="datefield"
        style={width === undefined ? {} : { width }}
        onFocus={() => setInside(true)}
        onBlur={({ currentTarget, relatedTarget }) => {
          if (currentTarget.contains(relatedTarget)) return;
          setInside(false);
          onLeave();
        }}
      >
        {grain === "day" ? <DesktopDatePicker {...shared} /> : <DesktopDateTimePicker {...shared} ampm={false} />}
      </div>
    </LocalizationProvider>
  );
}
