"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { valueText } from "@/core/draft/words";
import { useDesk } from "./desk";

/** Two people changed the same: both texts side by side, and one chooses. */
export function ConflictDialog() {
  const { draft, ruleset } = useDesk();
  const { conflict, settle } = draft;
  if (!conflict) return null;
  const { stale, edits } = conflict;
  const mine = edits.find((edit) => edit.do === "set" && edit.at.join("/") === stale.path);
  const texts = [
    { who: t("Yours"), text: valueText(stale.path, mine?.do === "set" ? mine.after : undefined, ruleset) },
    { who: `${stale.by}’s`, text: valueText(stale.path, stale.now, ruleset) },
  ];
  return (
    <Dialog open onClose={() => settle(false)} fullWidth maxWidth="md" aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title">{t("{by} changed this meanwhile", { by: stale.by })}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        <span className="quiet">
          {t("{where}. Nothing is lost: choose which of the two stands.", { where: stale.where })}
        </span>
        <div className="two-texts">
          {texts.map(({ who, text }) => (
            <section key={who} aria-label={who}>
              <b>{who}</b>
              <p>{text}</p>
            </section>
          ))}
        </div>
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={() => settle(false)}>{t("Keep {by}’s", { by: stale.by })}</Button>
        <Button variant="contained" onClick={() => settle(true)}>
          {t("Put mine in its place")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
