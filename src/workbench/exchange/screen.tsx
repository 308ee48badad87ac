"use client";
import { t } from "@/core/messages/t";
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
      <h1>{t("Import and export")}</h1>
      <p className="quiet">
        {t("Everything here is yours: export it in open formats, and import it again, here or elsewhere.")}
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
      return setProblems({
        says: t("{file} is not right. Nothing was changed.", { file: file.name }),
        problems: read.problems,
      });
    setProblems(undefined);
    const { archive, name, madeAt } = read;
    setChosen({
      file,
      says: t(
        "{name} as it was on {madeAt}: {slots, plural, one {# slot} other {# slots}}, {checks, plural, one {# check} other {# checks}}, {lenses, plural, one {# lens} other {# lenses}}, {links, plural, one {# link} other {# links}}, {pages, plural, one {# page} other {# pages}}, {placeFiles, plural, one {# file} other {# files}} of place data.",
        {
          name,
          madeAt: madeAt.slice(0, 10),
          slots: archive.draft.slots.length,
          checks: archive.checks.length,
          lenses: archive.lenses.length,
          links: archive.links.length,
          pages: archive.pages.length,
          placeFiles: archive.placeFiles.length,
        },
      ),
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
      enqueueSnackbar(told?.says ?? t("The archive was imported"));
      // Everything on the desk is another: it is opened anew.
      return location.reload();
    }
    setProblems({
      says: told?.problem ?? t("The server could not be reached. Nothing was changed."),
      problems: told?.problems ?? [],
    });
  };
  const allowed = may("build") && may("content") && may("rules");
  return (
    <section className="stack" aria-label={t("Archive")}>
      <h2>{t("Everything in one archive")}</h2>
      <span className="quiet">
        {t(
          "A ZIP of JSON and CSV: the draft with its library, checks, lenses, links, pages, settings and place data, and for reference: releases, audit trail and results. No people, passwords or keys.",
        )}
      </span>
      <div className="row wrap">
        <Button variant="contained" component="a" href={`${siteBase(site)}/archive`} download>
          {t("Export archive")}
        </Button>
        <Button
          disabled={!allowed}
          title={allowed ? undefined : t("It replaces content, rules and settings: an editor’s and a developer’s work")}
          onClick={() => void choose()}
        >
          {t("Import archive")}
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
        <DialogTitle id="archive-title">{t("Import this archive?")}</DialogTitle>
        <DialogContent className="stack" sx={{ px: "22px" }}>
          <p>{chosen?.says}</p>
          <p className="quiet">
            {t(
              "It takes the place of the draft, checks, lenses, links, pages, settings and place data. What is live stays live until you publish the draft. The draft’s change can be undone; the other lists cannot: save an archive of now first.",
            )}
          </p>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setChosen(undefined)}>{t("Cancel")}</Button>
          <Button variant="contained" disabled={busy} onClick={() => chosen && void take(chosen.file)}>
            {t("Import")}
          </Button>
        </DialogActions>
      </Dialog>
    </section>
  );
}
