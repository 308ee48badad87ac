"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { HealthNow } from "@/server/types";
import { now as timeNow } from "@/clock";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { plain } from "../parts/numbers";
import { timeWords } from "../parts/times";
import { agoWords, amiss, processNames, wellOf } from "./well";

/** So often it is looked at again while the screen is open, in milliseconds. */
const again = 5000;

/** What runs, and what failed lately. */
export function HealthScreen() {
  const { may, ruleset } = useDesk();
  const mayLook = may("build");
  const { value: health, problem, again: look } = useAsked("health", [], { when: mayLook, every: again });
  // What is said to have been so long ago is so since the answer.
  const told = useMemo(() => health && { health, at: timeNow() }, [health]);
  if (!mayLook)
    return (
      <main className="settings health">
        <h1>{t("Health")}</h1>
        <p className="teaches wide">{t("Whether all that runs is well is looked at by developers of the site.")}</p>
      </main>
    );
  const wrong = told ? amiss(told.health, told.at) : [];
  return (
    <main className="settings health">
      <div className="row">
        <h1 style={{ flex: 1 }}>{t("Health")}</h1>
        <Button onClick={() => void look()}>{t("Run again")}</Button>
      </div>
      {problem && (
        <p className="error" role="alert">
          {problem}
        </p>
      )}
      {!told ? (
        <p className="quiet">{problem ? "" : t("Looking …")}</p>
      ) : (
        <>
          <div role="status" className={wrong.length > 0 ? "missing" : ""}>
            {wrong.length > 0 ? (
              wrong.map((one) => (
                <div key={one}>
                  <b>{one}</b>
                </div>
              ))
            ) : (
              <b className="yes">{t("All is well: everything answers, and nothing failed within the hour.")}</b>
            )}
          </div>
          <Processes health={told.health} zone={ruleset.site.zone} />
          <Failures failures={told.health.failures} at={told.at} site={ruleset.site.name} />
        </>
      )}
    </main>
  );
}

function Processes({ health: { processes, took }, zone }: { health: HealthNow; zone: string }) {
  return (
    <section aria-label={t("What runs")}>
      <h2>{t("What runs")}</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>{t("Process")}</th>
            <th>{t("Machine")}</th>
            <th>{t("State")}</th>
            <th>{t("Since")}</th>
            <th className="num">{t("Events waiting")}</th>
            <th className="num">{t("Not taken")}</th>
          </tr>
        </thead>
        <tbody>
          {processes.map((one) => {
            const well = wellOf(one);
            return (
              <tr key={`${one.kind} ${one.machine} ${one.port}`}>
                <td>{processNames[one.kind]}</td>
                <td>{t("{machine}, port {port}", { machine: one.machine, port: one.port })}</td>
                <td>
                  <span className={`verdict ${well === "answers" ? "yes" : well === "begins" ? "unsure" : "no"}`}>
                    {well === "answers" ? t("Answers") : well === "begins" ? t("Begins") : t("Silent")}
                  </span>{" "}
                  <span className="quiet">
                    {well === "silent" ? t("heard of {heard}", { heard: agoWords(one.heard) }) : ""}
                  </span>
                </td>
                <td>{timeWords(one.started, zone)}</td>
                <td className="num">{one.kind === "mirror" ? "" : plain(one.waiting)}</td>
                <td className="num">{one.kind === "mirror" ? "" : plain(one.refused + one.dropped)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="quiet">
        {t(
          "The database answered in {max} ms. Events that wait are written within seconds; not taken since a process was started are those that there was no room for, and those that could never be written. A process that is silent was killed, or its line is down: it is forgotten after a day.",
          { max: Math.max(1, Math.round(took)) },
        )}
      </p>
    </section>
  );
}

function Failures({ failures, at, site }: { failures: HealthNow["failures"]; at: number; site: string }) {
  return (
    <section aria-label={t("What failed")}>
      <h2>{t("What failed in the last 30 days")}</h2>
      {failures.length === 0 ? (
        <p className="teaches wide">
          {t(
            "Nothing. A release that could not go live at its time, a rule that could not be decided, a connection that was lost: each is counted here, and has a line in the log of its process.",
          )}
        </p>
      ) : (
        <table className="grid">
          <thead>
            <tr>
              <th>{t("What")}</th>
              <th>{t("Of")}</th>
              <th>{t("Last")}</th>
              <th className="num">{t("Times")}</th>
            </tr>
          </thead>
          <tbody>
            {failures.map((one) => (
              <tr key={JSON.stringify([one.site, one.what, one.error])}>
                <td>
                  {one.what.charAt(0).toUpperCase() + one.what.slice(1)}
                  <br />
                  <span className="quiet" style={{ overflowWrap: "anywhere" }}>
                    {one.error}
                  </span>
                </td>
                <td>{one.site === "" ? t("all sites") : site}</td>
                <td title={one.last}>{agoWords(Math.max(0, (at - Date.parse(one.last)) / 1000))}</td>
                <td className="num">{plain(one.count)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
