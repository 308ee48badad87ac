"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import * as z from "zod";
import { differences } from "@/core/draft/difference";
import { releaseBefore } from "@/core/release/before";
import { pausedName } from "@/core/release/pause";
import type { ReleasesNow } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { useForm } from "../parts/form/use-form";
import { Differences } from "./differences";
import { EffectList } from "./effect-list";
import { LikeRelease } from "./like-release";
import { timeWords } from "../parts/times";

const shape = z.object({ why: z.string().trim() });

/** A release: when it was live, and the way back to it. */
export function ReleaseView({ number, now, onChange }: { number: number; now: ReleasesNow; onChange: () => void }) {
  const { live, ruleset, nameOf, may, pauses, setPauses, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [asking, setAsking] = useState(false);
  const form = useForm(shape, { why: "" });
  const { control } = form;
  const { zone } = ruleset.site;
  const release = now.releases.find((one) => one.number === number);
  const isLive = live?.number === number;
  // An earlier one is held against what is live, and what is live against what was live before it.
  const asked = isLive ? releaseBefore(now.wentLive, number) : number;
  const { value: earlier } = useAsked("rulesetAt", ["release", asked ?? 0], { when: asked !== undefined });
  const changes = useMemo(() => {
    if (!earlier || !live) return [];
    return isLive ? differences(earlier.ruleset, live.ruleset) : differences(live.ruleset, earlier.ruleset);
  }, [earlier, live, isLive]);
  if (!release) return <p className="quiet">{t("There is no such release.")}</p>;
  const times = now.wentLive.filter((one) => one.release === number);
  return (
    <>
      <header className="stack">
        <div className="row">
          <h1 style={{ flex: 1 }}>
            {rich("Release {number} {span}", {
              number,
              span: isLive && <span className="pill live">{t("live")}</span>,
            })}
          </h1>
          {!isLive && earlier && <LikeRelease ruleset={earlier.ruleset} words={t("release {number}", { number })} />}
          {!isLive && may("release") && !asking && <Button onClick={() => setAsking(true)}>{t("Roll back …")}</Button>}
        </div>
        {asking && (
          <Form
            className="row"
            form={form}
            onSend={({ why }) =>
              actions.returnTo(number, why).then(
                (done) => {
                  enqueueSnackbar(done.ok ? t("Release {number} is live again", { number }) : done.problem, {
                    variant: done.ok ? "success" : "error",
                  });
                  setAsking(false);
                  onChange();
                },
                (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }),
              )
            }
          >
            <FormText
              control={control}
              name="why"
              autoFocus
              label={t("Why, for the audit trail")}
              slotProps={{ htmlInput: { maxLength: 500 } }}
            />
            <Button type="submit" variant="contained" color="success" style={{ whiteSpace: "nowrap" }}>
              {t("Roll back")}
            </Button>
            <Button onClick={() => setAsking(false)}>{t("Cancel")}</Button>
          </Form>
        )}
        {release.note && <p className="serif">“{release.note}”</p>}
        <ul className="plain quiet">
          {times.map((one) => (
            <li key={one.number}>
              {t("went live {timeWords}, by {person}", {
                timeWords: timeWords(one.at, zone),
                person: nameOf(one.person),
              })}
              {one.why && one.why !== release.note ? `: ${one.why}` : ""}
            </li>
          ))}
        </ul>
        <span className="quiet">{rich("SHA-256 {code}", { code: <code>{release.sha256.slice(0, 16)}…</code> })}</span>
      </header>
      {isLive && pauses.length > 0 && (
        <section className="stack" aria-label={t("Paused")}>
          <h2>{t("Paused")}</h2>
          {pauses.map((pause) => (
            <div key={`${pause.kind} ${pause.id}`} className="row line">
              <span style={{ flex: 1 }}>
                {rich("{pausedName} by {person},", {
                  pausedName: <b>{pausedName(live.ruleset, pause) ?? pause.id}</b>,
                  person: nameOf(pause.person),
                })}{" "}
                {timeWords(pause.at, zone)}: “{pause.reason}”
              </span>
              {may("release") && (
                <Button
                  onClick={() =>
                    void actions
                      .endPause({ kind: pause.kind, id: pause.id })
                      .then((left) => typeof left !== "string" && setPauses(left))
                  }
                >
                  {t("Resume")}
                </Button>
              )}
            </div>
          ))}
        </section>
      )}
      {isLive && (
        <p className="quiet">
          {t(
            "This is what visitors get. Pick an earlier release to see in what it differs, and to return to it in one step.",
          )}
        </p>
      )}
      {earlier && asked !== undefined && live && (
        <>
          {isLive ? (
            <EffectList
              before={{
                ruleset: earlier.ruleset,
                source: `release ${asked}`,
                title: t("Before, release {asked}", { asked }),
              }}
              after={{
                ruleset: live.ruleset,
                source: "live",
                title: t("Now live, release {number}", { number: live.number }),
              }}
            />
          ) : (
            <EffectList
              before={{
                ruleset: live.ruleset,
                source: "live",
                title: t("Now live, release {number}", { number: live.number }),
              }}
              after={{
                ruleset: earlier.ruleset,
                source: `release ${number}`,
                title: t("Release {number}", { number }),
              }}
            />
          )}
          <section className="stack" aria-label={t("All changes")}>
            <h2>
              {isLive ? t("What it changed of release {asked}", { asked }) : t("In what it differs from what is live")}
            </h2>
            {changes.length === 0 ? (
              <span className="quiet">{t("Nothing.")}</span>
            ) : (
              <Differences differences={changes} />
            )}
          </section>
        </>
      )}
    </>
  );
}
