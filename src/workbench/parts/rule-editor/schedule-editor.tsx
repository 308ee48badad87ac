"use client";
import { said, t, text } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { X } from "lucide-react";
import { useState } from "react";
import { scheduleSchema, type Schedule } from "@/core/formats/schedule";
import { dayNames, parseClock, type DayName } from "@/core/calendar/calendar";
import { zonePhrase } from "@/core/rules/phrases";
import { DateField } from "../dates/date-field";
import { Field } from "../field";
import { zones } from "../zones";
import { HourGrid } from "./hour-grid";
import { RepeatField } from "./repeat-field";

interface Props {
  schedule: Schedule;
  siteZone: string;
  onChange: (schedule: Schedule) => void;
}

const choices = ["site", "visitor", ...zones];
const short = said([text("Mon"), text("Tue"), text("Wed"), text("Thu"), text("Fri"), text("Sat"), text("Sun")]);

/** Says when: weekdays, hours, first and last moment, dates and repeats, with the zone beside them. */
export function ScheduleEditor({ schedule, siteZone, onChange }: Props) {
  const [more, setMore] = useState(Boolean(schedule.from ?? schedule.until ?? schedule.dates ?? schedule.repeat));
  const set = (change: Partial<Schedule>) => {
    const next: Record<string, unknown> = { ...schedule, ...change };
    for (const key of Object.keys(next))
      if (next[key] === undefined || (Array.isArray(next[key]) && next[key].length === 0)) delete next[key];
    onChange(next as Schedule);
  };
  /** The problem that a change would make, if any: it is then said at the field and not saved. */
  const problemOf = (change: Partial<Schedule>, key: string): string | undefined => {
    const next: Record<string, unknown> = { ...schedule, ...change };
    for (const name of Object.keys(next)) if (next[name] === undefined) delete next[name];
    const read = scheduleSchema.safeParse(next);
    return read.success
      ? undefined
      : (read.error.issues.find((issue) => issue.path[0] === key)?.message ?? read.error.issues[0]?.message);
  };
  const windows = schedule.windows ?? [];
  const name = (zone: string) =>
    zone === "site"
      ? t("{siteZone} (the site’s)", { siteZone: zonePhrase(siteZone) })
      : zone === "visitor"
        ? t("the visitor’s own time")
        : zone;
  const local = (key: "from" | "until", label: string) => (
    <DateField
      grain="minute"
      label={label}
      value={schedule[key] ?? ""}
      problem={(text) =>
        text === ""
          ? undefined
          : key === "until" && schedule.from && schedule.from >= text
            ? t("It must be later than the start")
            : problemOf({ [key]: text }, key)
      }
      onCommit={(text) => set({ [key]: text || undefined })}
    />
  );
  return (
    <div className="stack">
      <Autocomplete
        disableClearable
        options={choices}
        value={schedule.zone}
        getOptionLabel={name}
        onChange={(_, zone) => set({ zone })}
        renderInput={(input) => <TextField {...input} label={t("Time zone")} />}
      />
      <HourGrid schedule={schedule} zone={name(schedule.zone)} onChange={set} />
      <ToggleButtonGroup
        size="small"
        value={schedule.days ?? []}
        onChange={(_, days: DayName[]) => set({ days: dayNames.filter((day) => days.includes(day)) })}
        aria-label={t("Weekdays")}
        fullWidth
      >
        {dayNames.map((day, index) => (
          <ToggleButton key={day} value={day} sx={{ px: 1 }}>
            {short[index]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {windows.map((window, index) => {
        const replace = (change: Partial<typeof window>) =>
          set({ windows: windows.map((item, i) => (i === index ? { ...item, ...change } : item)) });
        const past = (parseClock(window.end, true) ?? 0) <= (parseClock(window.start) ?? 0);
        return (
          <div key={index}>
            <div className="row" style={{ alignItems: "flex-start" }}>
              <Field
                label={t("From")}
                value={window.start}
                problem={(text) => (parseClock(text) === undefined ? t("A time such as 09:30") : undefined)}
                onCommit={(start) => replace({ start })}
              />
              <Field
                label={t("To")}
                value={window.end}
                problem={(text) => (parseClock(text, true) === undefined ? t("A time up to 24:00") : undefined)}
                onCommit={(end) => replace({ end })}
              />
              <IconButton
                onClick={() => set({ windows: windows.filter((_, i) => i !== index) })}
                aria-label={t("Remove the hours {start} to {end}", { start: window.start, end: window.end })}
              >
                <X size={15} />
              </IconButton>
            </div>
            {past && <span className="quiet">{t("Runs past midnight, into the next day.")}</span>}
          </div>
        );
      })}
      <div className="row">
        <Button onClick={() => set({ windows: [...windows, { start: "09:00", end: "18:00" }] })}>
          {windows.length === 0 ? t("Only at certain hours") : t("Add hours")}
        </Button>
        {!more && <Button onClick={() => setMore(true)}>{t("Dates and repeats")}</Button>}
      </div>
      {more && (
        <>
          {local("from", t("Starts"))}
          {local("until", t("Ends before"))}
          <Field
            label={t("Only on these dates")}
            placeholder="12-25, 2026-12-31"
            value={(schedule.dates ?? []).join(", ")}
            helperText={t("MM-DD is every year, YYYY-MM-DD is once")}
            problem={(text) => (text.trim() === "" ? undefined : problemOf({ dates: listOf(text) }, "dates"))}
            onCommit={(text) => set({ dates: listOf(text) })}
          />
          <RepeatField
            repeat={schedule.repeat}
            hasStart={schedule.from !== undefined}
            problem={(repeat) => problemOf({ repeat }, "repeat")}
            onChange={(repeat) => set({ repeat })}
          />
        </>
      )}
    </div>
  );
}

const listOf = (text: string): string[] => text.split(/[\s,]+/).filter((item) => item !== "");
