"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import type { Problem } from "@/core/formats/problem";
import type { Ruleset } from "@/core/formats/ruleset";
import { blocks, failingIn, reportOf, type Report } from "@/core/release/report";
import { NotHeard } from "../../connect/not-heard";
import { Differences } from "../../releases/differences";
import { ReportLines } from "../../releases/report";
import { whyNot } from "../actions";
import { useDesk } from "./desk";
import { addressOf, variantAddress } from "./screens";
import { useGo } from "./use-go";

/**
 * On to live: what differs from what visitors see, in words, and what checks and findings say of it. Whoever may approve their
 * own puts it live here; everybody else asks for a review. What fails keeps it back until a reason is given.
 */
export function LiveDialog({ onClose }: { onClose: () => void }) {
  const { ruleset, draft, live, changed, look, findings, checks, may, secondPerson, review, nameOf, actions } =
    useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const goTo = useGo();
  const [note, setNote] = useState("");
  const [reason, setReason] = useState("");
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const [served, setServed] = useState<Report>();
  const [accepted, setAccepted] = useState<ReadonlySet<string>>(new Set());
  const { problems } = look.runnable;
  const alone = may("release") && !secondPerson;
  // Everything that fails is told before anything is pressed; what the server then finds besides is added.
  const own = useMemo(() => reportOf(look.engine, checks, findings.list), [look.engine, checks, findings.list]);
  const report = served ?? own;
  const failing = blocks(report);
  const open = failingIn(report).some((says) => !accepted.has(says));
  const accept = (says: string, yes: boolean) =>
    setAccepted((old) => (yes ? new Set([...old, says]) : new Set([...old].filter((item) => item !== says))));
  const go = (address: string) => {
    onClose();
    goTo(address);
  };
  const ask = async () => {
    setBusy(true);
    setRefusal(undefined);
    const done = await actions
      .askForReview({
        note: note.trim(),
        version: draft.version,
        reason: reason.trim(),
        live: alone,
        accepted: [...accepted],
      })
      .catch((error: unknown) => ({ ok: false as const, problem: whyNot(error), report: undefined }));
    setBusy(false);
    if (!done.ok) {
      setRefusal(done.problem);
      if (done.report) setServed(done.report);
      return;
    }
    onClose();
    if (done.release)
      enqueueSnackbar(t("Release {release} is live", { release: done.release }), { variant: "success" });
    else {
      enqueueSnackbar(t("Review {review} is open: an approver reads it now", { review: done.review }), {
        variant: "success",
      });
      goTo(addressOf("/releases", `review-${done.review}`));
    }
  };
  const same = live !== undefined && changed.length === 0;
  const ready = problems.length === 0 && !same;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="live-title">
      <DialogTitle id="live-title">{alone ? t("Publish") : t("Request a review")}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        {problems.length > 0 && (
          <div className="stack" role="alert">
            <b className="no">{t("Not everything is finished, so nothing can go live yet.")}</b>
            {problems.map((problem) => {
              const place = placeOf(ruleset, problem);
              return (
                <div key={problem.path} className="row">
                  <span className="error" style={{ flex: 1 }}>
                    {place.name}: {problem.problem}
                  </span>
                  {place.address && <Button onClick={() => go(place.address as string)}>{t("Open")}</Button>}
                </div>
              );
            })}
          </div>
        )}
        {same ? (
          <span>{t("The draft is the same as what is live. There is nothing to publish.")}</span>
        ) : (
          <>
            <div className="row">
              <span className="quiet" style={{ flex: 1 }}>
                {live
                  ? t(
                      "{changed, plural, one {One thing differs} other {# things differ}} from what visitors see now:",
                      { changed: changed.length },
                    )
                  : t("This is the first release of the site: nothing is live yet.")}
              </span>
              {live && (
                <Button variant="text" onClick={() => go(addressOf("/releases", "draft"))}>
                  {t("Who is affected")}
                </Button>
              )}
            </div>
            <NotHeard />
            <Differences differences={changed} />
            {review && (
              <span className="quiet">
                {t("Review {number}, asked for by {askedBy}, is {state}. Asking anew takes its place.", {
                  number: review.number,
                  askedBy: nameOf(review.askedBy),
                  state: review.state,
                })}
              </span>
            )}
            {(report.checks > 0 || failing) && <ReportLines report={report} accepted={accepted} onAccept={accept} />}
            {report.faults.length > 0 && (
              <div className="row">
                <Button onClick={() => go("/findings")}>{t("See the findings")}</Button>
              </div>
            )}
            {problems.length === 0 && (
              <>
                <TextField
                  label={t("Note for the release")}
                  value={note}
                  onChange={(event) => setNote(event.target.value)}
                  slotProps={{ htmlInput: { maxLength: 500 } }}
                  sx={{ mt: 1 }}
                />
                {failing && (
                  <TextField
                    label={t("Reason for publishing anyway")}
                    value={reason}
                    onChange={(event) => setReason(event.target.value)}
                    slotProps={{ htmlInput: { maxLength: 500 } }}
                    helperText={t("What fails keeps a release back, unless you give a reason.")}
                  />
                )}
              </>
            )}
          </>
        )}
        {refusal && (
          <span className="error" role="alert">
            {refusal}
          </span>
        )}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{ready ? t("Cancel") : t("Close")}</Button>
        {ready && (
          <Button
            variant="contained"
            color="success"
            disabled={busy || draft.saving || (failing && (open || reason.trim() === ""))}
            onClick={() => void ask()}
          >
            {draft.saving
              ? t("Saving the draft …")
              : busy
                ? t("Checking …")
                : `${alone ? t("Publish") : t("Request a review")}${failing ? " anyway" : alone ? " now" : ""}`}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

const listScreens: Record<string, string> = {
  audiences: "/audiences",
  placeLists: "/places",
  markers: "/markers",
  offers: "/offers",
  popups: "/popups",
  redirects: "/redirects",
  goals: "/goals",
};

/** Where a problem lies, by names, and the address at which it is mended. */
function placeOf(ruleset: Ruleset, problem: Problem): { name: string; address?: string } {
  const [list = "", index, part, inner] = problem.path.split("/").slice(1);
  const slot = list === "slots" ? ruleset.slots[Number(index)] : undefined;
  const variant = slot && part === "variants" ? slot.variants[Number(inner)] : undefined;
  if (slot && variant)
    return {
      name: `${slot.name}, ${variant.name}${problem.path.includes("/rule") ? t(", its rule") : ""}`,
      address: variantAddress(slot.id, variant.id),
    };
  if (slot) return { name: slot.name, address: variantAddress(slot.id) };
  const items: unknown = Object.entries(ruleset).find(([key]) => key === list)?.[1];
  const item = Array.isArray(items) ? (items[Number(index)] as { id?: string; name?: string } | undefined) : undefined;
  const screen = listScreens[list];
  if (item?.id && screen) return { name: item.name ?? item.id, address: addressOf(screen, item.id) };
  return { name: t("Settings"), address: "/settings" };
}
