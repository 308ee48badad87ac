"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { Pause as PauseIcon, Play } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import * as z from "zod";
import { pausedName, type Pause } from "@/core/release/pause";
import { whyNot } from "./actions";
import { useDesk } from "./desk/desk";
import { Form } from "./form/form";
import { FormText } from "./form/form-text";
import { saying, useForm } from "./form/use-form";
import { timeWords } from "./times";

const shape = z.object({ reason: saying(() => t("Say why")) });

/** Pauses something on the live site at once, without a release, and lets it go on. Nothing is shown for what is not live. */
export function PauseButton({ kind, id }: Pause) {
  const { live, pauses, setPauses, may, nameOf, ruleset, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [asking, setAsking] = useState(false);
  const form = useForm(shape, { reason: "" });
  const { control } = form;
  const name = live && pausedName(live.ruleset, { kind, id });
  const paused = pauses.find((pause) => pause.kind === kind && pause.id === id);
  if (!name) return null;
  const act = (ask: () => Promise<typeof pauses | string>, done: string) =>
    ask().then(
      (left) => {
        if (typeof left === "string") return enqueueSnackbar(left, { variant: "error" });
        setPauses([...left]);
        setAsking(false);
        return enqueueSnackbar(done, { variant: "success" });
      },
      (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }),
    );
  return (
    <>
      {paused && (
        <span className="no">
          {t("Paused on the live site by {person}, {timeWords}: “{reason}”", {
            person: nameOf(paused.person),
            timeWords: timeWords(paused.at, ruleset.site.zone),
            reason: paused.reason,
          })}
        </span>
      )}
      {may("release") &&
        (paused ? (
          <Button
            startIcon={<Play size={14} />}
            onClick={() => void act(() => actions.endPause({ kind, id }), t("{name} goes on", { name }))}
          >
            {t("Resume")}
          </Button>
        ) : (
          <Button startIcon={<PauseIcon size={14} />} onClick={() => setAsking(true)}>
            {t("Pause on the live site")}
          </Button>
        ))}
      {asking && (
        <Dialog open onClose={() => setAsking(false)} fullWidth maxWidth="xs" aria-labelledby="pause-title">
          <Form
            form={form}
            onSend={({ reason }) =>
              act(
                () => actions.pause({ kind, id }, reason),
                t("{name} is paused: no visitor gets it any more", { name }),
              )
            }
          >
            <DialogTitle id="pause-title">{t("Pause {name}", { name })}</DialogTitle>
            <DialogContent className="stack" sx={{ px: "22px" }}>
              <span className="quiet">
                {t(
                  "From now on no visitor gets it, whatever the release says. What stands below it in the list is shown instead. The draft stays as it is.",
                )}
              </span>
              <FormText
                control={control}
                name="reason"
                autoFocus
                required
                label={t("Why")}
                slotProps={{ htmlInput: { maxLength: 300 } }}
              />
            </DialogContent>
            <DialogActions sx={{ px: "22px", pb: 4 }}>
              <Button onClick={() => setAsking(false)}>{t("Cancel")}</Button>
              <Button type="submit" variant="contained" color="error">
                {t("Pause")}
              </Button>
            </DialogActions>
          </Form>
        </Dialog>
      )}
    </>
  );
}
