"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import Switch from "@mui/material/Switch";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Tooltip from "@mui/material/Tooltip";
import { Copy, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { roleWords, roles, type Role } from "@/core/people/roles";
import { readDevice } from "@/core/visit/device";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { timeWords } from "../parts/times";
import { Section } from "../settings/section";

/** People with access: roles, invitations, sessions, one's own password. */
export function PeopleScreen() {
  const { me, may, ruleset, present, secondPerson, setSecondPerson, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: now, again: load } = useAsked("people", []);
  const keeps = may("people");
  const { zone } = ruleset.site;
  const act = async (ask: () => Promise<unknown>, done: string) => {
    const wrong = await ask().catch(whyNot);
    enqueueSnackbar(typeof wrong === "string" ? wrong : done, {
      variant: typeof wrong === "string" ? "error" : "success",
    });
    await load();
  };
  if (!now) return <main className="settings" />;
  const here = (person: string) => present.some((one) => one.person === person);
  return (
    <main className="settings">
      <h1>{t("People")}</h1>
      <Section
        title={t("People with access")}
        says={t(
          "Everyone can view everything; roles decide who can change what: an author’s content, an editor’s slots, rules and offers, an approver’s releases, a developer’s kinds of blocks, settings and people.",
        )}
      >
        {now.people.map((person) => (
          <div key={person.id} className="row line">
            <span style={{ flex: 1, opacity: person.leftAt ? 0.6 : 1 }}>
              <b>{person.name}</b> {person.id === me.id && <span className="quiet">{t("(you)")}</span>}{" "}
              {here(person.id) && <span className="pill live">{t("here")}</span>}
              <br />
              <span className="quiet">
                {person.email}
                {person.leftAt ? t(", left {timeWords}", { timeWords: timeWords(person.leftAt, zone) }) : ""}
              </span>
            </span>
            <RolesChoice
              of={person.name}
              value={person.roles}
              disabled={!keeps || person.leftAt !== null}
              onChange={(next) =>
                void act(
                  () => actions.setRoles(person.id, next),
                  t("{name} is {roles} now", { name: person.name, roles: next.join(", ") }),
                )
              }
            />
            {keeps && person.id !== me.id && (
              <Button
                onClick={() =>
                  void act(
                    () => actions.letGo(person.id, !person.leftAt),
                    person.leftAt
                      ? t("{name} is back", { name: person.name })
                      : t("{name} has left, and is signed out everywhere", { name: person.name }),
                  )
                }
              >
                {person.leftAt ? t("Restore access") : t("Remove")}
              </Button>
            )}
          </div>
        ))}
        {keeps && <Invite onDone={load} />}
        {now.invitations.map((one) => (
          <div key={one.id} className="row line">
            <span style={{ flex: 1 }}>
              {rich("{name} is invited as {roles}", { name: <b>{one.name}</b>, roles: one.roles.join(", ") })}
              <span className="quiet">{t(", until {timeWords}", { timeWords: timeWords(one.expiresAt, zone) })}</span>
            </span>
            <IconButton
              aria-label={t("Withdraw the invitation of {name}", { name: one.name })}
              onClick={() => void act(() => actions.dropInvitation(one.id), t("The invitation is withdrawn"))}
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
        title={keeps ? t("Sessions") : t("Your sessions")}
        says={t("Where people are signed in. Ending a session signs that browser out at once.")}
      >
        {now.sessions.map((session) => {
          const person = now.people.find((one) => one.id === session.person);
          const device = readDevice(session.browser);
          return (
            <div key={session.id} className="row line">
              <span style={{ flex: 1 }}>
                {rich("{person} on", { person: <b>{person?.name}</b> })}{" "}
                {[device?.browser, device?.os].filter(Boolean).join(", ") || t("an unknown browser")}
                <span className="quiet">
                  {t(", since {timeWords}", { timeWords: timeWords(session.beganAt, zone) })}
                </span>
              </span>
              {session.id === now.own ? (
                <span className="quiet">{t("this browser")}</span>
              ) : (
                <Button onClick={() => void act(() => actions.endSession(session.id), t("The session is ended"))}>
                  {t("End session")}
                </Button>
              )}
            </div>
          );
        })}
      </Section>
      <Section title={t("Your password")} says={t("At least 10 characters. Changing it ends all your other sessions.")}>
        <PasswordForm onChange={(old, fresh) => actions.changePassword(old, fresh).catch(whyNot)} onDone={load} />
      </Section>
    </main>
  );
}

function RolesChoice({
  of,
  value,
  disabled,
  onChange,
}: {
  of: string;
  value: readonly Role[];
  disabled?: boolean;
  onChange: (roles: Role[]) => void;
}) {
  return (
    <ToggleButtonGroup
      size="small"
      value={value}
      {...(disabled ? { disabled } : {})}
      aria-label={t("Roles of {of}", { of })}
      onChange={(_event, next: Role[]) => next.length > 0 && onChange(roles.filter((role) => next.includes(role)))}
    >
      {roles.map((role) => (
        <ToggleButton key={role} value={role} aria-label={role}>
          <Tooltip title={roleWords[role]}>
            <span>{role}</span>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

function Invite({ onDone }: { onDone: () => Promise<void> }) {
  const { actions } = useDesk();
  const [name, setName] = useState("");
  const [own, setOwn] = useState<Role[]>(["author"]);
  const { value: kept = [] } = useAsked("otherSites", []);
  const [others, setOthers] = useState<string[]>([]);
  /** The link that was made last, and for which sites it is beside this one. */
  const [made, setMade] = useState<{ link: string; others: string[] }>();
  const [problem, setProblem] = useState<string>();
  const { enqueueSnackbar } = useSnackbar();
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault();
        void actions.invite(name.trim(), own, others).then(
          (path) => {
            setMade({
              link: `${window.location.origin}${path}`,
              others: kept.filter(({ id }) => others.includes(id)).map((site) => site.name),
            });
            setProblem(undefined);
            setName("");
            setOthers([]);
            void onDone();
          },
          (error: unknown) => setProblem(whyNot(error)),
        );
      }}
    >
      <div className="row">
        <TextField
          label={t("Name of the person to invite")}
          value={name}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <RolesChoice of={t("the invited person")} value={own} onChange={setOwn} />
        <Button type="submit" disabled={name.trim() === ""} style={{ whiteSpace: "nowrap" }}>
          {t("Create invitation")}
        </Button>
      </div>
      {kept.length > 0 && (
        <TextField
          select
          label={t("Also for")}
          value={others}
          onChange={(event) => setOthers([event.target.value].flat())}
          slotProps={{ select: { multiple: true } }}
          helperText={t("Other sites whose people you keep: one link for all of them")}
        >
          {kept.map((site) => (
            <MenuItem key={site.id} value={site.id}>
              {site.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {made && (
        <div className="row" role="status">
          <span style={{ flex: 1 }}>
            <code style={{ overflowWrap: "anywhere" }}>{made.link}</code>
            {made.others.length > 0 && (
              <span className="quiet"> {t("for {others}, too", { others: made.others.join(", ") })}</span>
            )}
          </span>
          <Button
            startIcon={<Copy size={14} />}
            onClick={() =>
              void navigator.clipboard
                .writeText(made.link)
                .then(() => enqueueSnackbar(t("The link is copied. It is good for a week, and for one person.")))
            }
          >
            {t("Copy")}
          </Button>
        </div>
      )}
      {problem && <span className="error">{problem}</span>}
    </form>
  );
}

function PasswordForm({
  onChange,
  onDone,
}: {
  onChange: (old: string, fresh: string) => Promise<string | undefined>;
  onDone: () => Promise<void>;
}) {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [said, setSaid] = useState<{ problem?: string; done?: true }>({});
  return (
    <form
      className="row"
      onSubmit={(event) => {
        event.preventDefault();
        void onChange(old, fresh).then((problem) => {
          setSaid(problem ? { problem } : { done: true });
          if (problem) return;
          setOld("");
          setFresh("");
          void onDone();
        });
      }}
    >
      <TextField
        label={t("Current password")}
        type="password"
        autoComplete="current-password"
        value={old}
        onChange={(event) => setOld(event.target.value)}
      />
      <TextField
        label={t("New password")}
        type="password"
        autoComplete="new-password"
        value={fresh}
        onChange={(event) => setFresh(event.target.value)}
        error={said.problem !== undefined}
        helperText={said.problem ?? (said.done ? t("It is changed.") : undefined)}
      />
      <Button type="submit" disabled={old === "" || fresh === ""}>
        {t("Change")}
      </Button>
    </form>
  );
}
