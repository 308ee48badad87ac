"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import LinearProgress from "@mui/material/LinearProgress";
import { useEffect, useMemo, useState } from "react";
import { nothingLive } from "@/core/draft/difference";
import type { Ruleset } from "@/core/formats/ruleset";
import { LogReader } from "@/core/replay/log-line";
import { useDesk } from "../parts/desk/desk";
import { chooseFiles } from "../parts/files";
import { plain } from "../parts/numbers";
import { TrafficResults } from "./results";
import { firstTime, useReplay, type LogSource, type ReplayState } from "./use-replay";

interface Judged {
  live: Ruleset;
  draft: Ruleset;
  consent: boolean;
}
/** What was replayed last: whoever goes to look through a visit finds it here when they come back. */
let last: { sources: readonly LogSource[]; judged: Judged; done: ReplayState } | undefined;

/** What the draft would have done to yesterday's real visitors: an access log, decided under what is live and under the draft. */
export function TrafficScreen() {
  const { look, live, pages, actions, examples, storefront } = useDesk();
  const exampleLog: LogSource = { name: examples.log?.name ?? "", address: `${storefront}${examples.log?.path ?? ""}` };
  const draft = look.runnable.ruleset;
  const before = useMemo(() => live?.ruleset ?? nothingLive(draft), [live, draft]);
  const [consent, setConsent] = useState(last?.judged.consent ?? false);
  const [over, setOver] = useState(false);
  const [sources, setSources] = useState<readonly LogSource[]>(last?.sources ?? []);
  // What was judged stays what it was, also while the draft goes on.
  const [judged, setJudged] = useState<Judged | undefined>(last?.judged);
  const { state, start, stop } = useReplay(actions, last?.done);
  const { phase, progress, tally, problems } = state;
  const running = phase === "running";

  const run = (chosen: readonly LogSource[], agreed = consent) => {
    if (chosen.length === 0) return;
    const of = { live: before, draft, consent: agreed };
    setSources(chosen);
    setJudged(of);
    void start(chosen, { ruleset: of.live, against: draft, consent: agreed, pages });
  };
  const runFiles = async (files: readonly File[]) => {
    const reader = new LogReader();
    const timed = await Promise.all(
      files.map(async (file) => ({ file, at: await firstTime(file, (line) => reader.read(line)) })),
    );
    run(timed.sort((a, b) => a.at - b.at).map((item) => item.file));
  };
  useEffect(() => {
    if (state.phase === "done" && judged) last = { sources, judged, done: state };
  }, [state, sources, judged]);
  const changed = judged && (judged.draft !== draft || judged.live !== before);
  return (
    <main className="twopart traffic">
      <nav aria-label={t("The log")}>
        <h1>{t("Traffic")}</h1>
        <div
          className={`dropzone${over ? " over" : ""}`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event) => {
            event.preventDefault();
            setOver(false);
            void runFiles([...event.dataTransfer.files]);
          }}
        >
          <Button
            variant="contained"
            disabled={running}
            onClick={() => void chooseFiles(".log,.gz,.txt,text/plain,application/gzip", true).then(runFiles)}
          >
            {t("Choose access logs")}
          </Button>
          <span className="quiet">
            {t(
              "or drop them here. Combined Log Format, also packed with gzip; several files are read in the order of their time.",
            )}
          </span>
          {examples.log && (
            <Button disabled={running} onClick={() => run([exampleLog])}>
              {t("Take {log}", { log: examples.log.name })}
            </Button>
          )}
        </div>
        <div className="navtools">
          <FormControlLabel
            control={
              <Checkbox
                checked={consent}
                disabled={running}
                onChange={(event) => {
                  setConsent(event.target.checked);
                  if (sources.length > 0 && phase !== "idle") run(sources, event.target.checked);
                }}
              />
            }
            label={t("Assume consent")}
          />
          <span className="quiet">
            {t(
              "The log stays in this browser. Only its addresses are looked up, on your own server, for the places they belong to.",
            )}
          </span>
        </div>
        {running && (
          <div className="navtools" role="status" aria-label={t("Replaying")}>
            <b>{progress ? `${progress.file}` : t("Beginning …")}</b>
            <LinearProgress
              aria-label={t("How much of the log is read")}
              {...(progress && progress.of > 0
                ? { variant: "determinate", value: (100 * progress.read) / progress.of }
                : {})}
            />
            {progress && (
              <span className="quiet">
                {rich("{lines} lines, {views} page views{value}{br}{speed} lines a second{value2}", {
                  lines: plain(progress.lines),
                  views: plain(progress.views),
                  value: progress.broken > 0 && t(", {broken} broken", { broken: plain(progress.broken) }),
                  br: <br />,
                  speed: plain(Math.round(progress.speed)),
                  value2:
                    progress.of > 0 &&
                    t(", {read} of {of} MB", {
                      read: (progress.read / 1e6).toFixed(0),
                      of: (progress.of / 1e6).toFixed(0),
                    }),
                })}
              </span>
            )}
            <Button onClick={stop}>{t("Cancel")}</Button>
          </div>
        )}
        {sources.length > 0 && !running && (
          <div className="navtools">
            <b>{sources.map((source) => source.name).join(", ")}</b>
            {changed && <span className="quiet">{t("The draft or what is live has changed since.")}</span>}
            <Button onClick={() => run(sources)}>{t("Replay again")}</Button>
          </div>
        )}
        {problems.length > 0 && (
          <div className="navtools">
            {problems.map((problem, index) => (
              <p key={index} className="error" role="alert">
                {problem}
              </p>
            ))}
          </div>
        )}
      </nav>
      <div className="detail">
        {tally && judged ? (
          <TrafficResults
            key={tally.lines + tally.from}
            tally={tally}
            live={judged.live}
            draft={judged.draft}
            consent={judged.consent}
            seconds={state.seconds}
          />
        ) : (
          <div className="teaches wide">
            {phase === "stopped" ? (
              <p>{t("Cancelled. Nothing was kept.")}</p>
            ) : (
              <p className="serif">
                {t(
                  "What would the draft have shown to the visitors of yesterday? Give it an access log of your server: every page view in it is decided twice, as it is live and as it is in the draft. You see what changes, for how many, where and when, and view single visits as their visitor.",
                )}
              </p>
            )}
          </div>
        )}
      </div>
    </main>
  );
}
