"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import QRCode from "qrcode";
import { useEffect, useState } from "react";
import { saveFile } from "../parts/files";

/** A link as a QR code, as SVG for print and PNG for slides. */
export function QrDialog({
  name,
  file,
  link,
  onClose,
}: {
  name: string;
  file: string;
  link: string;
  onClose: () => void;
}) {
  const [svg, setSvg] = useState("");
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    QRCode.toString(link, { type: "svg", margin: 4, errorCorrectionLevel: "M" }).then(setSvg, () =>
      setProblem(t("This link is too long for a QR code.")),
    );
  }, [link]);
  const png = async () => {
    const url = await QRCode.toDataURL(link, { width: 1024, margin: 4, errorCorrectionLevel: "M" });
    const bytes = Uint8Array.from(atob(url.slice(url.indexOf(",") + 1)), (letter) => letter.charCodeAt(0));
    saveFile(`${file}.png`, bytes, "image/png");
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="qr-title">
      <DialogTitle id="qr-title">{name}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        {problem ? (
          <p className="error" role="alert">
            {problem}
          </p>
        ) : (
          <div
            className="qr"
            role="img"
            aria-label={t("QR code of {link}", { link })}
            dangerouslySetInnerHTML={{ __html: svg }}
          />
        )}
        <code className="code wrapped">{link}</code>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("Close")}</Button>
        <Button disabled={!svg} onClick={() => saveFile(`${file}.svg`, svg, "image/svg+xml")}>
          {t("Download SVG")}
        </Button>
        <Button variant="contained" disabled={!svg} onClick={() => void png()}>
          {t("Download PNG")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
