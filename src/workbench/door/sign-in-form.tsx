"use client";
import { t } from "@/core/messages/t";
import { CredentialsForm } from "./credentials-form";
import { useEntering } from "./use-entering";

/** Address and password of somebody who works here. */
export function SignInForm({ email = "", onIn }: { email?: string; onIn: () => void }) {
  const { ask, busy, problem } = useEntering(onIn);
  return (
    <CredentialsForm
      given={email}
      button={busy ? t("Signing in …") : t("Sign in")}
      busy={busy}
      problem={problem}
      onEnter={(address, password) => ask({ email: address, password })}
    />
  );
}
