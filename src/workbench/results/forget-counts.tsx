"use client";
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
      <DialogTitle id="forget-counts-title">Delete what was counted of “{name}”?</DialogTitle>
      <DialogContent>
        From {dayLabel(from)} to {dayLabel(until)}: it was seen {plain(exposures)} times, and all that came of it goes
        with that, permanently. Meant for what you tried yourselves before it was live, or what a machine made.
      </DialogContent>
      <DialogActions>
        <Button autoFocus onClick={onClose}>
          Keep it
        </Button>
        <Button variant="contained" color="error" onClick={onForget}>
          Delete it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
