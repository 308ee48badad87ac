"use client";
import { t } from "@/core/messages/t";
import TextField from "@mui/material/TextField";
import { useState, useSyncExternalStore } from "react";
import { SiteForm, emptySite } from "../sites/site-form";
import type { NewSite, NewSiteField } from "@/server/types";
import { CredentialsForm } from "./credentials-form";
import { goFresh } from "./enter";
import { Mark } from "./mark";

const never = () => () => undefined;

/** Sets an installation up: its first person, who is its administrator, and its first site. */
export function SetUp({ token, good }: { token: string; good: boolean }) {
  const [name, setName] = useState("");
  // Language and time zone are the browser's, so the site's part is there once the page is.
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const [typed, setSite] = useState<NewSite>();
  const site = typed ?? (inBrowser ? emptySite() : undefined);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [wrong, setWrong] = useState<{ field: NewSiteField; problem: string }>();
  const send = async (email: string, password: string) => {
    setBusy(true);
    setProblem(undefined);
    setWrong(undefined);
    try {
      const answer = await fetch("/enter", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ setUp: token, name, email, password, site }),
      });
      const told = (await answer.json()) as { problem?: string; field?: NewSiteField; site?: string };
      if (answer.ok) return goFresh(`/s/${told.site}/connect`);
      if (told.field) setWrong({ field: told.field, problem: told.problem ?? "" });
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
              fresh
              button={busy ? t("Setting up …") : t("Set up")}
              busy={busy}
              problem={problem}
              onEnter={(email, password) => void send(email, password)}
              after={
                <>
                  <h2>{t("Your first site")}</h2>
                  {site && <SiteForm value={site} onChange={setSite} wrong={wrong} />}
                </>
              }
            >
              <h2>{t("You")}</h2>
              <TextField
                label={t("Your name")}
                required
                autoFocus
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
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
