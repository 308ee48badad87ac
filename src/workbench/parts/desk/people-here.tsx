"use client";
import ListItemText from "@mui/material/ListItemText";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { useColorScheme } from "@mui/material/styles";
import { Check } from "lucide-react";
import { useState } from "react";
import { goFresh } from "../../door/enter";
import { useDesk } from "./desk";
import { allScreens } from "./screens";
import { useGo } from "./use-go";

const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => word[0] ?? "")
    .join("")
    .slice(0, 2)
    .toUpperCase();

/** Who else has the workbench open, and at which screen; and oneself, with the way out. */
export function PeopleHere() {
  const { me, present } = useDesk();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const go = useGo();
  const others = [...new Map(present.filter((one) => one.person !== me.id).map((one) => [one.person, one])).values()];
  const leave = async () => {
    await fetch("/leave", { method: "POST" }).catch(() => undefined);
    goFresh("/sign-in");
  };
  return (
    <>
      {others.length > 0 && (
        <span className="people-here" role="group" aria-label="Also here">
          {others.slice(0, 3).map((one) => (
            <Tooltip
              key={one.person}
              title={`${one.name} is at ${allScreens.find((screen) => screen.path === one.screen)?.name ?? "Mirada"}`}
            >
              <span className="person" tabIndex={0} aria-label={`${one.name} is here`}>
                {initials(one.name)}
              </span>
            </Tooltip>
          ))}
          {others.length > 3 && <span className="person">+{others.length - 3}</span>}
        </span>
      )}
      <button
        type="button"
        className="person own"
        aria-haspopup="menu"
        aria-label={`You are ${me.name}`}
        onClick={(event) => setMenu(event.currentTarget)}
      >
        {initials(me.name)}
      </button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        <MenuItem disabled sx={{ opacity: "1 !important" }}>
          <ListItemText primary={me.name} secondary={me.roles.join(", ")} />
        </MenuItem>
        <MenuItem
          onClick={() => {
            setMenu(null);
            go("/people");
          }}
        >
          People and sessions
        </MenuItem>
        <ThemeItems />
        <MenuItem onClick={() => void leave()}>Sign out</MenuItem>
      </Menu>
    </>
  );
}

const themes = [
  ["system", "Theme of the system"],
  ["light", "Light theme"],
  ["dark", "Dark theme"],
] as const;

/** Chooses the theme of this browser. */
function ThemeItems() {
  const { mode = "system", setMode } = useColorScheme();
  return themes.map(([theme, words]) => (
    <MenuItem key={theme} role="menuitemradio" aria-checked={mode === theme} onClick={() => setMode(theme)}>
      <span style={{ flex: 1 }}>{words}</span>
      {mode === theme && <Check size={14} style={{ marginLeft: 12 }} />}
    </MenuItem>
  ));
}
