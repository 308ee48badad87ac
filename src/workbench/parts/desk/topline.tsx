"use client";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { ChevronDown, Command, Redo2, Undo2 } from "lucide-react";
import { useSnackbar } from "notistack";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useMemo, useState } from "react";
import { runCheck } from "@/core/checks/run";
import { isFault } from "@/core/analysis/findings";
import { useDesk } from "./desk";
import { LiveDialog } from "./live-dialog";
import { Palette } from "./palette";
import { moreScreens, screens } from "./screens";
import { useGo } from "./use-go";

/** The line across the top: the screens, undo and redo, what is saved, what is live, and the way to live. */
export function Topline() {
  const { draft, changed, live, setLive, ruleset, look, storefront, actions, findings, checks } = useDesk();
  const [going, setGoing] = useState(false);
  const [more, setMore] = useState<HTMLElement | null>(null);
  const [palette, setPalette] = useState(false);
  const { enqueueSnackbar } = useSnackbar();
  const path = usePathname();
  const go = useGo();
  const { problems } = look.runnable;
  const faults = findings.list.filter((item) => isFault(item.finding));
  const failing = useMemo(
    () => checks.filter((check) => !runCheck(check, look.engine).passed).length,
    [checks, look.engine],
  );
  const here = moreScreens.find((screen) => screen.path === path);
  return (
    <header className="topline">
      <Link href="/" className="mark" aria-label="Mirada, pages">
        <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden>
          <path
            d="M1 8C5 2 9 1 12 1s7 1 11 7c-4 6-8 7-11 7S5 14 1 8Z"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.7"
          />
          <circle cx="12" cy="8" r="3.6" fill="var(--lens)" />
        </svg>
        Mirada
      </Link>
      <nav aria-label="Screens">
        {screens.map((screen) => (
          <Link key={screen.path} href={screen.path} aria-current={screen.path === path ? "page" : undefined}>
            {screen.name}
            {screen.path === "/findings" && faults.length > 0 && <b className="count">{faults.length}</b>}
          </Link>
        ))}
        <button
          type="button"
          aria-haspopup="menu"
          aria-current={here ? "page" : undefined}
          onClick={(event) => setMore(event.currentTarget)}
        >
          {here?.name ?? "More"} <ChevronDown size={13} />
        </button>
        <Menu open={more !== null} anchorEl={more} onClose={() => setMore(null)}>
          {moreScreens.map((screen) => (
            <MenuItem
              key={screen.path}
              selected={screen.path === path}
              onClick={() => {
                setMore(null);
                go(screen.path);
              }}
            >
              {screen.name}
            </MenuItem>
          ))}
        </Menu>
      </nav>
      <div className="end">
        <Tooltip title="Go anywhere (Ctrl K)">
          <IconButton aria-label="Go anywhere" onClick={() => setPalette(true)}>
            <Command size={15} />
          </IconButton>
        </Tooltip>
        <Tooltip title={draft.undo ? `Undo: ${draft.undo}` : "Nothing to undo"}>
          <span>
            <IconButton aria-label="Undo" disabled={!draft.undo} onClick={() => draft.undoLast()}>
              <Undo2 size={16} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={draft.redo ? `Redo: ${draft.redo}` : "Nothing to redo"}>
          <span>
            <IconButton aria-label="Redo" disabled={!draft.redo} onClick={() => draft.redoNext()}>
              <Redo2 size={16} />
            </IconButton>
          </span>
        </Tooltip>
        <span className="quiet" role="status" style={{ minWidth: 52 }}>
          {draft.saving ? "Saving …" : "Saved"}
        </span>
        {problems.length > 0 && (
          <button type="button" className="pill problem" onClick={() => setGoing(true)}>
            {problems.length === 1 ? "1 thing" : `${problems.length} things`} not finished
          </button>
        )}
        <a href={storefront} target="_blank" rel="noreferrer" className="pill live">
          Live · release {live?.number ?? "none"}
        </a>
        {checks.length > 0 && (
          <Link href="/checks" className={`pill ${failing > 0 ? "problem" : "live"}`}>
            Checks {checks.length - failing} of {checks.length}
          </Link>
        )}
        <span className="pill draft">
          {changed.length === 0
            ? "Draft · no changes"
            : `Draft · ${changed.length === 1 ? "1 change" : `${changed.length} changes`}`}
        </span>
        <Button variant="contained" onClick={() => setGoing(true)}>
          Put live
        </Button>
      </div>
      <Palette open={palette} onOpen={setPalette} />
      {going && (
        <LiveDialog
          ruleset={ruleset}
          version={draft.version}
          saving={draft.saving}
          differences={changed}
          problems={problems}
          faults={faults}
          onClose={() => setGoing(false)}
          onLive={(number) => {
            setLive({ ruleset, number });
            setGoing(false);
            enqueueSnackbar(`Release ${number} is live`, { variant: "success" });
          }}
          onGo={(address) => {
            setGoing(false);
            go(address);
          }}
          actions={actions}
        />
      )}
    </header>
  );
}
