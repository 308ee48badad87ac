"use client";
import Autocomplete, { createFilterOptions } from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { searchText, type SignalChoice } from "@/core/ruleset/choices";
import { groupNames } from "@/core/visit/signals";
import { Explained } from "./explained";

interface Props {
  choices: readonly SignalChoice[];
  chosen: SignalChoice | null;
  onChoose: (signal: string) => void;
  /** What it is for; as a label above it, or only read aloud where `placeholder` is given. */
  label: string;
  placeholder?: string;
  autoFocus: boolean;
  error?: boolean;
}

/** A signal is found by whatever people call it: utm_source is the campaign source. */
const filter = createFilterOptions<SignalChoice>({ stringify: searchText });

/** Chooses a signal by a few letters of its words, in the groups in which signals are known. */
export function SignalSelect({ choices, chosen, onChoose, label, placeholder, autoFocus, error = false }: Props) {
  // The field takes another object for another choice, and would put its words over what is just being typed.
  const [value, setValue] = useState(chosen);
  if (value?.signal !== chosen?.signal) setValue(chosen);
  return (
    <Autocomplete
      fullWidth
      openOnFocus
      autoHighlight
      disableClearable
      options={choices}
      groupBy={(choice) => groupNames[choice.group]}
      // A field that cannot be emptied has a type for its value that knows no beginning without one.
      value={value as never}
      getOptionLabel={(choice) => choice.name}
      getOptionKey={(choice) => choice.signal}
      filterOptions={filter}
      renderOption={({ key, ...row }, choice) => (
        <li key={key} {...row} aria-label={choice.name} aria-describedby={`${row.id}-means`}>
          <Explained id={`${row.id}-means`} words={choice.name} means={choice.means} />
        </li>
      )}
      isOptionEqualToValue={(a, b) => a.signal === b.signal}
      onChange={(_, choice) => onChoose(choice.signal)}
      renderInput={(input) => (
        <TextField
          {...input}
          {...(placeholder ? { placeholder } : { label })}
          error={error}
          helperText={chosen?.means}
          autoFocus={autoFocus}
          slotProps={{
            ...input.slotProps,
            htmlInput: { ...input.slotProps?.htmlInput, ...(placeholder ? { "aria-label": label } : {}) },
          }}
        />
      )}
    />
  );
}
