"use client";
import { t } from "@/core/messages/t";
import { useState, useSyncExternalStore } from "react";
import * as z from "zod";
import type { NewSiteField } from "@/server/types";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { emptySite, newSite, SiteForm } from "../sites/site-form";
import { credentials, CredentialsForm, freshPassword } from "./credentials-form";
import { goFresh } from "./enter";
import { Mark } from "./mark";

const never = () => () => undefined;
const shape = z.object({
  name: saying(() => t("Say your name")),
  email: credentials.email,
  password: freshPassword,
  site: newSite,
});

/** Sets an installation up: its first person, who is its administrator, and its first site. */
export function SetUp({ token, good }: { token: string; good: boolean }) {
  // Language and time zone are the browser's, so the site's part is there once the page is.
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const form = useForm(shape, { name: "", email: "", password: "", site: emptySite() });
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const send = async ({ name, email, password, site }: z.output<typeof shape>) => {
    setBusy(true);
    setProblem(undefined);
    try {
      const answer = await fetch("/enter", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ setUp: token, name, email, password, site }),
      });
      const told = (await answer.json()) as { problem?: string; field?: NewSiteField; site?: string };
      if (answer.ok) return goFresh(`/s/${told.site}/connect`);
      if (told.field) form.setError(`site.${told.field}`, { message: told.problem ?? "" }, { shouldFocus: true });
      else setProblem(told.problem);
    } catch {
      setProblem(t("The server could not be reached. Try again."));
    }
    setBusy(false);
  };
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        {good ? (
          <>
            <p>{t("You set this installation up: you are its administrator, and your first site follows.")}</p>
            <CredentialsForm
              form={form}
              fresh
              button={busy ? t("Setting up …") : t("Set up")}
              busy={busy}
              problem={problem}
              onEnter={send}
              after={
                <>
                  <h2>{t("Your first site")}</h2>
                  {inBrowser && <SiteForm />}
                </>
              }
            >
              <h2>{t("You")}</h2>
              <FormText control={form.control} name="name" label={t("Your name")} required autoFocus />
            </CredentialsForm>
          </>
        ) : (
          <p>
            {t(
              "This set-up link was used already, or its hour is over. Start Mirada again for another, or, if it is set up,",
            )}{" "}
            <a href="/sign-in">{t("sign in")}</a>.
          </p>
        )}
      </section>
    </main>
  );
}
