"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { dayLabel } from "../parts/charts";
import { plain } from "../parts/numbers";

interface Props {
  name: string;
  from: string;
  until: string;
  exposures: number;
  onForget: () => void;
  onClose: () => void;
}

/** Asks once more before what was counted is deleted. */
export function ForgetCounts({ name, from, until, exposures, onForget, onClose }: Props) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="forget-counts-title">
      <DialogTitle id="forget-counts-title">{t("Delete what was counted of “{name}”?", { name })}</DialogTitle>
      <DialogContent>
        {t(
          "From {from} to {until}: it was seen {exposures} times, and all that came of it goes with that, permanently. Meant for what you tried yourselves before it was live, or what a machine made.",
          { from: dayLabel(from), until: dayLabel(until), exposures: plain(exposures) },
        )}
      </DialogContent>
      <DialogActions>
        <Button autoFocus onClick={onClose}>
          {t("Keep it")}
        </Button>
        <Button variant="contained" color="error" onClick={onForget}>
          {t("Delete it")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
