"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import * as z from "zod";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";

interface Props {
  label: string;
  placeholder?: string;
  /** What is wrong with what was typed, in words. */
  problem?: (text: string) => string | undefined;
  button?: string;
  /** Adds it; a problem in words leaves what was typed there. */
  onAdd: (text: string) => void | Promise<string | undefined>;
}

/** A line by which one more is added to a list. */
export function AddLine({ label, placeholder, problem, button = t("Add"), onAdd }: Props) {
  const shape = z.object({
    text: saying(() => t("Say which one")).superRefine((text, context) => {
      const wrong = text === "" ? undefined : problem?.(text);
      if (wrong) context.addIssue({ code: "custom", message: wrong });
    }),
  });
  const form = useForm(shape, { text: "" }, true);
  const { control, reset, setError } = form;
  return (
    <Form
      className="row"
      style={{ alignItems: "flex-start" }}
      form={form}
      onSend={async ({ text }) => {
        const refused = await onAdd(text);
        if (refused) setError("text", { message: refused }, { shouldFocus: true });
        else reset();
      }}
    >
      <FormText control={control} name="text" label={label} placeholder={placeholder} />
      <Button type="submit" sx={{ py: 1.5, whiteSpace: "nowrap", flex: "none" }}>
        {button}
      </Button>
    </Form>
  );
}
