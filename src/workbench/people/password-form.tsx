"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import * as z from "zod";
import { freshPassword } from "../door/credentials-form";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { useForm } from "../parts/form/use-form";

const passwords = z.object({
  old: z.string().min(1, { error: () => t("Give the password that you have") }),
  fresh: freshPassword,
});

/** Changes one’s own password. */
export function PasswordForm({
  onChange,
  onDone,
}: {
  onChange: (old: string, fresh: string) => Promise<string | undefined>;
  onDone: () => Promise<void>;
}) {
  const form = useForm(passwords, { old: "", fresh: "" });
  const { control, reset, setError, formState } = form;
  return (
    <Form
      className="row"
      style={{ alignItems: "flex-start" }}
      form={form}
      onSend={async ({ old, fresh }) => {
        const problem = await onChange(old, fresh);
        if (problem) return setError("old", { message: problem }, { shouldFocus: true });
        reset(undefined, { keepIsSubmitSuccessful: true });
        return onDone();
      }}
    >
      <FormText
        control={control}
        name="old"
        label={t("Current password")}
        type="password"
        autoComplete="current-password"
      />
      <FormText
        control={control}
        name="fresh"
        label={t("New password")}
        type="password"
        autoComplete="new-password"
        helperText={formState.isSubmitSuccessful && !formState.isDirty ? t("It is changed.") : undefined}
      />
      <Button type="submit" sx={{ py: 1.5 }}>
        {t("Change")}
      </Button>
    </Form>
  );
}
