"use client";
import { locale, said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { someoneWhoOpens } from "@/core/analysis/reach";
import { popupTimeline } from "@/core/analysis/timeline";
import { drawArm } from "@/core/decision/arms";
import { popupVerdict } from "@/core/decision/popup-words";
import type { Popup } from "@/core/formats/ruleset";
import { parseInstant } from "@/core/formats/visit";
import { ArmsEditor } from "../parts/content/arms-editor";
import { useDesk } from "../parts/desk/desk";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { Field } from "../parts/field";
import { PauseButton } from "../parts/pause-button";
import { NameRow } from "../parts/lists/name-row";
import { OnRibbon } from "../parts/on-ribbon";
import { PageFrame } from "../parts/page-frame/page-frame";
import { useSite } from "../parts/page-frame/use-site";
import { RuleEditor } from "../parts/rule-editor/rule-editor";

interface Props {
  popup: Popup;
  set: <K extends keyof Popup & string>(popup: Popup, key: K, value: Popup[K] | undefined, says: string) => void;
}

type Moment = "seconds" | "scrollPercent" | "leaving" | "idleSeconds";
const moments: Record<Moment, { words: string; unit?: string; start: Popup["opensAfter"] }> = said({
  seconds: { words: text("after some seconds (0: on load)"), unit: text("Seconds"), start: { seconds: 5 } },
  scrollPercent: { words: text("on scrolling"), unit: text("Percent of the page"), start: { scrollPercent: 50 } },
  leaving: { words: text("when the pointer leaves the page"), start: { leaving: true } },
  idleSeconds: {
    words: text("when nothing is moved"),
    unit: text("Seconds without a move"),
    start: { idleSeconds: 30 },
  },
});
const momentOf = (opensAfter: Popup["opensAfter"]): Moment => Object.keys(opensAfter)[0] as Moment;

/** One pop-up: seen in place, above; what it says, to whom, where, when and how often, below. */
export function PopupEditor({ popup, set }: Props) {
  const { draft, ruleset, look, width, setWidth, actions, pages, otherHosts } = useDesk();
  const site = useSite();
  const trace = useRuleTrace();
  const { enqueueSnackbar } = useSnackbar();
  const [arm, setArm] = useState<string>();
  const judged = look.runnable.ruleset;
  const finished = !look.runnable.unfinishedPopups.has(popup.id);
  const verdict = finished ? look.decision.trace?.popups.find((item) => item.id === popup.id) : undefined;
  const at = parseInstant(look.visit.at) as number;
  const moment = momentOf(popup.opensAfter);
  const { unit } = moments[moment];
  const types = ruleset.blockTypes.map((type) => type.id).filter((id) => id.startsWith("popup"));
  // A page in a frame must be on a host that was allowed.
  const framed = popup.arms
    .map((item) => item.content?.fields.frame)
    .flatMap((link) => (typeof link === "string" && URL.canParse(link) ? [new URL(link).host] : []))
    .find((host) => !otherHosts.includes(host));
  const someone = () => {
    const mine = judged.popups.find((item) => item.id === popup.id);
    if (!mine || !finished) return;
    const solved = someoneWhoOpens({ ruleset: judged, pages, from: at }, mine);
    if (solved.found) look.setVisit(solved.visit);
    enqueueSnackbar(
      solved.found
        ? t("You are viewing as a visitor for whom “{popup}” opens.{on}", {
            popup: popup.name,
            on: popup.on ? "" : t(" It is switched off: that comes first."),
          })
        : solved.proof === "exact"
          ? t("Proven: it opens for no visitor.")
          : t("No visitor for whom it opens was found in {tries} tries.", {
              tries: solved.tries.toLocaleString(locale()),
            }),
      solved.found ? {} : { variant: "warning" },
    );
  };
  const count = (least: number, most: number) => (text: string) =>
    /^\d{1,5}$/.test(text) && Number(text) >= least && Number(text) <= most
      ? undefined
      : t("A whole number from {least} to {most}", { least, most });
  return (
    <div className="popupeditor">
      <PageFrame
        look={look}
        site={ruleset.site.id}
        version={draft.version}
        slots={[]}
        selected={undefined}
        pin={undefined}
        popup={arm ? `${popup.id}/${arm}` : popup.id}
        width={width}
        onWidth={setWidth}
        onSlot={() => undefined}
        onUnpin={() => undefined}
        {...site}
        actions={actions}
      />
      <div className="form wide">
        <NameRow
          name={popup.name}
          onName={(name) => set(popup, "name", name, t("Pop-up {popup} renamed", { popup: popup.name }))}
          on={popup.on}
          onSwitch={(on) =>
            set(popup, "on", on, t("Pop-up {popup} switched {on}", { popup: popup.name, on: on ? t("on") : t("off") }))
          }
        />
        <div className="row">
          <span className={verdict?.verdict === "shown" ? "yes" : "unsure"} role="status" style={{ flex: 1 }}>
            {t("On this page, for this visitor: {popupVerdict}.", {
              popupVerdict: popupVerdict(popup, verdict, judged),
            })}
          </span>
          {verdict?.verdict !== "shown" && <Button onClick={someone}>{t("Find a visitor who sees this")}</Button>}
          <PauseButton kind="popup" id={popup.id} />
        </div>
        <h3>{t("Content")}</h3>
        <ArmsEditor
          owner={popup}
          at={["popups", popup.id]}
          blank={{ type: popup.arms[0]?.content?.type ?? types[0] ?? "", fields: {}, tokens: {} }}
          others={ruleset.popups
            .filter((item) => item.id !== popup.id)
            .flatMap((item) =>
              item.arms.flatMap((one) => (one.content ? [{ name: item.name, content: one.content }] : [])),
            )}
          control={t("no pop-up")}
          types={types}
          open={arm}
          onOpen={setArm}
          drawn={drawArm(popup.id, popup.arms, look.visit.visitorId).id}
        />
        {framed && (
          <span className="error" role="alert">
            {t(
              "The page of {framed} is not shown in it: that host is not among the other hosts of this site (see Settings).",
              { framed },
            )}
          </span>
        )}
        <h3>{t("Trigger and size")}</h3>
        <div className="row" style={{ alignItems: "flex-start" }}>
          <TextField
            select
            label={t("Trigger")}
            value={moment}
            onChange={(event) =>
              set(
                popup,
                "opensAfter",
                moments[event.target.value as Moment].start,
                t("When {popup} opens", { popup: popup.name }),
              )
            }
          >
            {(Object.keys(moments) as Moment[]).map((item) => (
              <MenuItem key={item} value={item}>
                {moments[item].words}
              </MenuItem>
            ))}
          </TextField>
          {unit && (
            <Field
              label={unit}
              value={String(Object.values(popup.opensAfter)[0])}
              problem={count(0, moment === "scrollPercent" ? 100 : 3600)}
              onCommit={(text) =>
                set(
                  popup,
                  "opensAfter",
                  { [moment]: Number(text) } as Popup["opensAfter"],
                  t("When {popup} opens", { popup: popup.name }),
                )
              }
            />
          )}
          <Field
            label={t("Width in pixels")}
            value={String(popup.size.width)}
            problem={count(120, 2000)}
            onCommit={(text) =>
              set(popup, "size", { ...popup.size, width: Number(text) }, t("Size of {popup}", { popup: popup.name }))
            }
          />
          <Field
            label={t("Height, at least")}
            value={String(popup.size.height)}
            problem={count(40, 2000)}
            onCommit={(text) =>
              set(popup, "size", { ...popup.size, height: Number(text) }, t("Size of {popup}", { popup: popup.name }))
            }
          />
        </div>
        <div className="row" style={{ alignItems: "flex-start" }}>
          <TextField
            select
            label={t("Frequency per visitor")}
            value={popup.cap === undefined ? "always" : "hours" in popup.cap ? "hours" : popup.cap.per}
            helperText={popup.cap ? t("Counted only with consent; without it, it does not open") : undefined}
            onChange={(event) => {
              const per = event.target.value as "always" | "hours" | "visit" | "day" | "ever";
              const times = popup.cap && "times" in popup.cap ? popup.cap.times : 1;
              set(
                popup,
                "cap",
                per === "always" ? undefined : per === "hours" ? { hours: 24 } : { times, per },
                t("How often {popup} opens", { popup: popup.name }),
              );
            }}
          >
            <MenuItem value="visit">{t("limited per visit")}</MenuItem>
            <MenuItem value="day">{t("limited per day")}</MenuItem>
            <MenuItem value="hours">{t("once in a number of hours")}</MenuItem>
            <MenuItem value="ever">{t("limited in total")}</MenuItem>
            <MenuItem value="always">{t("no limit")}</MenuItem>
          </TextField>
          {popup.cap && (
            <Field
              label={"hours" in popup.cap ? t("Hours") : t("Times")}
              value={String("hours" in popup.cap ? popup.cap.hours : popup.cap.times)}
              problem={"hours" in popup.cap ? count(1, 8784) : count(1, 99)}
              onCommit={(text) => {
                if (!popup.cap) return;
                const next = "hours" in popup.cap ? { hours: Number(text) } : { ...popup.cap, times: Number(text) };
                set(popup, "cap", next, t("How often {popup} opens", { popup: popup.name }));
              }}
              sx={{ maxWidth: 120 }}
            />
          )}
        </div>
        <span className="quiet">
          {ruleset.site.popupGapMinutes > 0
            ? t("Between two pop-ups the site keeps {popupGapMinutes} minutes (see Settings).", {
                popupGapMinutes: ruleset.site.popupGapMinutes,
              })
            : t("The site keeps no gap between two pop-ups (see Settings).")}
        </span>
        <h3>{t("Who sees it")}</h3>
        <RuleEditor
          rule={popup.rule}
          at={["popups", popup.id, "rule"]}
          says={t("Rule of pop-up {popup}", { popup: popup.name })}
          trace={trace(popup.rule)}
          empty={t("For everyone. Say to whom by adding a condition.")}
        />
        <h3>{t("On which pages")}</h3>
        <RuleEditor
          rule={popup.pages}
          at={["popups", popup.id, "pages"]}
          says={t("Pages of pop-up {popup}", { popup: popup.name })}
          trace={trace(popup.pages)}
          empty={t("On every page. Say on which by adding a condition.")}
        />
        <OnRibbon
          label={t("Opens for this visitor")}
          ask={(from, until) => popupTimeline(look.engine, popup.id, look.visit, from, until)}
          zone={ruleset.site.zone}
          at={at}
          onTravel={look.travel}
        />
      </div>
    </div>
  );
}
