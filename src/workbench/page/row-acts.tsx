import { t, text } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { Pin, PinOff } from "lucide-react";

/** Said when a copy was made. */
export const copiedOff = text("The copy is switched off until you switch it on");

/** A small button of a row, named by its tooltip. */
export function Act({
  title,
  onClick,
  children,
}: {
  title: string;
  onClick: (event: React.MouseEvent<HTMLElement>) => void;
  children: React.ReactNode;
}) {
  return (
    <Tooltip title={title}>
      <IconButton size="small" aria-label={title} onClick={onClick}>
        {children}
      </IconButton>
    </Tooltip>
  );
}

/** Shows something on the page whatever its rule says, or no longer. */
export function PinAct({ on, onClick, name }: { on: boolean; onClick: (on: boolean) => void; name: string }) {
  return (
    <Act
      title={on ? t("Unpin {name}", { name }) : t("Pin {name}: show it on the page whatever its rule says", { name })}
      onClick={() => onClick(!on)}
    >
      {on ? <PinOff size={14} /> : <Pin size={14} />}
    </Act>
  );
}
