"use client";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { meantBy } from "@/core/text/meant";

interface Props<T> {
  label: string;
  placeholder?: string | undefined;
  options: readonly T[];
  value: readonly T[];
  nameOf: (one: T) => string;
  groupBy?: (one: T) => string;
  /** Reads what was typed in full; undefined if it is no value. What begins the name of one option alone means that one. */
  read: (text: string) => T | undefined;
  /** What is wrong with a text that is no value. */
  refusal: (text: string) => string;
  /** What is wrong with the list as it is saved. */
  problem: string | undefined;
  onChange: (value: T[]) => void;
}

/** Values as chips, chosen from a list or typed; a text that is left in the box is taken, and one that is refused stays in it. */
export function ChipsField<T>(props: Props<T>) {
  const { label, placeholder, options, value, nameOf, groupBy, read, refusal, problem, onChange } = props;
  const [text, setText] = useState("");
  const [refused, setRefused] = useState<string>();
  const change = (next: readonly T[]) => {
    setText("");
    setRefused(undefined);
    onChange([...next]);
  };
  const take = (typed: string) => {
    const whole = typed.trim();
    const taken = options.find((one) => nameOf(one) === whole) ?? read(whole) ?? meantBy(whole, options, nameOf);
    if (taken === undefined) {
      setText(typed);
      setRefused(refusal(whole));
    } else change(value.some((one) => nameOf(one) === nameOf(taken)) ? value : [...value, taken]);
  };
  const known = useMemo(() => new Set<unknown>([...options, ...value]), [options, value]);
  /** What is typed passes through the box as a plain text before it is read. */
  const nameIn = (one: T | string): string => (typeof one === "string" && !known.has(one) ? one : nameOf(one as T));
  return (
    <Autocomplete<T, true, false, true>
      multiple
      freeSolo
      openOnFocus
      filterSelectedOptions
      options={options as T[]}
      {...(groupBy ? { groupBy } : {})}
      value={value as T[]}
      inputValue={text}
      getOptionLabel={nameIn}
      isOptionEqualToValue={(a, b) => nameIn(a) === nameIn(b)}
      onInputChange={(_, next, reason) => {
        if (reason !== "input") return;
        setText(next);
        setRefused(undefined);
      }}
      onChange={(_, next, reason) =>
        reason === "createOption" ? take(String(next[next.length - 1])) : change(next as T[])
      }
      onBlur={() => text.trim() !== "" && take(text)}
      renderInput={(input) => (
        <TextField
          {...input}
          placeholder={value.length === 0 ? (placeholder ?? label) : undefined}
          error={problem !== undefined || refused !== undefined}
          helperText={refused ?? problem}
          slotProps={{ ...input.slotProps, htmlInput: { ...input.slotProps?.htmlInput, "aria-label": label } }}
        />
      )}
    />
  );
}
