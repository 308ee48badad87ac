"use client";
import { useController, type Control, type FieldPath, type FieldValues } from "react-hook-form";
import { DateField, type DateFieldProps } from "../dates/date-field";

type Props<Values extends FieldValues> = Pick<DateFieldProps, "label" | "grain" | "autoFocus" | "width"> & {
  control: Control<Values>;
  name: FieldPath<Values>;
};

/** A date of a form; what is wrong with it stands below. */
export function FormDate<Values extends FieldValues>({ control, name, ...rest }: Props<Values>) {
  const { field, fieldState } = useController({ control, name });
  return (
    <DateField {...rest} value={field.value} delay={0} known={fieldState.error?.message} onCommit={field.onChange} />
  );
}
