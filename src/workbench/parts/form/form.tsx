"use client";
import type { FieldValues, SubmitHandler, UseFormReturn } from "react-hook-form";

interface Props<Values extends FieldValues> extends Pick<React.ComponentProps<"form">, "className" | "style"> {
  form: UseFormReturn<Values>;
  /** What is done with values that its shape takes. */
  onSend: SubmitHandler<Values>;
  children: React.ReactNode;
}

/** A form that is judged by its shape when it is sent, in the words of the interface, not the browser's. */
export function Form<Values extends FieldValues>({ form, onSend, children, ...rest }: Props<Values>) {
  return (
    <form {...rest} noValidate onSubmit={(event) => void form.handleSubmit(onSend)(event)}>
      {children}
    </form>
  );
}
