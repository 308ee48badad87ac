"use client";
import { t } from "@/core/messages/t";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { ChevronDown } from "lucide-react";
import { useState } from "react";
import type { SitesNow } from "@/server/types";
import { goFresh } from "../../door/enter";
import { Mark } from "../../door/mark";
import { installationActions } from "../actions";
import { useDesk } from "./desk";
import { siteBase, useScreen } from "./site-address";

/** So many sites stand in the menu; with more the list, where one can search, is the better way. */
const most = 12;

/** The site one is at, and the way to the others: to the same screen there. */
export function SiteSwitcher() {
  const { ruleset, site } = useDesk();
  const screen = useScreen();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [sites, setSites] = useState<SitesNow["sites"]>();
  const open = (at: HTMLElement) => {
    setMenu(at);
    installationActions.sites().then(
      (now) => setSites(now.sites.filter((item) => !item.archivedAt)),
      () => undefined,
    );
  };
  return (
    <>
      <button
        type="button"
        className="mark"
        aria-haspopup="menu"
        aria-expanded={menu !== null}
        aria-label={t("Site: {site}", { site: ruleset.site.name })}
        onClick={(event) => open(event.currentTarget)}
      >
        <Mark />
        <span>{ruleset.site.name}</span>
        <ChevronDown size={13} />
      </button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {sites?.slice(0, most).map((item) => (
          <MenuItem
            key={item.id}
            selected={item.id === site}
            onClick={() => {
              setMenu(null);
              if (item.id !== site) goFresh(`${siteBase(item.id)}${screen}`);
            }}
          >
            {item.name}
          </MenuItem>
        ))}
        <MenuItem onClick={() => goFresh("/sites")}>{t("All sites …")}</MenuItem>
      </Menu>
    </>
  );
}
