"use client";
import { said, t, text, within } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { Plus, X } from "lucide-react";
import { useSnackbar } from "notistack";
import { useMemo, useRef, useState } from "react";
import { differingParts, nextWeekday, sheetCells, showsVariant, type SheetCell } from "@/core/analysis/sheet";
import { formatLocal, parseLocal } from "@/core/calendar/calendar";
import { shortInstantPhrase, zonePhrase } from "@/core/rules/phrases";
import { zoneOf } from "@/core/calendar/zone";
import { onPage } from "@/core/lens/pages";
import { DateField } from "../parts/dates/date-field";
import { useDesk } from "../parts/desk/desk";
import { useGo } from "../parts/desk/use-go";
import { widthOf, widths, type Width } from "../parts/devices";
import { SiteCell, type CellHandle, type Marks } from "../parts/page-frame/site-cell";
import { colourOf, hexOf, indexIn, letterOf } from "../parts/variants";
import { drawSheet } from "./picture";

type Mode = "pages" | "times" | "widths";
const modes: Record<Mode, string> = said({
  pages: text("Lenses × pages"),
  times: text("Lenses × times"),
  widths: text("One lens × widths"),
});
const allWidths: readonly Width[] = ["desktop", "tablet", "phone"];
const widthNames: Record<Width, string> = said({
  desktop: text("Desktop"),
  tablet: text("Tablet"),
  phone: text("Phone"),
});

/** How tall a cell is beside its width: narrower pages are shown longer, so that all cells are equally tall. */
const shapes: Record<Width, number> = { desktop: 0.78, tablet: 1.04, phone: 1.62 };

/** Among so many pages those are looked for that differ. */
const mostTried = 200;

