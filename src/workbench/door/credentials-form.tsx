"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import type { ReactNode } from "react";
import { FormProvider, type FieldValues, type SubmitHandler, type UseFormReturn } from "react-hook-form";
import * as z from "zod";
import { passwordProblem, shortestPassword } from "@/core/people/password";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying } from "../parts/form/use-form";

/** What one enters with. */
export const credentials = {
  email: saying(() => t("Say which address")),
  password: z.string().min(1, { error: () => t("Give the password") }),
};
/** A password that is chosen now. */
export const freshPassword = z.string().superRefine((password, context) => {
  const wrong = passwordProblem(password);
  if (wrong) context.addIssue({ code: "custom", message: wrong });
});

interface Props<Values extends FieldValues> {
  /** A form that has `email` and `password` beside what its children ask. */
  form: UseFormReturn<Values>;
  /** The password is a new one. */
  fresh?: boolean;
  button: string;
  busy: boolean;
  problem: string | undefined;
  onEnter: SubmitHandler<Values>;
  /** What stands above the address. */
  children?: ReactNode;
  /** What stands below the password. */
  after?: ReactNode;
}

/** E-mail address and password, and what is wrong with them. */
export function CredentialsForm<Values extends { email: string; password: string }>(props: Props<Values>) {
  const { form, fresh = false, button, busy, problem, onEnter, children, after } = props;
  const { control } = form as unknown as UseFormReturn<{ email: string; password: string }>;
  const given = form.formState.defaultValues?.email;
  return (
    <FormProvider {...form}>
      <Form className="stack" form={form} onSend={onEnter}>
        {children}
        <FormText
          control={control}
          name="email"
          label={t("E-mail address")}
          type="email"
          autoComplete="username"
          required
          autoFocus={!fresh && !given}
        />
        <FormText
          control={control}
          name="password"
          label={t("Password")}
          type="password"
          autoComplete={fresh ? "new-password" : "current-password"}
          required
          autoFocus={!fresh && !!given}
          helperText={
            fresh
              ? t("At least {shortestPassword} characters: a sentence is easy to remember.", { shortestPassword })
              : undefined
          }
        />
        {after}
        {problem && (
          <span className="error" role="alert">
            {problem}
          </span>
        )}
        <Button type="submit" variant="contained" disabled={busy}>
          {button}
        </Button>
      </Form>
    </FormProvider>
  );
}
