"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Check, X } from "lucide-react";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { useDesk } from "../desk/desk";
import { variantAddress } from "../desk/screens";
import { useGo } from "../desk/use-go";
import { keepClosedSteps } from "./closed-steps";
import { stepsOf } from "./steps";

/** Sites for which the steps were asked for since the workbench was opened. */
const asked = new Set<string>();
const listeners = new Set<() => void>();
/** Shows the first steps on a site again: at once, or on the next screen that has them. */
export function showFirstSteps(site: string): void {
  asked.add(site);
  keepClosedSteps(site, false);
  for (const listener of listeners) listener();
}
function hear(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** How each visitor is told apart from the next, whatever the time. */
const markOf = ({ at: _at, ...visit }: object & { at?: unknown }): string => JSON.stringify(visit);

/** Focuses what the next step is done with, once it is there. */
function focusOn(selector: string, tries = 20): void {
  const there = document.querySelector<HTMLElement>(selector);
  if (there) there.focus();
  else if (tries > 0) setTimeout(() => focusOn(selector, tries - 1), 100);
}

/** The first steps on a site that has nothing live yet, below the sentence: each says how, and leads to where it is done. */
export function FirstSteps() {
  const { site, draft, live, look, may, kept } = useDesk();
  const go = useGo();
  const wanted = useSyncExternalStore(
    hear,
    () => asked.has(site),
    () => false,
  );
  // A site that has something live needs them no longer; on the screen where it was published they say so.
  const [fresh] = useState(live === undefined);
  const [closed, setClosed] = useState(kept.stepsClosed);
  const seen = useRef(new Set<string>());
  const [visitors, setVisitors] = useState(0);
  const mark = markOf(look.visit);
  useEffect(() => {
    seen.current.add(mark);
    setVisitors(seen.current.size);
  }, [mark]);
  if (!(wanted || (fresh && !closed)) || !may("rules")) return null;
  const { slots } = draft.ruleset;
  const steps = stepsOf({ slots, visitors, live: live !== undefined });
  const next = steps.findIndex((step) => !step.done);
  const slot = slots.find((item) => item.variants.length > 0) ?? slots[0];
  const variant = slot?.variants[0];
  const lead = [
    () => go("/pages?point=slot"),
    () => {
      if (slot) go(variantAddress(slot.id));
      focusOn(".slotfoot .MuiButton-contained");
    },
    () => {
      if (slot && variant) go(variantAddress(slot.id, variant.id));
      focusOn(".editor .addcondition");
    },
    () => focusOn(".sentence .lenspicker"),
    () => focusOn(".topline .end > .MuiButton-contained"),
  ];
  return (
    <section className="firststeps" aria-label={t("First steps")}>
      <b>{t("First steps")}</b>
      <ol>
        {steps.map((step, index) => (
          <li key={step.name} className={step.done ? "done" : ""} aria-current={index === next ? "step" : undefined}>
            {step.done ? <Check size={14} aria-label={t("Done:")} /> : <i>{index + 1}</i>} {step.name}
          </li>
        ))}
      </ol>
      <span className="how" role="status">
        {next < 0 ? t("All done: your first variant is live.") : steps[next]?.how}
      </span>
      {next >= 0 && <Button onClick={() => lead[next]?.()}>{t("Show me")}</Button>}
      <IconButton
        aria-label={t("Close the first steps")}
        title={t("Close; they come back from Help")}
        onClick={() => {
          asked.delete(site);
          keepClosedSteps(site, true);
          setClosed(true);
        }}
      >
        <X size={15} />
      </IconButton>
    </section>
  );
}