/** Real pages side by side: lenses by pages or times, or one lens at three widths, with what differs marked. */
export function SheetScreen() {
  const { lenses, look, ruleset, pages, facts, now, pickLens } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const go = useGo();
  const zone = zoneOf(ruleset.site.zone);
  const [mode, setMode] = useState<Mode>("pages");
  const [chosen, setChosen] = useState<readonly string[]>(() => lenses.slice(0, 4).map((item) => item.id));
  const [paths, setPaths] = useState<readonly string[]>(() => {
    // Pages that differ in their slots say more than the first ones of a long list.
    const seen = new Map<string, string>();
    for (const { path } of pages.slice(0, mostTried)) {
      const url = new URL(path, look.visit.url).href;
      const slots = Object.keys(look.engine.decide(onPage({ ...look.visit, url }, facts)).slots);
      const kind = slots.sort().join();
      if (!seen.has(kind)) seen.set(kind, path);
    }
    return [...seen.values()].slice(0, 3);
  });
  const [times, setTimes] = useState<readonly number[]>(() => {
    const at = Date.parse(now);
    return [at, nextWeekday(at, 1, 10 * 60 + 15, zone), nextWeekday(at, 5, 12 * 60, zone)];
  });
  const [against, setAgainst] = useState<string>();
  const [reach, setReach] = useState("");
  const [drawing, setDrawing] = useState<string>();
  const handles = useRef(new Map<string, CellHandle>());

  const visitors = useMemo(
    () => lenses.filter((item) => chosen.includes(item.id)).map(({ id, name, visit }) => ({ id, name, visit })),
    [lenses, chosen],
  );
  const titleOf = (path: string) => pages.find((page) => page.path === path)?.title ?? path;
  const cells: (SheetCell & { width: Width })[] = useMemo(() => {
    const across =
      mode === "times"
        ? { times: times.map((at) => ({ at, title: shortInstantPhrase(at, ruleset.site.zone) })) }
        : {
            pages: (mode === "pages"
              ? paths
              : [new URL(visitors[0]?.visit.url ?? `${ruleset.site.origin}/`).pathname]
            ).map((path) => ({ path, title: titleOf(path) })),
          };
    const made = sheetCells(look.engine, mode === "widths" ? visitors.slice(0, 1) : visitors, across, facts);
    if (mode !== "widths") return made.map((cell) => ({ ...cell, width: widthOf(cell.visit) }));
    return made.flatMap((cell) =>
      allWidths.map((width) => ({ ...cell, key: `${cell.key} ${width}`, column: widthNames[width], width })),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- titles follow the pages
  }, [mode, visitors, paths, times, look.engine, facts, ruleset.site]);

  const columns = mode === "pages" ? paths.length : mode === "times" ? times.length : allWidths.length;
  const reference = cells.find((cell) => cell.key === against);
  const [reachSlot, reachVariant] = reach.split("/");
  const slotName = (id: string) =>
    ({ "*redirect": t("the redirect"), "*popup": t("the pop-up"), "*cart": t("the cart’s total") })[id] ??
    ruleset.slots.find((item) => item.id === id)?.name ??
    id;
  const says = (cell: SheetCell): string => {
    if (cell.decision.redirect) return t("sent to {location}", { location: cell.decision.redirect.location });
    if (!reference) return "";
    if (cell.key === reference.key) return t("the others are compared with this");
    const differs = differingParts(reference.decision, cell.decision);
    return differs.length === 0
      ? t("the same")
      : t("differs: {differs}", { differs: differs.map(slotName).join(", ") });
  };
  const reached = (cell: SheetCell) =>
    reachSlot !== undefined && reach !== "" && showsVariant(cell, reachSlot, reachVariant || null);
  const marksOf = (cell: SheetCell): Marks => {
    const out: Marks = {};
    const mark = (id: string) => {
      const slot = ruleset.slots.find((item) => item.id === id);
      const index = slot ? indexIn(slot, cell.decision.slots[id]?.[0]?.variant ?? null) : -1;
      out[id] = {
        label: `${slot?.name} · ${index < 0 ? t("fallback") : letterOf(index)}`,
        colour: hexOf(index),
        selected: true,
      };
    };
    if (reference && cell.key !== reference.key)
      for (const id of differingParts(reference.decision, cell.decision)) if (!id.startsWith("*")) mark(id);
    if (reached(cell) && reachSlot) mark(reachSlot);
    return out;
  };
  const reachCount = cells.filter(reached).length;
  const ready = cells.length > 0 && columns > 0;
  const save = async () => {
    const pictures = [];
    for (const [index, cell] of cells.entries()) {
      setDrawing(t("Picture {index} of {cells}", { index: index + 1, cells: cells.length }));
      pictures.push({
        row: cell.row,
        column: cell.column,
        says: says(cell),
        marked:
          reached(cell) ||
          (reference !== undefined &&
            cell.key !== reference.key &&
            differingParts(reference.decision, cell.decision).length > 0),
        picture: await handles.current.get(cell.key)?.picture(),
      });
    }
    const blob = await drawSheet(`${ruleset.site.name}: ${within(modes[mode])}`, pictures, columns, {
      width: 360,
      height: 280,
    });
    setDrawing(undefined);
    if (!blob || pictures.every((item) => !item.picture))
      return enqueueSnackbar(t("No picture could be made: the pages did not answer."), { variant: "warning" });
    const link = document.createElement("a");
    link.href = URL.createObjectURL(blob);
    link.download = `${ruleset.site.id}-sheet.png`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const lensOptions = useMemo(() => lenses.map((item) => item.id), [lenses]);
  const pageOptions = useMemo(() => pages.map((page) => page.path), [pages]);
  return (
    <main className="settings sheetscreen">
      <div className="row noprint">
        <h1>{t("Contact sheet")}</h1>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={mode}
          onChange={(_, next: Mode | null) => next && (setMode(next), setAgainst(undefined))}
          aria-label={t("What is on the sheet")}
        >
          {(Object.keys(modes) as Mode[]).map((item) => (
            <ToggleButton key={item} value={item}>
              {modes[item]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button disabled={!ready} onClick={() => window.print()}>
          {t("Print")}
        </Button>
        <Button disabled={!ready || drawing !== undefined} onClick={() => void save()}>
          {drawing ?? t("Download PNG")}
        </Button>
      </div>
      <div className="sheetsetup noprint">
        <Autocomplete
          multiple
          options={lensOptions}
          value={chosen as string[]}
          getOptionLabel={(id) => lenses.find((item) => item.id === id)?.name ?? id}
          onChange={(_, next) => setChosen(mode === "widths" ? next.slice(-1) : next)}
          renderInput={(input) => <TextField {...input} label={mode === "widths" ? t("Lens") : t("Lenses")} />}
        />
        {mode === "pages" && (
          <Autocomplete
            multiple
            options={pageOptions}
            value={paths as string[]}
            onChange={(_, next) => setPaths(next)}
            renderInput={(input) => <TextField {...input} label={t("Pages")} />}
          />
        )}
        {mode === "times" && (
          <div className="row" style={{ flexWrap: "wrap" }}>
            {times.map((at, index) => (
              <span key={index} className="row" style={{ gap: 2 }}>
                <DateField
                  grain="minute"
                  label={t("Time {index}, {zone}", { index: index + 1, zone: zonePhrase(ruleset.site.zone) })}
                  value={formatLocal(zone.toLocal(at))}
                  problem={(text) => (text === "" ? t("Choose a date and a time that exist") : undefined)}
                  onCommit={(text) =>
                    setTimes(times.map((item, i) => (i === index ? zone.toInstant(parseLocal(text) as number) : item)))
                  }
                />
                <IconButton
                  size="small"
                  aria-label={t("Take out time {index}", { index: index + 1 })}
                  disabled={times.length === 1}
                  onClick={() => setTimes(times.filter((_, i) => i !== index))}
                >
                  <X size={13} />
                </IconButton>
              </span>
            ))}
            <Button
              startIcon={<Plus size={13} />}
              onClick={() => setTimes([...times, (times.at(-1) ?? Date.parse(now)) + 86_400_000])}
            >
              {t("A time")}
            </Button>
          </div>
        )}
        <TextField
          select
          label={t("Reach of a variant")}
          value={reach}
          onChange={(event) => setReach(event.target.value)}
        >
          <MenuItem value="">{t("none")}</MenuItem>
          {ruleset.slots.flatMap((slot) =>
            [...slot.variants, null].map((variant) => (
              <MenuItem key={`${slot.id}/${variant?.id ?? ""}`} value={`${slot.id}/${variant?.id ?? ""}`}>
                {slot.name}: {variant ? `${letterOf(slot.variants.indexOf(variant))} ${variant.name}` : t("fallback")}
              </MenuItem>
            )),
          )}
        </TextField>
      </div>
      {reach !== "" && (
        <p role="status" className="quiet" style={{ margin: "0 0 8px" }}>
          {t("Shown in {reachCount} of {cells} cells.", { reachCount, cells: cells.length })}
        </p>
      )}
      {!ready && <p className="teaches">{t("Choose at least one lens, and a page or a time.")}</p>}
      <div className="sheet-grid" style={{ gridTemplateColumns: `repeat(${Math.max(1, columns)}, minmax(0, 1fr))` }}>
        {cells.map((cell) => {
          const word = says(cell);
          return (
            <figure
              key={cell.key}
              data-cell={cell.key}
              className={`${cell.key === against ? "reference" : ""}${reached(cell) ? " reached" : ""}`}
            >
              <figcaption>
                <b>{cell.row}</b> <span className="quiet">{cell.column}</span>
                {word && (
                  <div className={word === t("the same") || cell.key === against ? "quiet" : "differs"}>{word}</div>
                )}
              </figcaption>
              <SiteCell
                ref={(handle) => {
                  if (handle) handles.current.set(cell.key, handle);
                  else handles.current.delete(cell.key);
                }}
                visit={cell.visit}
                title={`${cell.row}, ${cell.column}`}
                width={cell.width}
                height={Math.round(widths[cell.width] * shapes[cell.width])}
                marks={marksOf(cell)}
              />
              <div className="letters" aria-label={t("What wins")}>
                {Object.entries(cell.decision.slots).map(([id, shown]) => {
                  const slot = ruleset.slots.find((item) => item.id === id);
                  const index = slot ? indexIn(slot, shown[0]?.variant ?? null) : -1;
                  return index < 0 ? null : (
                    <span
                      key={id}
                      style={{ background: colourOf(index) }}
                      title={`${slot?.name}: ${slot?.variants[index]?.name}`}
                    >
                      {slot?.name} {letterOf(index)}
                    </span>
                  );
                })}
              </div>
              <div className="row noprint">
                <Button
                  onClick={() => setAgainst(cell.key === against ? undefined : cell.key)}
                  aria-pressed={cell.key === against}
                >
                  {cell.key === against ? t("Compare no longer") : t("Compare with this")}
                </Button>
                <Button
                  color="secondary"
                  onClick={() => {
                    pickLens({ id: cell.key, name: cell.row, visit: cell.visit, steps: [] });
                    go("/pages");
                  }}
                >
                  {t("Look")}
                </Button>
              </div>
            </figure>
          );
        })}
      </div>
    </main>
  );
}
