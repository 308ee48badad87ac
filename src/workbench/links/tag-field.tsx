"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import type { TagNote } from "@/core/campaigns/judge";
import { useTyped } from "../parts/use-typed";

interface Props {
  label: string;
  name: string;
  value: string;
  example?: string;
  /** Values that rules name, and those that other links have. */
  known: readonly string[];
  used: readonly string[];
  note: TagNote | undefined;
  onChange: (value: string) => void;
}

/** One parameter of a link: what rules expect is offered first, and what does not meet them is said beside it. */
export function TagField({ label, name, value, example, known, used, note, onChange }: Props) {
  const { text, type, leave } = useTyped({ value, onCommit: onChange });
  const options = [...known, ...used.filter((item) => !known.includes(item))];
  return (
    <div className="tagfield">
      <Autocomplete
        freeSolo
        disableClearable
        options={options}
        groupBy={(item) => (known.includes(item) ? t("As rules spell it") : t("In other links"))}
        inputValue={text}
        onInputChange={(_, now, reason) => reason !== "reset" && type(now)}
        onChange={(_, chosen) => type(chosen)}
        onBlur={leave}
        value={value}
        // What rules spell is shown as it is, also while something else stands there.
        filterOptions={(list, { inputValue }) =>
          list.filter((item) => inputValue === value || item.toLowerCase().includes(inputValue.toLowerCase()))
        }
        renderInput={(params) => (
          <TextField
            {...params}
            label={label}
            placeholder={example ?? ""}
            helperText={name}
            slotProps={{ ...params.slotProps, formHelperText: { sx: { fontFamily: "var(--code)", fontSize: 12 } } }}
          />
        )}
      />
      {note && (
        <span className="tagnote" role="note">
          {noteText(note, value)}{" "}
          {note.like !== undefined && note.says !== "unasked" && (
            <Button size="small" color="secondary" onClick={() => onChange(note.like as string)}>
              {t("Write “{like}”", { like: note.like })}
            </Button>
          )}
        </span>
      )}
    </div>
  );
}

function noteText({ says, like }: TagNote, value: string): string {
  switch (says) {
    case "unasked":
      return like
        ? t("No rule asks for this name; one asks for “{like}”: names are compared exactly.", { like })
        : t("No rule asks for it. Reports of other programs may.");
    case "unknown":
      return t("Rules ask for it, but none knows “{value}”.", { value });
    case "near":
      return t("Rules or other links say “{like}”: the two are told apart.", { like });
    case "case":
      return t("Elsewhere it is “{like}”. Rules do not mind capital letters; reports of other programs do.", { like });
    case "twice":
      return t("It stands here twice: rules take the first.");
  }
}
