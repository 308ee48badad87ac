"use client";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { isFault, standingOf, type Finding } from "@/core/analysis/findings";
import { Portion } from "../parts/lists/portion";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { useSearch } from "../parts/lists/use-search";
import { DriftList } from "./drift-list";
import { titles } from "./titles";
import { ownerAddress } from "../parts/lists/used-by";

const standings = {
  proven: "Proven over everything that a visit can be",
  found: "There is a visit that shows it",
  "not found": "None was found among the visits that were tried: no proof that there is none",
};

/** What the analysis found in the draft, faults first, each with a visitor to look through where there is one. */
export function FindingsScreen() {
  const { findings, look, ruleset } = useDesk();
  const [show, setShow] = useState<"faults" | "all">("all");
  const go = useGo();
  const { enqueueSnackbar } = useSnackbar();
  const rank = (item: Finding) => (isFault(item) ? 0 : item.finding === "overlap" ? 2 : 1);
  const sorted = [...findings.list].sort((a, b) => rank(a) - rank(b));
  const shown = sorted.filter((item) => show === "all" || isFault(item));
  const search = useSearch(shown, "findings", (item) => `${titles[item.finding]} ${item.says}`);
  const faults = findings.list.filter((item) => isFault(item)).length;
  const address = (item: Finding): string | undefined =>
    item.variant
      ? variantAddress(item.slot ?? "", item.variant)
      : item.slot
        ? variantAddress(item.slot)
        : item.about && ownerAddress({ kind: item.about.kind, id: item.about.id, name: "" });
  return (
    <main className="settings findings">
      <div className="row">
        <h1>Findings</h1>
        <span className="quiet" role="status">
          {findings.share < 1 && !findings.stopped
            ? `Checking the draft: ${Math.round(findings.share * 100)} %`
            : `${findings.list.length === 0 ? "Nothing odd was found in the draft" : `${faults} ${faults === 1 ? "fault" : "faults"}, ${findings.list.length - faults} ${findings.list.length - faults === 1 ? "remark" : "remarks"}`}${findings.stopped ? ", stopped" : ""}`}
        </span>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={show}
          onChange={(_, next: typeof show | null) => next && setShow(next)}
        >
          <ToggleButton value="all">All</ToggleButton>
          <ToggleButton value="faults">Faults</ToggleButton>
        </ToggleButtonGroup>
        {findings.share < 1 && !findings.stopped ? (
          <Button onClick={findings.stop}>Stop</Button>
        ) : (
          <Button onClick={findings.again}>Run again</Button>
        )}
      </div>
      {findings.share < 1 && !findings.stopped && (
        <LinearProgress
          variant="determinate"
          aria-label="Checking the draft"
          value={findings.share * 100}
          sx={{ mt: 2, height: 3, borderRadius: 2 }}
        />
      )}
      <DriftList />
      {search.field}
      <Portion items={search.found}>
        {(item, index) => {
          const to = address(item);
          return (
            <div key={index} className="finding" data-finding={item.finding}>
              <b className={isFault(item) ? "no" : "unsure"}>{titles[item.finding]}</b>
              <span className="rule">{item.says}</span>
              <span className="quiet" title={standings[standingOf(item)]}>
                {standingOf(item)}
              </span>
              <span className="row">
                {item.witness && (
                  <Button
                    color="secondary"
                    onClick={() => {
                      if (!item.witness) return;
                      look.setVisit(item.witness);
                      enqueueSnackbar("You are viewing as such a visitor");
                      go(item.slot ? variantAddress(item.slot) : "/pages");
                    }}
                  >
                    View as this visitor
                  </Button>
                )}
                {to && <Button onClick={() => go(to)}>Open</Button>}
              </span>
            </div>
          );
        }}
      </Portion>
      {findings.share === 1 && shown.length === 0 && !search.asked && (
        <p className="teaches">
          {show === "faults" && findings.list.length > 0
            ? "No faults. Remarks are under “All”."
            : `Every variant of ${ruleset.site.name} can be seen by someone, no window is closed for ever, and no promise stands alone.`}
        </p>
      )}
    </main>
  );
}
