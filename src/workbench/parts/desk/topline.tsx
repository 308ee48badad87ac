"use client";
import { t } from "@/core/messages/t";
import { rich } from "../rich";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { ChevronDown, Command, Redo2, Undo2 } from "lucide-react";
import { To, useScreen } from "./site-address";
import { SiteSwitcher } from "./site-switcher";
import { useMemo, useState } from "react";
import { runCheck } from "@/core/checks/run";
import { isFault } from "@/core/analysis/findings";
import { HelpMenu } from "../help/help-menu";
import { useDesk } from "./desk";
import { LiveDialog } from "./later";
import { Palette } from "./palette";
import { PeopleHere } from "./people-here";
import { screenGroups, type Screen, type ScreenGroup } from "./screens";
import { useGo } from "./use-go";

/** The line across the top: the screens, undo and redo, what is saved, what is live, and the way to live. */
export function Topline() {
  const { draft, changed, live, look, storefront, findings, checks, review, pauses, may, secondPerson } = useDesk();
  const [going, setGoing] = useState(false);
  const [palette, setPalette] = useState(false);
  const { problems } = look.runnable;
  const faults = findings.list.filter((item) => isFault(item));
  const failing = useMemo(
    () => checks.filter((check) => !runCheck(check, look.engine).passed).length,
    [checks, look.engine],
  );
  return (
    <header className="topline">
      <SiteSwitcher />
      <nav aria-label={t("Screens")}>
        {screenGroups.map((group) => (
          <NavGroup
            key={group.name}
            group={group}
            count={(screen) => (screen.path === "/findings" ? faults.length : screen.path === "/checks" ? failing : 0)}
          />
        ))}
      </nav>
      <div className="end">
        <Tooltip title={t("Go anywhere (Ctrl K)")}>
          <IconButton aria-label={t("Go anywhere")} onClick={() => setPalette(true)}>
            <Command size={15} />
          </IconButton>
        </Tooltip>
        <HelpMenu />
        <Tooltip title={draft.undo ? t("Undo: {undo}", { undo: draft.undo }) : t("Nothing to undo")}>
          <span>
            <IconButton aria-label={t("Undo")} disabled={!draft.undo} onClick={() => draft.undoLast()}>
              <Undo2 size={16} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={draft.redo ? t("Redo: {redo}", { redo: draft.redo }) : t("Nothing to redo")}>
          <span>
            <IconButton aria-label={t("Redo")} disabled={!draft.redo} onClick={() => draft.redoNext()}>
              <Redo2 size={16} />
            </IconButton>
          </span>
        </Tooltip>
        {draft.unsent ? (
          <Tooltip title={t("The server cannot be reached. Your changes are kept here and sent again.")}>
            <span className="pill problem" role="status">
              {t("Not saved")}
            </span>
          </Tooltip>
        ) : (
          <span className="quiet" role="status" style={{ minWidth: 52 }}>
            {draft.saving ? t("Saving …") : t("Saved")}
          </span>
        )}
        {problems.length > 0 && (
          <button type="button" className="pill problem" onClick={() => setGoing(true)}>
            {t("{problems} unfinished", { problems: problems.length })}
          </button>
        )}
        <a href={storefront} target="_blank" rel="noreferrer" className={live ? "pill live" : "pill"}>
          {live ? (
            <>{rich("Live · {release}{number}", { release: <i>{t("release")} </i>, number: live.number })}</>
          ) : (
            t("Nothing live yet")
          )}
          {pauses.length > 0 && t(" · {pauses} paused", { pauses: pauses.length })}
        </a>
        {review && (
          <To href={`/releases?open=review-${review.number}`} className="pill draft review">
            {t("Review {number} · {state}", {
              number: review.number,
              state: review.state === "open" ? t("open") : t("approved"),
            })}
          </To>
        )}
        {checks.length > 0 && (
          <To href="/checks" className={`pill ${failing > 0 ? "problem" : "live spare"}`}>
            {t("Checks {checks} of {checks2}", { checks: checks.length - failing, checks2: checks.length })}
          </To>
        )}
        <span className="pill draft">
          <i>{t("Draft ·")} </i>
          {changed.length === 0
            ? t("no changes")
            : t("{changed, plural, one {# change} other {# changes}}", { changed: changed.length })}
        </span>
        <Button variant="contained" onClick={() => setGoing(true)}>
          {may("release") && !secondPerson ? t("Publish") : t("Request a review")}
        </Button>
        <PeopleHere />
      </div>
      <Palette open={palette} onOpen={setPalette} />
      {going && <LiveDialog onClose={() => setGoing(false)} />}
    </header>
  );
}

/** One entry of the navigation: a screen, or several under one word. `count` says how much is amiss on a screen. */
function NavGroup({ group, count }: { group: ScreenGroup; count: (screen: Screen) => number }) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const path = useScreen();
  const go = useGo();
  const [first] = group.screens;
  const here = group.screens.find((screen) => screen.path === path);
  const amiss = group.screens.reduce((sum, screen) => sum + count(screen), 0);
  const badge = (number: number) => number > 0 && <b className="count">{number}</b>;
  if (group.screens.length === 1 && first)
    return (
      <To href={first.path} aria-current={here ? "page" : undefined}>
        {group.name}
      </To>
    );
  return (
    <>
      <button
        type="button"
        aria-haspopup="menu"
        aria-expanded={menu !== null}
        aria-current={here ? "page" : undefined}
        onClick={(event) => setMenu(event.currentTarget)}
      >
        {group.name}
        {badge(amiss)} <ChevronDown size={13} />
      </button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {group.screens.map((screen) => (
          <MenuItem
            key={screen.path}
            selected={screen.path === path}
            onClick={() => {
              setMenu(null);
              go(screen.path);
            }}
          >
            {screen.name}
            {badge(count(screen))}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
