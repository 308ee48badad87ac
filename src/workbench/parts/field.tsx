"use client";
import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useTyped } from "./use-typed";

type Props = Omit<TextFieldProps, "value" | "onChange" | "error"> & {
  value: string;
  /** Called with what was typed, a moment after the last key and when the field is left. */
  onCommit: (value: string) => void;
  /** What is wrong with a text, in words: it is then shown at the field and not committed. */
  problem?: (value: string) => string | undefined;
  /** A problem that is known from elsewhere. */
  known?: string | undefined;
  delay?: number;
};

/** A text field that keeps what is typed until it is good, and commits it without being asked. */
export function Field({ value, onCommit, problem, known, delay = 350, helperText, ...rest }: Props) {
  const { text, type, leave } = useTyped({ value, onCommit, problem, delay });
  const wrong = problem?.(text) ?? known;
  return (
    <TextField
      {...rest}
      value={text}
      error={wrong !== undefined}
      helperText={wrong ?? helperText}
      onChange={(event) => type(event.target.value)}
      onBlur={leave}
    />
  );
}
