"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import * as z from "zod";
import { differences, nothingLive } from "@/core/draft/difference";
import { blocks } from "@/core/release/report";
import { zoneOf } from "@/core/calendar/zone";
import { isLocalDateTime, parseLocal } from "@/core/calendar/calendar";
import { zonePhrase } from "@/core/rules/phrases";
import type { Review } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { Form } from "../parts/form/form";
import { FormDate } from "../parts/form/form-date";
import { useForm } from "../parts/form/use-form";
import { Differences, Said } from "./differences";
import { EffectList } from "./effect-list";
import { ReportLines } from "./report";
import { timeWords } from "../parts/times";

/** What was asked to go live: read, commented, approved or sent back. */
export function ReviewView({ review, onChange }: { review: Review; onChange: () => void }) {
  const { live, ruleset, nameOf, may, me, secondPerson, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: kept, set: setKept } = useAsked("rulesetAt", ["review", review.number], { since: [review] });
  const [timed, setTimed] = useState(false);
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
      enqueueSnackbar(
        "release" in result && result.release ? t("Release {release} is live", { release: result.release }) : done,
        {
          variant: "success",
        },
      );
    else enqueueSnackbar(result.problem, { variant: "error" });
    onChange();
  };
  const comment = async (change: string, says: string) => {
    const comments = await actions
      .comment(review.number, change, says)
      .catch((error: unknown) => void enqueueSnackbar(whyNot(error), { variant: "error" }));
    if (comments && kept) setKept({ ...kept, comments });
  };
  return (
    <>
      <header className="stack">
        <h1>{t("Review {number}", { number: review.number })}</h1>
        <span className="quiet">
          {t("{askedBy} asked on {timeWords} for this to go live{note}", {
            askedBy: nameOf(review.askedBy),
            timeWords: timeWords(review.askedAt, zone),
            note: review.note ? `: “${review.note}”` : ".",
          })}
        </span>
        {review.state !== "open" && (
          <span className="quiet">
            {review.state === "approved"
              ? t("{decidedBy} approved it. It goes live on {timeWords}, {zone}.", {
                  decidedBy: nameOf(review.decidedBy ?? ""),
                  timeWords: timeWords(review.liveAt ?? "", zone),
                  zone: zonePhrase(zone),
                })
              : review.state === "live"
                ? t("It went live as release {release}.", { release: review.release ?? undefined })
                : t("It is {state}, by {decidedBy}.", {
                    state: review.state,
                    decidedBy: nameOf(review.decidedBy ?? ""),
                  })}
          </span>
        )}
        <ReportLines report={review.report} />
        {blocks(review.report) && review.override && (
          <p className="no">{t("Requested anyway, because: “{override}”", { override: review.override })}</p>
        )}
        {undecided && (
          <div className="row wrap">
            {review.state === "open" && mayApprove && !timed && (
              <>
                <Button
                  variant="contained"
                  color="success"
                  disabled={busy}
                  onClick={() => void act(() => actions.approve(review.number, null), t("Approved"))}
                >
                  {t("Approve and publish")}
                </Button>
                <Button disabled={busy} onClick={() => setTimed(true)}>
                  {t("Approve for a time …")}
                </Button>
              </>
            )}
            {mayApprove && timed && (
              <TimeForm
                zone={zone}
                busy={busy}
                onApprove={(at) =>
                  void act(() => actions.approve(review.number, at), t("Approved, and it goes live by itself")).then(
                    () => setTimed(false),
                  )
                }
                onCancel={() => setTimed(false)}
              />
            )}
            {may("release") && (
              <Button
                disabled={busy}
                onClick={() => void act(() => actions.sendBack(review.number), t("Changes requested"))}
              >
                {t("Request changes")}
              </Button>
            )}
            {(own || may("release")) && (
              <Button disabled={busy} onClick={() => void act(() => actions.withdraw(review.number), t("Withdrawn"))}>
                {t("Withdraw")}
              </Button>
            )}
            {!mayApprove && (
              <span className="quiet">
                {own && may("release")
                  ? t("You asked for this yourself: a second person must approve it.")
                  : t("An approver publishes it.")}
              </span>
            )}
          </div>
        )}
        <Said
          about={t("the whole")}
          comments={kept?.comments.filter((item) => item.change === "") ?? []}
          onComment={undecided ? (says) => comment("", says) : undefined}
        />
      </header>
      {kept && live && undecided && (
        <EffectList
          before={{ ruleset: live.ruleset, source: "live", title: t("Now live") }}
          after={{
            ruleset: kept.ruleset,
            source: `review ${review.number}`,
            title: t("Review {number}", { number: review.number }),
          }}
        />
      )}
      <section className="stack" aria-label={t("All changes")}>
        <h2>{t("All changes against what is live")}</h2>
        {changes.length === 0 && <span className="quiet">{t("None.")}</span>}
        <Differences
          differences={changes}
          comments={kept?.comments ?? []}
          {...(undecided ? { onComment: comment } : {})}
        />
      </section>
    </>
  );
}

const timeShape = z.object({ at: z.string().refine((at) => isLocalDateTime(at), { error: () => t("Say when") }) });

/** Asks when an approved review goes live, by the site's clock. */
function TimeForm({
  zone,
  busy,
  onApprove,
  onCancel,
}: {
  zone: string;
  busy: boolean;
  /** @param at RFC 3339 */
  onApprove: (at: string) => void;
  onCancel: () => void;
}) {
  const form = useForm(timeShape, { at: "" });
  const { control } = form;
  return (
    <Form
      className="row"
      form={form}
      onSend={({ at }) => onApprove(new Date(zoneOf(zone).toInstant(parseLocal(at) as number)).toISOString())}
    >
      <FormDate
        control={control}
        name="at"
        grain="minute"
        autoFocus
        label={t("Goes live at, {zone}", { zone: zonePhrase(zone) })}
        width={260}
      />
      <Button type="submit" variant="contained" color="success" disabled={busy}>
        {t("Approve")}
      </Button>
      <Button onClick={onCancel}>{t("Cancel")}</Button>
    </Form>
  );
}
