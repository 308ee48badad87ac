"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { addHidden, addNothing, hiddenFor, isWhole, type HiddenFor } from "@/core/draft/variants";
import type { Slot } from "@/core/formats/ruleset";
import type { Draft } from "../parts/desk/use-draft";

interface Props {
  slot: Slot;
  draft: Draft;
  /** Opens a variant that is to be finished. */
  onOpen: (variant: string) => void;
}

/** Takes the slot's place away for some visitors: at once, or as soon as it is said for whom. */
export function HideMenu({ slot, draft, onOpen }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const hide = (hidden?: HiddenFor) => {
    setMenu(null);
    const { edit, id } = hidden ? addHidden(slot, draft.ruleset, hidden) : addNothing(slot, draft.ruleset);
    draft.edit(t("{slot} hidden for {who}", { slot: slot.name, who: hidden?.who ?? t("some") }), [edit]);
    if (hidden && isWhole(hidden))
      return enqueueSnackbar(t("{slot} is not shown to {who} any more", { slot: slot.name, who: hidden.who }), {
        action: <Button onClick={() => draft.undoLast()}>{t("Undo")}</Button>,
      });
    onOpen(id);
    enqueueSnackbar(t("Say for whom; it is switched off until you switch it on"));
  };
  return (
    <>
      <Button onClick={(event) => setMenu(event.currentTarget)} aria-haspopup="menu">
        {t("Hide for …")}
      </Button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {hiddenFor.map((hidden) => (
          <MenuItem key={hidden.who} onClick={() => hide(hidden)}>
            {hidden.who}
            {!isWhole(hidden) && " …"}
          </MenuItem>
        ))}
        <MenuItem onClick={() => hide()}>{t("other visitors …")}</MenuItem>
      </Menu>
    </>
  );
}
