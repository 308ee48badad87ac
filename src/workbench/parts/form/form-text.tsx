"use client";
import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useController, type Control, type FieldPath, type FieldValues } from "react-hook-form";

type Props<Values extends FieldValues> = Omit<
  TextFieldProps,
  "name" | "value" | "defaultValue" | "onChange" | "onBlur" | "error" | "inputRef"
> & {
  control: Control<Values>;
  name: FieldPath<Values>;
};

/** A text of a form, or, with `select`, a choice in it; what is wrong with it stands below. */
export function FormText<Values extends FieldValues>({ control, name, helperText, ...rest }: Props<Values>) {
  const { field, fieldState } = useController({ control, name });
  const { ref, ...given } = field;
  return (
    <TextField
      {...rest}
      {...given}
      inputRef={ref}
      error={fieldState.invalid}
      helperText={fieldState.error?.message ?? helperText}
    />
  );
}
