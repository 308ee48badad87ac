"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import { rulesetOf } from "@/core/draft/picks";
import { useDesk } from "../parts/desk/desk";
import { LiveDialog } from "../parts/desk/live-dialog";
import { Differences } from "./differences";
import { EffectList } from "./effect-list";
import { LikeRelease } from "./like-release";

/** What the draft would change. */
export function DraftView() {
  const { live, changed, ruleset, look } = useDesk();
  const [going, setGoing] = useState(false);
  const judged = useMemo(() => rulesetOf(ruleset), [ruleset]);
  if (live && changed.length === 0)
    return (
      <>
        <h1>{t("The draft")}</h1>
        <p className="quiet">
          {rich(
            "The draft is the same as what is live. Change something on {b}, and it stands here: what differs, for whom, and how it looks to them.",
            { b: <b>{t("Pages")}</b> },
          )}
        </p>
      </>
    );
  const finished = look.runnable.problems.length === 0;
  return (
    <>
      <header className="row">
        <h1 style={{ flex: 1 }}>
          {live
            ? t("The draft against release {number}", { number: live.number })
            : t("The draft: nothing is live yet")}
        </h1>
        {live && <LikeRelease ruleset={live.ruleset} words={t("what is live")} />}
        <Button variant="contained" onClick={() => setGoing(true)}>
          {t("Publish draft …")}
        </Button>
      </header>
      {!finished && (
        <p className="error">{t("Something is not finished yet: what is left out here is not looked at.")}</p>
      )}
      {live && (
        <EffectList
          before={{ ruleset: live.ruleset, source: "live", title: t("Now live") }}
          after={{ ruleset: finished ? judged : look.runnable.ruleset, source: "draft", title: t("The draft") }}
        />
      )}
      <section className="stack" aria-label={t("All changes")}>
        <h2>{t("All changes")}</h2>
        <Differences differences={changed} />
      </section>
      {going && <LiveDialog onClose={() => setGoing(false)} />}
    </>
  );
}
