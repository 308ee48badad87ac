"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { readDevice } from "@/core/visit/device";
import type { PeopleNow } from "@/server/types";
import { useDesk } from "../parts/desk/desk";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { timeWords } from "../parts/times";
import type { Act } from "./act";

type Session = PeopleNow["sessions"][number];

/** Where people are signed in. */
export function SessionsTable({ now, act }: { now: PeopleNow; act: Act }) {
  const { ruleset, actions } = useDesk();
  const { zone } = ruleset.site;
  const browserOf = ({ browser }: Session) => {
    const device = readDevice(browser);
    return [device?.browser, device?.os].filter(Boolean).join(", ") || t("an unknown browser");
  };
  const nameOf = ({ person }: Session) => now.people.find(({ id }) => id === person)?.name ?? person;
  const end = (sessions: readonly Session[]) =>
    void act(
      sessions.map(
        ({ id }) =>
          () =>
            actions.endSession(id),
      ),
      t("{sessions, plural, one {The session is ended} other {# sessions are ended}}", { sessions: sessions.length }),
    );
  const columns: Column<Session>[] = [
    { id: "person", name: t("Person"), few: true, value: nameOf, cell: (session) => <b>{nameOf(session)}</b> },
    { id: "browser", name: t("Browser"), few: true, value: browserOf },
    {
      id: "since",
      name: t("Since"),
      value: ({ beganAt }) => beganAt,
      cell: ({ beganAt }) => timeWords(beganAt, zone),
    },
    {
      id: "end",
      name: t("This browser"),
      value: ({ id }) => (id === now.own ? t("this browser") : ""),
      cell: (session) =>
        session.id === now.own ? (
          <span className="quiet">{t("this browser")}</span>
        ) : (
          <Button onClick={() => end([session])}>{t("End session")}</Button>
        ),
    },
  ];
  return (
    <div className="tablebox">
      <DataTable
        of="session-"
        name={t("Sessions")}
        noun={[t("session"), t("sessions")]}
        rows={now.sessions}
        columns={columns}
        idOf={({ id }) => id}
        nameOf={(session) => `${nameOf(session)}, ${browserOf(session)}`}
        teaches=""
        several={(chosen, done) => {
          const others = chosen.filter(({ id }) => id !== now.own);
          return (
            <Button
              disabled={others.length === 0}
              onClick={() => {
                done();
                end(others);
              }}
            >
              {t("End sessions")}
            </Button>
          );
        }}
      />
    </div>
  );
}
