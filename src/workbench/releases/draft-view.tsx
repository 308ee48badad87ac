"use client";
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
        <h1>The draft</h1>
        <p className="quiet">
          The draft is the same as what is live. Change something on <b>Pages</b>, and it stands here: what differs, for
          whom, and how it looks to them.
        </p>
      </>
    );
  const finished = look.runnable.problems.length === 0;
  return (
    <>
      <header className="row">
        <h1 style={{ flex: 1 }}>
          {live ? `The draft against release ${live.number}` : "The draft: nothing is live yet"}
        </h1>
        {live && <LikeRelease ruleset={live.ruleset} words="what is live" />}
        <Button variant="contained" onClick={() => setGoing(true)}>
          Publish draft …
        </Button>
      </header>
      {!finished && <p className="error">Something is not finished yet: what is left out here is not looked at.</p>}
      {live && (
        <EffectList
          before={{ ruleset: live.ruleset, source: "live", title: "Now live" }}
          after={{ ruleset: finished ? judged : look.runnable.ruleset, source: "draft", title: "The draft" }}
        />
      )}
      <section className="stack" aria-label="All changes">
        <h2>All changes</h2>
        <Differences differences={changed} />
      </section>
      {going && <LiveDialog onClose={() => setGoing(false)} />}
    </>
  );
}
