"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { X } from "lucide-react";
import { useState } from "react";
import type { DataField } from "@/core/formats/ruleset";
import { namesInUse } from "@/core/ruleset/choices";
import { isDate } from "@/core/calendar/calendar";
import { useDesk } from "../desk/desk";
import { Field } from "../field";
import { zones } from "../zones";
import { told, type PartProps } from "./parts";

/** What else the browser and the site tell: cookies, the visitor's own zone, and the site's own data. */
export function ToldPart({ visit, setVisit }: PartProps) {
  const { ruleset } = useDesk();
  const [name, setName] = useState("");
  const cookies = Object.entries(visit.cookies ?? {});
  const setCookies = (next: Record<string, string>) =>
    setVisit(told(visit, "cookies", Object.keys(next).length === 0 ? undefined : next));
  const data = visit.data ?? {};
  const setData = (field: string, value: unknown) => {
    const next = { ...data, [field]: value };
    for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
    setVisit(told(visit, "data", Object.keys(next).length === 0 ? undefined : next));
  };
  const fields = ruleset.dataFields.filter((field) => field.signal === "data");
  const names = namesInUse("cookie.", ruleset).filter((item) => !(item in (visit.cookies ?? {})));
  return (
    <div className="stack">
      <b>{t("Cookies")}</b>
      {cookies.map(([cookie, value]) => (
        <div key={cookie} className="row">
          <Field label={cookie} value={value} onCommit={(text) => setCookies({ ...visit.cookies, [cookie]: text })} />
          <IconButton
            aria-label={t("Delete the cookie {cookie}", { cookie })}
            onClick={() => setCookies(Object.fromEntries(cookies.filter(([key]) => key !== cookie)))}
          >
            <X size={14} />
          </IconButton>
        </div>
      ))}
      <form
        className="row"
        onSubmit={(event) => {
          event.preventDefault();
          const wanted = name.trim();
          if (wanted) setCookies({ ...visit.cookies, [wanted]: "yes" });
          setName("");
        }}
      >
        <Autocomplete
          freeSolo
          fullWidth
          options={names}
          inputValue={name}
          onInputChange={(_, text) => setName(text)}
          renderInput={(input) => <TextField {...input} label={t("Name of a cookie")} autoFocus />}
        />
        <Button type="submit" disabled={name.trim() === ""}>
          {t("Add")}
        </Button>
      </form>
      {fields.length > 0 && <b>{t("What the site tells")}</b>}
      {fields.map((field) => (
        <DataValue
          key={field.name}
          field={field}
          value={data[field.name]}
          onChange={(value) => setData(field.name, value)}
        />
      ))}
      <Autocomplete
        options={zones}
        value={visit.zone ?? null}
        onChange={(_, zone) => setVisit(told(visit, "zone", zone ?? undefined))}
        renderInput={(input) => (
          <TextField {...input} label={t("The visitor’s own time zone")} placeholder={t("as their place has it")} />
        )}
      />
    </div>
  );
}

/** A value of the site's own data, by the kind that its field declares; empty is not told. */
function DataValue({
  field,
  value,
  onChange,
}: {
  field: DataField;
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  if (field.kind === "flag")
    return (
      <TextField
        select
        label={field.name}
        value={value === undefined ? "" : String(value)}
        onChange={(event) => onChange(event.target.value === "" ? undefined : event.target.value === "true")}
      >
        <MenuItem value="">{t("not told")}</MenuItem>
        <MenuItem value="true">{t("on")}</MenuItem>
        <MenuItem value="false">{t("off")}</MenuItem>
      </TextField>
    );
  const text = value === undefined ? "" : Array.isArray(value) ? value.join(", ") : String(value);
  return (
    <Field
      label={field.name}
      placeholder={t("not told")}
      helperText={field.kind === "texts" ? t("Separate with commas") : undefined}
      value={text}
      problem={(typed) =>
        typed === ""
          ? undefined
          : field.kind === "number" && !Number.isFinite(Number(typed))
            ? t("Give a number")
            : field.kind === "date" && !isDate(typed)
              ? t("Give a date such as 2026-12-24")
              : undefined
      }
      onCommit={(typed) => {
        if (typed === "") onChange(undefined);
        else if (field.kind === "number") onChange(Number(typed));
        else if (field.kind === "texts")
          onChange(
            typed
              .split(",")
              .map((item) => item.trim())
              .filter(Boolean),
          );
        else onChange(typed);
      }}
    />
  );
}
