"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import type { PeopleNow } from "@/server/types";
import { useDesk } from "../parts/desk/desk";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { timeWords } from "../parts/times";
import type { Act } from "./act";
import { RolesChoice } from "./roles-choice";

type Person = PeopleNow["people"][number];

/** Who has access, with which roles; who keeps the people changes both. */
export function PeopleTable({ people, act }: { people: readonly Person[]; act: Act }) {
  const { me, may, ruleset, present, actions } = useDesk();
  const keeps = may("people");
  const { zone } = ruleset.site;
  const here = (person: string) => present.some((one) => one.person === person);
  const letGo = (chosen: readonly Person[], gone: boolean) =>
    void act(
      chosen.map(
        ({ id }) =>
          () =>
            actions.letGo(id, gone),
      ),
      chosen.length !== 1
        ? t("{chosen} people have left, and are signed out everywhere", { chosen: chosen.length })
        : gone
          ? t("{name} has left, and is signed out everywhere", { name: chosen[0]?.name })
          : t("{name} is back", { name: chosen[0]?.name }),
    );
  const columns: Column<Person>[] = [
    {
      id: "person",
      name: t("Person"),
      share: 1.3,
      value: (person) => `${person.name} ${person.email}`,
      cell: (person) => (
        <span style={{ opacity: person.leftAt ? 0.6 : 1 }}>
          <b>{person.name}</b> {person.id === me.id && <span className="quiet">{t("(you)")}</span>}{" "}
          {here(person.id) && <span className="pill live">{t("here")}</span>}
          <br />
          <span className="quiet">{person.email}</span>
        </span>
      ),
    },
    {
      id: "roles",
      name: t("Roles"),
      share: 1.9,
      value: (person) => person.roles.join(", "),
      cell: (person) => (
        <RolesChoice
          of={person.name}
          value={person.roles}
          disabled={!keeps || person.leftAt !== null}
          onChange={(next) =>
            void act(
              [() => actions.setRoles(person.id, next)],
              t("{name} is {roles} now", { name: person.name, roles: next.join(", ") }),
            )
          }
        />
      ),
    },
    {
      id: "access",
      name: t("Access"),
      few: true,
      value: ({ leftAt }) => (leftAt ? t("Left") : t("Has access")),
      cell: (person) => (
        <span className="row">
          {person.leftAt && (
            <span className="quiet">{t("left {timeWords}", { timeWords: timeWords(person.leftAt, zone) })}</span>
          )}
          {keeps && person.id !== me.id ? (
            <Button onClick={() => letGo([person], !person.leftAt)}>
              {person.leftAt ? t("Restore access") : t("Remove")}
            </Button>
          ) : (
            !person.leftAt && <span className="quiet">{t("Has access")}</span>
          )}
        </span>
      ),
    },
  ];
  return (
    <div className="tablebox">
      <DataTable
        name={t("People")}
        noun={[t("person"), t("people")]}
        rows={people}
        columns={columns}
        idOf={({ id }) => id}
        nameOf={({ name }) => name}
        teaches=""
        {...(keeps
          ? {
              several: (chosen: readonly Person[], done: () => void) => {
                const others = chosen.filter(({ id, leftAt }) => id !== me.id && !leftAt);
                return (
                  <Button
                    disabled={others.length === 0}
                    onClick={() => {
                      done();
                      letGo(others, true);
                    }}
                  >
                    {t("Remove")}
                  </Button>
                );
              },
            }
          : {})}
      />
    </div>
  );
}
