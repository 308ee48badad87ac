"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { Counted } from "@/core/results/counted";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { dayLabel } from "../parts/charts";
import { LinkButtons } from "../parts/link-buttons";
import { useDesk } from "../parts/desk/desk";

const lastings = said([
  { days: 7, name: text("a week") },
  { days: 30, name: text("30 days") },
  { days: 90, name: text("90 days") },
]);

interface Props {
  slot: Pick<Counted, "id" | "name">;
  goal: string;
  from: string;
  until: string;
  today: string;
  nameOf: (slot: string) => string;
  onClose: () => void;
}

/** Makes a link by which anybody reads the results of one slot, and lists those that are good still. */
export function ShareResults({ slot, goal, from, until, today, nameOf, onClose }: Props) {
  const { actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [days, setDays] = useState(30);
  const [goesOn, setGoesOn] = useState(until === today);
  const [link, setLink] = useState<string>();
  const { value: links = [], set: setLinks } = useAsked("resultLinks", [], { since: [link] });
  const fail = (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" });
  const make = () =>
    actions
      .shareResults({ slot: slot.id, goal, from, until: goesOn ? null : until, days })
      .then((name) => setLink(`${window.location.origin}/shared-results/${name}`), fail);
  const end = (id: string) =>
    actions.endResultLink(id).then(() => {
      setLinks(links.filter((item) => item.id !== id));
      enqueueSnackbar(t("The link is ended"));
    }, fail);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="share-results-title">
      <DialogTitle id="share-results-title">{t("Share the results of “{slot}”", { slot: slot.name })}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        <span className="quiet">
          {t(
            "Anyone with the link who can reach this address can read these results, and nothing else of the site. Nothing can be changed by it.",
          )}
        </span>
        {link === undefined ? (
          <div className="row" style={{ marginTop: 8 }}>
            <TextField
              select
              label={t("The link is good for")}
              value={days}
              onChange={(event) => setDays(Number(event.target.value))}
              sx={{ width: 180 }}
            >
              {lastings.map((item) => (
                <MenuItem key={item.days} value={item.days}>
                  {item.name}
                </MenuItem>
              ))}
            </TextField>
            <FormControlLabel
              control={<Checkbox checked={goesOn} onChange={(event) => setGoesOn(event.target.checked)} />}
              label={t("From {from} on, with the days to come", { from: dayLabel(from) })}
            />
          </div>
        ) : (
          <div className="row" style={{ marginTop: 8 }}>
            <TextField label={t("Link")} value={link} slotProps={{ input: { readOnly: true } }} sx={{ flex: 1 }} />
            <LinkButtons link={link} />
          </div>
        )}
        {links.length > 0 && (
          <>
            <h3 style={{ margin: 0 }}>{t("Open links")}</h3>
            <ul className="plain stack" style={{ gap: 2 }} aria-label={t("Open links")}>
              {links.map((item) => (
                <li key={item.id} className="row">
                  <span style={{ flex: 1 }}>
                    {t("{slot}, from {from}", { slot: nameOf(item.slot), from: dayLabel(item.from) })}{" "}
                    {item.until === null ? t("onwards") : t("to {until}", { until: dayLabel(item.until) })}{" "}
                    <span className="quiet">
                      {t("good until {endsAt}", { endsAt: dayLabel(item.endsAt.slice(0, 10)) })}
                    </span>
                  </span>
                  <Button onClick={() => void end(item.id)}>{t("End link")}</Button>
                </li>
              ))}
            </ul>
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{t("Close")}</Button>
        {link === undefined && (
          <Button variant="contained" onClick={() => void make()}>
            {t("Create link")}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
