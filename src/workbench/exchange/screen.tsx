"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { readArchive } from "@/core/exchange/archive";
import type { Problem } from "@/core/formats/problem";
import { useDesk } from "../parts/desk/desk";
import { siteBase } from "../parts/desk/site-address";
import { chooseFiles } from "../parts/files";
import { ProblemList } from "../parts/problem-list";
import { CalendarIn, CalendarOut } from "./calendars";
import { Documents } from "./documents";

/** Open doors: everything out and in, in open formats. */
export function ExchangeScreen() {
  return (
    <main className="settings exchange">
      <h1>Import and export</h1>
      <p className="quiet">
        Everything here is yours: export it in open formats, and import it again, here or elsewhere.
      </p>
      <Archive />
      <Documents />
      <CalendarOut />
      <CalendarIn />
    </main>
  );
}

interface Chosen {
  file: File;
  says: string;
}

/** Everything in one archive. */
function Archive() {
  const { may, site } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const [chosen, setChosen] = useState<Chosen>();
  const [problems, setProblems] = useState<{ says: string; problems: Problem[] }>();
  const [busy, setBusy] = useState(false);
  const choose = async () => {
    const [file] = await chooseFiles(".zip,application/zip");
    if (!file) return;
    const read = readArchive(new Uint8Array(await file.arrayBuffer()));
    if ("problems" in read)
      return setProblems({ says: `${file.name} is not right. Nothing was changed.`, problems: read.problems });
    setProblems(undefined);
    const { archive, name, madeAt } = read;
    const count = (many: number, one: string) => `${many} ${one}${many === 1 ? "" : "s"}`;
    setChosen({
      file,
      says: `${name} as it was on ${madeAt.slice(0, 10)}: ${count(archive.draft.slots.length, "slot")}, ${count(archive.checks.length, "check")}, ${archive.lenses.length === 1 ? "1 lens" : `${archive.lenses.length} lenses`}, ${count(archive.links.length, "link")}, ${count(archive.pages.length, "page")}, ${count(archive.placeFiles.length, "file")} of place data.`,
    });
  };
  const take = async (file: File) => {
    setBusy(true);
    const answer = await fetch(`${siteBase(site)}/archive`, {
      method: "POST",
      headers: { "content-type": "application/zip" },
      body: file,
    }).catch(() => undefined);
    const told = (await answer?.json().catch(() => undefined)) as
      { ok?: boolean; problem?: string; problems?: Problem[]; says?: string } | undefined;
    setBusy(false);
    setChosen(undefined);
    if (answer?.ok) {
      enqueueSnackbar(told?.says ?? "The archive was imported");
      // Everything on the desk is another: it is opened anew.
      return location.reload();
    }
    setProblems({
      says: told?.problem ?? "The server could not be reached. Nothing was changed.",
      problems: told?.problems ?? [],
    });
  };
  const allowed = may("build") && may("content") && may("rules");
  return (
    <section className="stack" aria-label="Archive">
      <h2>Everything in one archive</h2>
      <span className="quiet">
        A ZIP of JSON and CSV: the draft with its library, checks, lenses, links, pages, settings and place data, and
        for reference: releases, audit trail and results. No people, passwords or keys.
      </span>
      <div className="row wrap">
        <Button variant="contained" component="a" href={`${siteBase(site)}/archive`} download>
          Export archive
        </Button>
        <Button
          disabled={!allowed}
          title={allowed ? undefined : "It replaces content, rules and settings: an editor’s and a developer’s work"}
          onClick={() => void choose()}
        >
          Import archive
        </Button>
      </div>
      {problems && (
        <>
          <b>{problems.says}</b>
          {problems.problems.length > 0 && <ProblemList problems={problems.problems} />}
        </>
      )}
      <Dialog
        open={chosen !== undefined}
        onClose={() => setChosen(undefined)}
        maxWidth="sm"
        aria-labelledby="archive-title"
      >
        <DialogTitle id="archive-title">Import this archive?</DialogTitle>
        <DialogContent className="stack" sx={{ px: "22px" }}>
          <p>{chosen?.says}</p>
          <p className="quiet">
            It takes the place of the draft, checks, lenses, links, pages, settings and place data. What is live stays
            live until you publish the draft. The draft’s change can be undone; the other lists cannot: save an archive
            of now first.
          </p>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setChosen(undefined)}>Cancel</Button>
          <Button variant="contained" disabled={busy} onClick={() => chosen && void take(chosen.file)}>
            Import
          </Button>
        </DialogActions>
      </Dialog>
    </section>
  );
}
