"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import Switch from "@mui/material/Switch";
import { Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { timeWords } from "../parts/times";
import { Section } from "../settings/section";
import type { Act } from "./act";
import { Invite } from "./invite";
import { PasswordForm } from "./password-form";
import { PeopleTable } from "./people-table";
import { SessionsTable } from "./sessions-table";

/** People with access: roles, invitations, sessions, one's own password. */
export function PeopleScreen() {
  const { may, ruleset, secondPerson, setSecondPerson, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: now, again: load } = useAsked("people", []);
  const keeps = may("people");
  const { zone } = ruleset.site;
  const act: Act = async (asks, done) => {
    let wrong: string | undefined;
    for (const ask of asks) {
      const answer = await ask().catch(whyNot);
      if (typeof answer === "string") wrong = answer;
    }
    enqueueSnackbar(wrong ?? done, { variant: wrong === undefined ? "success" : "error" });
    await load();
  };
  if (!now) return <main className="settings" />;
  return (
    <main className="settings">
      <h1>{t("People")}</h1>
      <Section
        wide
        title={t("People with access")}
        says={t(
          "Everyone can view everything; roles decide who can change what: an author’s content, an editor’s slots, rules and offers, an approver’s releases, a developer’s kinds of blocks, settings and people.",
        )}
      >
        <PeopleTable people={now.people} act={act} />
        {keeps && <Invite onDone={load} />}
        {now.invitations.map((one) => (
          <div key={one.id} className="row line">
            <span style={{ flex: 1 }}>
              {rich("{name} is invited as {roles}", { name: <b>{one.name}</b>, roles: one.roles.join(", ") })}
              <span className="quiet">{t(", until {timeWords}", { timeWords: timeWords(one.expiresAt, zone) })}</span>
            </span>
            <IconButton
              aria-label={t("Withdraw the invitation of {name}", { name: one.name })}
              onClick={() => void act([() => actions.dropInvitation(one.id)], t("The invitation is withdrawn"))}
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        ))}
      </Section>
      <Section title={t("Releases")} says={t("Whether you may approve a review that you asked for yourself.")}>
        <FormControlLabel
          control={
            <Switch
              checked={secondPerson}
              disabled={!may("build")}
              onChange={(_event, needed) =>
                void actions.askSecondPerson(needed).then(
                  () => setSecondPerson(needed),
                  (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }),
                )
              }
            />
          }
          label={t("Releases need a second person")}
        />
      </Section>
      <Section
        wide
        title={keeps ? t("Sessions") : t("Your sessions")}
        says={t("Where people are signed in. Ending a session signs that browser out at once.")}
      >
        <SessionsTable now={now} act={act} />
      </Section>
      <Section title={t("Your password")} says={t("At least 10 characters. Changing it ends all your other sessions.")}>
        <PasswordForm onChange={(old, fresh) => actions.changePassword(old, fresh).catch(whyNot)} onDone={load} />
      </Section>
    </main>
  );
}
