"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { Minus, Plus } from "lucide-react";
import { parseInstant } from "@/core/formats/visit";
import { makeMemory, noPast, pastOf, type Past } from "@/core/memory/made";
import { valuesInUse } from "@/core/ruleset/choices";
import { useDesk, useNeeded } from "../desk/desk";
import { Field } from "../field";
import { told, without, type PartProps } from "./parts";

/** Who the visitor is to this site: consent, visits so far, what was seen, markers. */
export function VisitorPart({ visit, setVisit }: PartProps) {
  useNeeded("products");
  const { ruleset, pages, products, look } = useDesk();
  const at = parseInstant(visit.at) as number;
  const past = pastOf(visit.memory, at);
  const agreed = visit.consent === true;
  const days = new Map(ruleset.markers.map((marker) => [marker.id, marker.days]));
  const set = (change: Partial<Past>) => {
    const next = { ...past, ...change };
    if (next.visits === 0 && next.views > 0) next.visits = 1;
    setVisit({ ...visit, memory: makeMemory(next, at, days) });
  };
  const categories = [
    ...new Set([...Object.keys(past.categories), ...valuesInUse("history.category.", ruleset, { pages, products })]),
  ];
  const shown = Object.entries(past.categories).filter(([, count]) => count > 0);
  const names = new Map(ruleset.slots.flatMap((slot) => slot.variants.map((item) => [item.id as string, item.name])));
  const remembering = ruleset.slots.flatMap((slot) => slot.variants.filter((item) => item.rememberDays !== undefined));
  return (
    <div className="stack">
      <div className="row" style={{ justifyContent: "space-between" }}>
        <FormControlLabel
          control={
            <Switch
              checked={agreed}
              onChange={(event) =>
                setVisit(
                  event.target.checked
                    ? { ...visit, consent: true, visitorId: visit.visitorId ?? "lens" }
                    : without(visit, "consent", "memory"),
                )
              }
            />
          }
          label={t("Consent given")}
        />
        <Button
          onClick={() => setVisit({ ...without(visit, "memory", "cookies", "cart"), consent: true, visitorId: "lens" })}
        >
          {t("Start over as a new visitor")}
        </Button>
      </div>
      {!agreed ? (
        <span className="quiet">{t("Without consent history and markers are unknown, and nothing is kept.")}</span>
      ) : (
        <>
          <div className="row">
            <Count
              label={t("Visits so far")}
              value={past.visits}
              onChange={(visits) => set(visits === 0 ? noPast : { visits })}
            />
            <Count
              label={t("Pages in this visit")}
              value={past.views}
              onChange={(views) =>
                set({ views, ...(views > 0 && past.views === 0 ? { landing: past.landing || look.path } : {}) })
              }
            />
          </div>
          <div className="row">
            <Field
              label={t("Days since the last visit")}
              disabled={past.visits === 0 || (past.views > 0 && past.visits < 2)}
              value={past.daysSinceLast === undefined ? "" : String(past.daysSinceLast)}
              problem={(text) => (/^\d{0,4}$/.test(text) ? undefined : t("Whole days"))}
              onCommit={(text) => set({ daysSinceLast: text === "" ? undefined : Number(text) })}
            />
            <Field
              label={t("Minutes since it began")}
              disabled={past.views === 0}
              value={past.views === 0 ? "" : String(past.minutes)}
              problem={(text) => (/^\d{0,4}$/.test(text) ? undefined : t("Whole minutes"))}
              onCommit={(text) => set({ minutes: Number(text) })}
            />
          </div>
          <b>{t("Has looked at, before this page")}</b>
          {shown.map(([name, count]) => (
            <Count
              key={name}
              label={name}
              value={count}
              onChange={(next) =>
                set({ visits: Math.max(1, past.visits), categories: { ...past.categories, [name]: next } })
              }
            />
          ))}
          <Autocomplete
            freeSolo
            clearOnBlur
            blurOnSelect
            options={categories.filter((name) => !past.categories[name])}
            value={null}
            onChange={(_, name) => {
              if (name) set({ visits: Math.max(1, past.visits), categories: { ...past.categories, [name]: 1 } });
            }}
            renderInput={(input) => <TextField {...input} placeholder={t("Add a page category, such as ferns")} />}
          />
          {ruleset.markers.length > 0 && <b>{t("Markers")}</b>}
          {ruleset.markers.map((marker) => (
            <FormControlLabel
              key={marker.id}
              control={
                <Switch
                  checked={past.markers[marker.id]?.held ?? false}
                  onChange={(event) =>
                    set({
                      visits: Math.max(1, past.visits),
                      markers: {
                        ...past.markers,
                        [marker.id]: { held: event.target.checked, count: event.target.checked ? marker.gainViews : 0 },
                      },
                    })
                  }
                />
              }
              label={`${marker.name}${look.decision.markers.includes(marker.id) && !past.markers[marker.id]?.held ? t(" (gained on this very page)") : ""}`}
            />
          ))}
          {remembering.length > 0 && <b>{t("Was shown")}</b>}
          {remembering.map((item) => (
            <FormControlLabel
              key={item.id}
              control={
                <Switch
                  checked={item.id in past.variants}
                  onChange={(event) => {
                    const variants = { ...past.variants };
                    if (event.target.checked) variants[item.id] = 1;
                    else delete variants[item.id];
                    set({ visits: Math.max(1, past.visits), variants });
                  }}
                />
              }
              label={`${names.get(item.id)}, yesterday`}
            />
          ))}
          <Field
            label={t("Visitor id")}
            helperText={t("Decides the arm of a test: the same id always gets the same one")}
            value={visit.visitorId ?? ""}
            onCommit={(text) => setVisit(told(visit, "visitorId", text || undefined))}
          />
        </>
      )}
    </div>
  );
}

/** A small whole number, stepped by buttons or typed. */
function Count({ label, value, onChange }: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <div className="row" role="group" aria-label={label} style={{ flex: 1 }}>
      <Field
        label={label}
        value={String(value)}
        problem={(text) => (/^\d{1,4}$/.test(text) ? undefined : t("A whole number"))}
        onCommit={(text) => onChange(Number(text))}
      />
      <IconButton
        aria-label={t("One less: {label}", { label })}
        disabled={value === 0}
        onClick={() => onChange(value - 1)}
      >
        <Minus size={13} />
      </IconButton>
      <IconButton aria-label={t("One more: {label}", { label })} onClick={() => onChange(value + 1)}>
        <Plus size={13} />
      </IconButton>
    </div>
  );
}
