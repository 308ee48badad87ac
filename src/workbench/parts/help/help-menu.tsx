"use client";
import { t } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { CircleQuestionMark } from "lucide-react";
import dynamic from "next/dynamic";
import { useEffect, useState } from "react";
import { useDesk } from "../desk/desk";
import { useGo } from "../desk/use-go";
import { showFirstSteps } from "./first-steps";

// Read by few, and seldom: it comes when it is opened.
const HelpPanel = dynamic(() => import("./panel").then((part) => part.HelpPanel), { ssr: false });
const Shortcuts = dynamic(() => import("./shortcuts").then((part) => part.Shortcuts), { ssr: false });

/** The way to the guides and to the sheet of shortcuts, which "?" opens, too. */
export function HelpMenu() {
  const { site, may } = useDesk();
  const go = useGo();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [shown, setShown] = useState<"guides" | "shortcuts">();
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const field = (event.target as HTMLElement).closest("input, textarea, [contenteditable], [role=dialog]");
      if (event.key !== "?" || field || event.ctrlKey || event.metaKey) return;
      event.preventDefault();
      setShown("shortcuts");
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, []);
  const show = (what: typeof shown) => {
    setMenu(null);
    setShown(what);
  };
  const close = () => setShown(undefined);
  return (
    <>
      <Tooltip title={t("Help")}>
        <IconButton
          aria-label={t("Help")}
          aria-haspopup="menu"
          aria-expanded={menu !== null}
          onClick={(event) => setMenu(event.currentTarget)}
        >
          <CircleQuestionMark size={16} />
        </IconButton>
      </Tooltip>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => show("guides")}>{t("Guides and words")}</MenuItem>
        {may("rules") && (
          <MenuItem
            onClick={() => {
              setMenu(null);
              showFirstSteps(site);
              go("/pages");
            }}
          >
            {t("First steps")}
          </MenuItem>
        )}
        <MenuItem onClick={() => show("shortcuts")}>{t("Keyboard shortcuts")}</MenuItem>
      </Menu>
      {shown === "guides" && <HelpPanel onClose={close} />}
      {shown === "shortcuts" && <Shortcuts onClose={close} />}
    </>
  );
}
