"use client";
import { locale, said, t, text } from "@/core/messages/t";
import Divider from "@mui/material/Divider";
import ListItemText from "@mui/material/ListItemText";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { useColorScheme } from "@mui/material/styles";
import { Check } from "lucide-react";
import { useState } from "react";
import { goFresh } from "../../door/enter";
import { languageCookie, languages, locales, type Language } from "@/core/messages/languages";
import { keepHere } from "../kept-here";
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
        <span className="people-here" role="group" aria-label={t("Also here")}>
          {others.slice(0, 3).map((one) => (
            <Tooltip
              key={one.person}
              title={t("{name} is at {find}", {
                name: one.name,
                find: allScreens.find((screen) => screen.path === one.screen)?.name ?? "Mirada",
              })}
            >
              <span className="person" tabIndex={0} aria-label={t("{name} is here", { name: one.name })}>
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
        aria-label={t("You are {me}", { me: me.name })}
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
          {t("People and sessions")}
        </MenuItem>
        <Divider />
        <ThemeItems />
        <Divider />
        <LanguageItems />
        <Divider />
        <MenuItem onClick={() => void leave()}>{t("Sign out")}</MenuItem>
      </Menu>
    </>
  );
}

const themes = said([
  ["system", text("Theme of the system")],
  ["light", text("Light theme")],
  ["dark", text("Dark theme")],
]);

/** One of several that exclude each other, in a menu. */
function Choice({ words, chosen, ...more }: { words: string; chosen: boolean; lang?: string; onClick: () => void }) {
  return (
    <MenuItem role="menuitemradio" aria-checked={chosen} {...more}>
      <span style={{ flex: 1 }}>{words}</span>
      {chosen && <Check size={14} style={{ marginLeft: 12 }} />}
    </MenuItem>
  );
}

/** Chooses the theme of this browser. */
function ThemeItems() {
  const { mode = "system", setMode } = useColorScheme();
  return themes.map(([theme, words]) => (
    <Choice key={theme} words={words} chosen={mode === theme} onClick={() => setMode(theme)} />
  ));
}

/** Chooses the language of this browser: the page is read anew, since everything in it is said once. */
function LanguageItems() {
  return (Object.keys(languages) as Language[]).map((language) => (
    <Choice
      key={language}
      words={languages[language]}
      chosen={locales[language] === locale()}
      lang={language}
      onClick={() => {
        keepHere(languageCookie, language);
        goFresh(window.location.pathname + window.location.search);
      }}
    />
  ));
}
