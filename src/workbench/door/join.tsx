"use client";
import { t } from "@/core/messages/t";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { roleWords, type Role } from "@/core/people/roles";
import { CredentialsForm } from "./credentials-form";
import { goFresh } from "./enter";
import { useEntering } from "./use-entering";
import { Mark } from "./mark";

interface Invited {
  name: string;
  /** The sites, and what one is to be there. */
  sites: { name: string; roles: Role[] }[];
}

/** Takes up an invitation. */
export function Join({ token, invited }: { token: string; invited: Invited | undefined }) {
  const [name, setName] = useState(invited?.name ?? "");
  const { ask, busy, problem } = useEntering(() => goFresh("/"));
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        {invited ? (
          <CredentialsForm
            fresh
            button={t("Join")}
            busy={busy}
            problem={problem}
            onEnter={(email, password) => ask({ token, name, email, password })}
          >
            {invited.sites.map((site) => (
              <p key={site.name}>
                {t("You are invited to {site} as {roles}.", {
                  site: site.name,
                  roles: site.roles.map((role) => `${role}: ${roleWords[role]}`).join("; "),
                })}
              </p>
            ))}
            <TextField label={t("Your name")} required value={name} onChange={(event) => setName(event.target.value)} />
          </CredentialsForm>
        ) : (
          <p>{t("This invitation was used already, or has expired. Ask the person who sent it for another.")}</p>
        )}
      </section>
    </main>
  );
}
