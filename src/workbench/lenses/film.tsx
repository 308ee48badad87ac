"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Plus, Trash2 } from "lucide-react";
import { useMemo, useState } from "react";
import { expectationText } from "@/core/checks/run";
import type { Expectation } from "@/core/formats/check";
import { parseInstant } from "@/core/formats/visit";
import { shortInstantPhrase } from "@/core/rules/phrases";
import type { Step } from "@/core/formats/step";
import { afterWords, happenings, play, type Played } from "@/core/lens/journey";
import { onPage } from "@/core/lens/pages";
import { readablePath } from "@/core/visit/url";
import { useKeepCheck } from "../page/keep-check";
import { useDesk, type Lens } from "../parts/desk/desk";
import { pathOf } from "../parts/desk/use-look";
import { Field } from "../parts/field";
import { SiteCell } from "../parts/page-frame/site-cell";
import { letterOf } from "../parts/variants";
import { widthOf } from "../parts/devices";

interface Props {
  lens: Lens;
  onSteps: (steps: Step[]) => void;
  onLook: (played: Played) => void;
}

const units = { minutes: 1, hours: 60, days: 1440 } as const;
type Unit = keyof typeof units;
const unitNames: Record<Unit, string> = said({ minutes: text("minutes"), hours: text("hours"), days: text("days") });
const unitOf = (after: number): Unit =>
  after > 0 && after % 1440 === 0 ? "days" : after > 0 && after % 60 === 0 ? "hours" : "minutes";

/** A visit of several steps, played page by page with all that is remembered moving along. */
export function Film({ lens, onSteps, onLook }: Props) {
  const { look, ruleset, facts } = useDesk();
  const played = useMemo(
    () => play(look.engine, lens.visit, lens.steps, facts),
    [look.engine, lens.visit, lens.steps, facts],
  );
  const change = (index: number, next: Partial<Step>) =>
    onSteps(lens.steps.map((step, i) => (i === index ? { ...step, ...next } : step)));
  return (
    <div className="film">
      {played.map((item, index) => {
        const step = item.step > 0 ? lens.steps[item.step - 1] : undefined;
        const first = played[index - 1]?.step !== item.step;
        const unit = unitOf(step?.after ?? 0);
        return (
          <section key={index} className="still" aria-label={t("Step {step}", { step: item.step + 1 })}>
            <header>
              <b>
                {item.step + 1} {pathOf(item.visit)}
              </b>
              <span className="quiet">
                {shortInstantPhrase(parseInstant(item.visit.at) as number, ruleset.site.zone)}
              </span>
            </header>
            <SiteCell
              visit={item.visit}
              title={t("Step {step}", { step: item.step + 1 })}
              width={widthOf(lens.visit)}
              height={620}
            />
            <ul>
              {happenings(item, played[index - 1], ruleset, letterOf).map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            {step && first && (
              <div className="stack">
                <Field
                  label={t("Next page")}
                  value={step.path}
                  problem={(text) =>
                    /^\/(?![/\\])\S*$/.test(text)
                      ? undefined
                      : t("A path of the site, from / on, such as /ferns?topic=water")
                  }
                  onCommit={(path) => change(item.step - 1, { path })}
                />
                <div className="row">
                  <Field
                    label={afterWords(step.after)}
                    value={String(step.after / units[unit])}
                    problem={(text) => (/^\d{1,5}$/.test(text) ? undefined : t("A whole number"))}
                    onCommit={(text) => change(item.step - 1, { after: Number(text) * units[unit] })}
                  />
                  <TextField
                    select
                    value={unit}
                    slotProps={{ htmlInput: { "aria-label": t("Unit") } }}
                    onChange={(event) =>
                      change(item.step - 1, {
                        after: Math.max(1, step.after / units[unit]) * units[event.target.value as Unit],
                      })
                    }
                  >
                    {(Object.keys(units) as Unit[]).map((name) => (
                      <MenuItem key={name} value={name}>
                        {unitNames[name]}
                      </MenuItem>
                    ))}
                  </TextField>
                  <IconButton
                    size="small"
                    aria-label={t("Take out step {step}", { step: item.step + 1 })}
                    onClick={() => onSteps(lens.steps.filter((_, i) => i !== item.step - 1))}
                  >
                    <Trash2 size={14} />
                  </IconButton>
                </div>
              </div>
            )}
            <div className="row">
              <Button color="secondary" onClick={() => onLook(item)}>
                {t("View this step")}
              </Button>
              <KeepStill played={item} lens={lens} />
            </div>
          </section>
        );
      })}
      <Button
        className="add"
        startIcon={<Plus size={14} />}
        onClick={() => onSteps([...lens.steps, { path: pathOf(played.at(-1)?.visit ?? lens.visit), after: 5 }])}
      >
        {t("Add page")}
      </Button>
    </div>
  );
}

/** Keeps what a page view of the film shows as a check, with the steps that led there. */
function KeepStill({ played, lens }: { played: Played; lens: Lens }) {
  const { ruleset, facts } = useDesk();
  const keepCheck = useKeepCheck();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { decision, step } = played;
  const expectations: Expectation[] = decision.redirect
    ? [{ redirect: decision.redirect.location }]
    : Object.entries(decision.slots).flatMap(([slot, [shown]]) =>
        shown?.variant ? [{ slot, variant: shown.variant }] : [],
      );
  const keep = (expect: Expectation) => {
    setMenu(null);
    const steps = lens.steps.slice(0, step).map((item) => {
      const page = facts.get(readablePath(new URL(item.path, lens.visit.url).pathname));
      return { ...item, ...(page ? { page } : {}) };
    });
    void keepCheck(expect, { visit: onPage(lens.visit, facts), steps });
  };
  return (
    <>
      <Button
        aria-haspopup="menu"
        disabled={expectations.length === 0}
        onClick={(event) => setMenu(event.currentTarget)}
      >
        {t("Save as check")}
      </Button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {expectations.map((expect) => (
          <MenuItem key={JSON.stringify(expect)} onClick={() => keep(expect)}>
            {expectationText(expect, ruleset)}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
