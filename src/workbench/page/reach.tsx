"use client";
import { useSnackbar } from "notistack";
import type { Domain } from "@/core/analysis/facet";
import { nearestChange, someoneWho } from "@/core/analysis/reach";
import { parseInstant, type Visit } from "@/core/formats/visit";
import type { Slot, Variant } from "@/core/formats/ruleset";
import { visitPhrases, type VisitPhrases } from "@/core/visit/phrases";
import { useDesk } from "../parts/desk/desk";

/** For a variant that does not show: someone who sees it, and the fewest things to change about the visitor at hand. */
export function Reach({ slot, variant }: { slot: Slot; variant: Variant }) {
  const { look, pages, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const judged = look.runnable.ruleset;
  const domain: Domain = { ruleset: judged, pages, from: parseInstant(look.visit.at) as number };
  const here = judged.slots.find((item) => item.id === slot.id);
  const mine = here?.variants.find((item) => item.id === variant.id);
  const titles = new Map(pages.map((page) => [page.path, page.title]));
  const phrases = (visit: Visit): VisitPhrases => visitPhrases(visit, ruleset, titles);
  const off = variant.on ? "" : " It is switched off: that comes first.";
  const someone = () => {
    if (!here || !mine) return;
    const solved = someoneWho(domain, here, mine);
    if (!solved.found) {
      enqueueSnackbar(
        solved.proof === "exact"
          ? "Nobody can see it: that is proved. Its rule, and those above it, leave no visitor."
          : `Nobody who sees it was found in ${solved.tries} tries.`,
        { variant: "warning" },
      );
      return;
    }
    look.setVisit(solved.visit);
    enqueueSnackbar(`Looking through someone who sees “${variant.name}”.${off}`);
  };
  const nearest = () => {
    if (!here || !mine) return;
    const change = nearestChange(domain, look.visit, here, mine);
    if (!change) {
      enqueueSnackbar("No small change of this visitor would show it. Try “someone who sees this”.", {
        variant: "warning",
      });
      return;
    }
    const [before, after] = [phrases(look.visit), phrases(change.visit)];
    const said = (Object.keys(after) as (keyof VisitPhrases)[])
      .filter((key) => before[key] !== after[key])
      .map((key) => `${before[key]} → ${after[key]}`);
    look.setVisit(change.visit);
    enqueueSnackbar(
      change.facets.length === 0
        ? `Nothing about this visitor has to change.${off}`
        : `${change.facets.length === 1 ? "One thing" : `${change.facets.length} things`} changed: ${said.join("; ") || change.facets.join(", ")}.${off}`,
      { autoHideDuration: 9000 },
    );
  };
  return (
    <div className="reach">
      <button type="button" onClick={someone}>
        Someone who sees this
      </button>
      <button type="button" onClick={nearest}>
        Nearest change
      </button>
    </div>
  );
}
