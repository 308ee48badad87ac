"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { heatOf } from "@/core/analysis/heat";
import type { Slot } from "@/core/formats/ruleset";
import { parseInstant } from "@/core/formats/visit";
import { weekdayNames, zonePhrase } from "@/core/rules/phrases";
import { onPage } from "@/core/lens/pages";
import { useDesk } from "../parts/desk/desk";
import { colourOf, indexIn, letterOf } from "../parts/variants";

/** By weekday and hour, the share of the kept lenses that see a variant: on the page of each, over the week at hand. */
export function HeatDialog({ slot, onClose }: { slot: Slot; onClose: () => void }) {
  const { look, lenses, facts, ruleset } = useDesk();
  const shownNow = look.decision.slots[slot.id]?.[0]?.variant ?? null;
  const [variant, setVariant] = useState<string | null>(shownNow);
  const [everywhere, setEverywhere] = useState(true);
  const heat = useMemo(() => {
    const { pathname } = new URL(look.visit.url);
    const visits = lenses.map(({ visit }) => {
      // On the page at hand, or on the page of each lens.
      const url = everywhere ? new URL(`${pathname}${new URL(visit.url).search}`, visit.url).href : visit.url;
      return onPage({ ...visit, url }, facts);
    });
    return heatOf(look.engine, slot.id, visits, parseInstant(look.visit.at) as number);
  }, [look.engine, look.visit, slot.id, lenses, facts, everywhere]);
  const rows = heat.shares.get(variant);
  const index = indexIn(slot, variant);
  const colour = index < 0 ? "var(--quiet)" : colourOf(index);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="heat-title">
      <DialogTitle id="heat-title">{t("{slot}: who sees it when", { slot: slot.name })}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        <div className="row" style={{ marginTop: 8 }}>
          <TextField
            select
            label={t("Share of lenses that see")}
            value={variant ?? ""}
            onChange={(event) => setVariant(event.target.value || null)}
          >
            {slot.variants.map((item, at) => (
              <MenuItem key={item.id} value={item.id}>
                {letterOf(at)} {item.name}
              </MenuItem>
            ))}
            <MenuItem value="">{t("the fallback")}</MenuItem>
          </TextField>
          <TextField
            select
            label={t("Where")}
            value={everywhere ? "here" : "own"}
            onChange={(event) => setEverywhere(event.target.value === "here")}
          >
            <MenuItem value="here">{t("on the current page")}</MenuItem>
            <MenuItem value="own">{t("each on the page of its own")}</MenuItem>
          </TextField>
        </div>
        <table className="heat" aria-label={t("Share of lenses by weekday and hour")}>
          <thead>
            <tr>
              <td />
              {Array.from({ length: 24 }, (_, clock) => (
                <th key={clock} scope="col">
                  {clock}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {weekdayNames.map((name, day) => (
              <tr key={name}>
                <th scope="row">{name.slice(0, 3)}</th>
                {Array.from({ length: 24 }, (_, clock) => {
                  const share = rows?.[day]?.[clock] ?? 0;
                  const count = Math.round(share * lenses.length);
                  return (
                    <td
                      key={clock}
                      title={t("{name} {clock}:00: {count} of {lenses} lenses", {
                        name,
                        clock,
                        count,
                        lenses: lenses.length,
                      })}
                      style={{ background: `color-mix(in srgb, ${colour} ${Math.round(share * 100)}%, var(--sunk))` }}
                    >
                      <span className="visuallyhidden">{count}</span>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
        <span className="quiet">
          {t(
            "{lenses} lenses, at the beginning of each hour of the week that is shown, {zone}. The darker, the more of them see it.",
            { lenses: lenses.length, zone: zonePhrase(ruleset.site.zone) },
          )}
        </span>
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{t("Close")}</Button>
      </DialogActions>
    </Dialog>
  );
}
