"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { To } from "../parts/desk/site-address";
import { popupVerdict } from "@/core/decision/popup-words";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";

interface Props {
  /** The pop-up that is shown at once. */
  shown: string | undefined;
  onShow: (id: string | undefined) => void;
}

/** The pop-up that opens on this page for this visitor, or the one that would but is held back. */
export function PopupLine({ shown, onShow }: Props) {
  const { look, ruleset } = useDesk();
  const traces = look.decision.trace?.popups ?? [];
  const trace =
    traces.find((item) => item.verdict === "shown") ??
    traces.find((item) => item.verdict === "held back") ??
    traces.find((item) => item.id === shown);
  const popup = ruleset.popups.find((item) => item.id === trace?.id);
  if (!popup) return null;
  return (
    <div className="popupline" role="status">
      <span>
        <To href={addressOf("/popups", popup.id)}>
          <b>{popup.name}</b>
        </To>{" "}
        <span className={trace?.verdict === "shown" ? "yes" : "unsure"}>
          {popupVerdict(popup, trace, look.runnable.ruleset)}
        </span>
      </span>
      <Button onClick={() => onShow(shown === popup.id ? undefined : popup.id)}>
        {shown === popup.id ? t("Leave it to its moment") : t("Show it now")}
      </Button>
    </div>
  );
}
