"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import { differences, nothingLive } from "@/core/draft/difference";
import { blocks } from "@/core/release/report";
import { zoneOf } from "@/core/calendar/zone";
import { parseLocal } from "@/core/calendar/calendar";
import { zonePhrase } from "@/core/rules/phrases";
import type { Review } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { Differences, Said } from "./differences";
import { EffectList } from "./effect-list";
import { ReportLines } from "./report";
import { timeWords } from "../parts/times";

/** What was asked to go live: read, commented, approved or sent back. */
export function ReviewView({ review, onChange }: { review: Review; onChange: () => void }) {
  const { live, ruleset, nameOf, may, me, secondPerson, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: kept, set: setKept } = useAsked("rulesetAt", ["review", review.number], { since: [review] });
  const [at, setAt] = useState<string>();
  const [busy, setBusy] = useState(false);
  const { zone } = ruleset.site;
  const changes = useMemo(
    () => (kept ? differences(live?.ruleset ?? nothingLive(kept.ruleset), kept.ruleset) : []),
    [kept, live],
  );
  const undecided = review.state === "open" || review.state === "approved";
  const own = review.askedBy === me.id;
  const mayApprove = may("release") && !(secondPerson && own);
  const act = async (ask: () => Promise<{ ok: boolean; problem?: string; release?: number }>, done: string) => {
    setBusy(true);
    const result = await ask().catch((error: unknown) => ({ ok: false, problem: whyNot(error) }));
    setBusy(false);
    if (result.ok)
      enqueueSnackbar("release" in result && result.release ? `Release ${result.release} is live` : done, {
        variant: "success",
      });
    else enqueueSnackbar(result.problem, { variant: "error" });
    onChange();
  };
  const comment = async (change: string, says: string) => {
    const comments = await actions
      .comment(review.number, change, says)
      .catch((error: unknown) => void enqueueSnackbar(whyNot(error), { variant: "error" }));
    if (comments && kept) setKept({ ...kept, comments });
  };
  const local = at ? parseLocal(at) : undefined;
  const instant = local === undefined ? undefined : zoneOf(zone).toInstant(local);
  return (
    <>
      <header className="stack">
        <h1>Review {review.number}</h1>
        <span className="quiet">
          {nameOf(review.askedBy)} asked on {timeWords(review.askedAt, zone)} for this to go live
          {review.note ? <>: “{review.note}”</> : "."}
        </span>
        {review.state !== "open" && (
          <span className="quiet">
            {review.state === "approved"
              ? `${nameOf(review.decidedBy ?? "")} approved it. It goes live on ${timeWords(review.liveAt ?? "", zone)}, ${zonePhrase(zone)}.`
              : review.state === "live"
                ? `It went live as release ${review.release}.`
                : `It is ${review.state}, by ${nameOf(review.decidedBy ?? "")}.`}
          </span>
        )}
        <ReportLines report={review.report} />
        {blocks(review.report) && review.override && (
          <p className="no">Requested anyway, because: “{review.override}”</p>
        )}
        {undecided && (
          <div className="row wrap">
            {review.state === "open" && mayApprove && at === undefined && (
              <>
                <Button
                  variant="contained"
                  color="success"
                  disabled={busy}
                  onClick={() => void act(() => actions.approve(review.number, null), "Approved")}
                >
                  Approve and publish
                </Button>
                <Button disabled={busy} onClick={() => setAt("")}>
                  Approve for a time …
                </Button>
              </>
            )}
            {mayApprove && at !== undefined && (
              <form
                className="row"
                onSubmit={(event) => {
                  event.preventDefault();
                  if (instant !== undefined)
                    void act(
                      () => actions.approve(review.number, new Date(instant).toISOString()),
                      "Approved, and it goes live by itself",
                    ).then(() => setAt(undefined));
                }}
              >
                <TextField
                  type="datetime-local"
                  autoFocus
                  label={`Goes live at, ${zonePhrase(zone)}`}
                  value={at}
                  onChange={(event) => setAt(event.target.value)}
                  slotProps={{ inputLabel: { shrink: true } }}
                  sx={{ width: 260 }}
                />
                <Button type="submit" variant="contained" color="success" disabled={busy || instant === undefined}>
                  Approve
                </Button>
                <Button onClick={() => setAt(undefined)}>Cancel</Button>
              </form>
            )}
            {may("release") && (
              <Button
                disabled={busy}
                onClick={() => void act(() => actions.sendBack(review.number), "Changes requested")}
              >
                Request changes
              </Button>
            )}
            {(own || may("release")) && (
              <Button disabled={busy} onClick={() => void act(() => actions.withdraw(review.number), "Withdrawn")}>
                Withdraw
              </Button>
            )}
            {!mayApprove && (
              <span className="quiet">
                {own && may("release")
                  ? "You asked for this yourself: a second person must approve it."
                  : "An approver publishes it."}
              </span>
            )}
          </div>
        )}
        <Said
          about="the whole"
          comments={kept?.comments.filter((item) => item.change === "") ?? []}
          onComment={undecided ? (says) => comment("", says) : undefined}
        />
      </header>
      {kept && live && undecided && (
        <EffectList
          before={{ ruleset: live.ruleset, source: "live", title: "Now live" }}
          after={{ ruleset: kept.ruleset, source: `review ${review.number}`, title: `Review ${review.number}` }}
        />
      )}
      <section className="stack" aria-label="All changes">
        <h2>All changes against what is live</h2>
        {changes.length === 0 && <span className="quiet">None.</span>}
        <Differences
          differences={changes}
          comments={kept?.comments ?? []}
          {...(undecided ? { onComment: comment } : {})}
        />
      </section>
    </>
  );
}
