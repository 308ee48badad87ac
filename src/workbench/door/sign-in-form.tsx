"use client";
import { t } from "@/core/messages/t";
import * as z from "zod";
import { useForm } from "../parts/form/use-form";
import { credentials, CredentialsForm } from "./credentials-form";
import { useEntering } from "./use-entering";

const shape = z.object(credentials);

/** Address and password of somebody who works here. */
export function SignInForm({ email = "", onIn }: { email?: string; onIn: () => void }) {
  const { ask, busy, problem } = useEntering(onIn);
  const form = useForm(shape, { email, password: "" });
  return (
    <CredentialsForm
      form={form}
      button={busy ? t("Signing in …") : t("Sign in")}
      busy={busy}
      problem={problem}
      onEnter={ask}
    />
  );
}
