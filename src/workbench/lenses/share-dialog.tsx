"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import QRCode from "qrcode";
import { useState } from "react";
import { LinkButtons } from "../parts/link-buttons";
import { OpenShares } from "./open-shares";
import { useDesk, type Lens } from "../parts/desk/desk";

const lastings = said([
  { minutes: 60, name: text("one hour") },
  { minutes: 1440, name: text("a day") },
  { minutes: 10_080, name: text("a week") },
]);

/** Shares a lens by link, with a QR code for a phone on the same network. */
export function ShareDialog({ lens, onClose }: { lens: Pick<Lens, "name" | "visit">; onClose: () => void }) {
  const { actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [minutes, setMinutes] = useState(60);
  const [source, setSource] = useState<"draft" | "live">("draft");
  const [made, setMade] = useState<{ id: string; links: string[]; qr: string }>();
  const [at, setAt] = useState(0);
  const draw = (link: string) => QRCode.toString(link, { type: "svg", margin: 1, errorCorrectionLevel: "M" });
  const make = async () => {
    const { page: _page, ...visit } = lens.visit;
    const found = await actions
      .share({ look: { visit, source, pins: {}, plain: true }, title: lens.name, minutes })
      .catch(() => undefined);
    if (!found) return enqueueSnackbar(t("The server could not be reached. Nothing is shared."), { variant: "error" });
    setAt(0);
    setMade({ ...found, qr: await draw(found.links[0] as string) });
  };
  const link = made?.links[at] ?? "";
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="share-title">
      <DialogTitle id="share-title">{t("Share “{lens}”", { lens: lens.name })}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        <span className="quiet">
          {t(
            "Anyone with the link sees the site through this lens, on any device, and can change nothing. A frame around it says what is made up.",
          )}
        </span>
        {!made ? (
          <div className="row" style={{ marginTop: 8 }}>
            <TextField
              select
              label={t("For")}
              value={minutes}
              onChange={(event) => setMinutes(Number(event.target.value))}
            >
              {lastings.map((item) => (
                <MenuItem key={item.minutes} value={item.minutes}>
                  {item.name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              select
              label={t("Under")}
              value={source}
              onChange={(event) => setSource(event.target.value as "draft" | "live")}
            >
              <MenuItem value="draft">{t("the draft, as it then stands")}</MenuItem>
              <MenuItem value="live">{t("what is live")}</MenuItem>
            </TextField>
          </div>
        ) : (
          <div className="shareqr">
            <div
              dangerouslySetInnerHTML={{ __html: made.qr }}
              role="img"
              aria-label={t("QR code of {link}", { link })}
            />
            <div className="stack">
              <TextField
                select={made.links.length > 1}
                label={t("Link")}
                value={made.links.length > 1 ? at : link}
                helperText={t("The first address is this machine’s on its network: a phone there can open it")}
                onChange={async (event) => {
                  const next = Number(event.target.value);
                  setAt(next);
                  setMade({ ...made, qr: await draw(made.links[next] as string) });
                }}
              >
                {made.links.map((item, index) => (
                  <MenuItem key={item} value={index}>
                    {item}
                  </MenuItem>
                ))}
              </TextField>
              <div className="row">
                <LinkButtons link={link} />
                <Button
                  color="error"
                  onClick={async () => {
                    await actions.unshare(made.id);
                    enqueueSnackbar(t("The link is ended"));
                    onClose();
                  }}
                >
                  {t("End link")}
                </Button>
              </div>
            </div>
          </div>
        )}
        {!made && <OpenShares />}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{t("Close")}</Button>
        {!made && (
          <Button variant="contained" onClick={() => void make()}>
            {t("Create link")}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
