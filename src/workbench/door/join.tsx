"use client";
import { t } from "@/core/messages/t";
import * as z from "zod";
import { roleWords, type Role } from "@/core/people/roles";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { credentials, CredentialsForm, freshPassword } from "./credentials-form";
import { goFresh } from "./enter";
import { useEntering } from "./use-entering";
import { Mark } from "./mark";

interface Invited {
  name: string;
  /** The sites, and what one is to be there. */
  sites: { name: string; roles: Role[] }[];
}

const shape = z.object({ name: saying(() => t("Say your name")), email: credentials.email, password: freshPassword });

/** Takes up an invitation. */
export function Join({ token, invited }: { token: string; invited: Invited | undefined }) {
  const form = useForm(shape, { name: invited?.name ?? "", email: "", password: "" });
  const { ask, busy, problem } = useEntering(() => goFresh("/"));
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        {invited ? (
          <CredentialsForm
            form={form}
            fresh
            button={t("Join")}
            busy={busy}
            problem={problem}
            onEnter={(values) => ask({ token, ...values })}
          >
            {invited.sites.map((site) => (
              <p key={site.name}>
                {t("You are invited to {site} as {roles}.", {
                  site: site.name,
                  roles: site.roles.map((role) => `${role}: ${roleWords[role]}`).join("; "),
                })}
              </p>
            ))}
            <FormText control={form.control} name="name" label={t("Your name")} required />
          </CredentialsForm>
        ) : (
          <p>{t("This invitation was used already, or has expired. Ask the person who sent it for another.")}</p>
        )}
      </section>
    </main>
  );
}
