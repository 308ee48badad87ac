"use client";
import { useSnackbar } from "notistack";
import type { Domain } from "@/core/analysis/facet";
import Button from "@mui/material/Button";
import { nearestChange, nearestOf, someoneWho } from "@/core/analysis/reach";
import { parseInstant, type Visit } from "@/core/formats/visit";
import type { Slot, Variant } from "@/core/formats/ruleset";
import { visitPhrases, type VisitPhrases } from "@/core/lens/phrases";
import { reasonsFor } from "@/core/decision/why";
import { useDesk } from "../parts/desk/desk";
import { emptyWords } from "./empty-words";
import { letterOf } from "../parts/variants";

/** In what one visit differs from another, in the words of the sentence. */
function useChangeWords(): (before: Visit, after: Visit) => string {
  const { pages, ruleset } = useDesk();
  const titles = new Map(pages.map((page) => [page.path, page.title]));
  return (before, after) => {
    const [old, now] = [visitPhrases(before, ruleset, titles), visitPhrases(after, ruleset, titles)];
    return (Object.keys(now) as (keyof VisitPhrases)[])
      .filter((key) => old[key] !== now[key])
      .map((key) => `${old[key]} → ${now[key]}`)
      .join("; ");
  };
}

/** For an empty place: which condition of which variant keeps it empty, and the smallest change that would fill it. */
export function EmptyWhy({ slot }: { slot: Slot }) {
  const { lookedBy, look, pages, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const changeWords = useChangeWords();
  const judged = look.runnable.ruleset;
  const trace = look.decision.trace?.slots.find((item) => item.id === slot.id);
  const fill = () => {
    const here = judged.slots.find((item) => item.id === slot.id);
    const found =
      here && nearestOf({ ruleset: judged, pages, from: parseInstant(look.visit.at) as number }, look.visit, here);
    if (!found)
      return enqueueSnackbar("No small change of this visitor would show anything here.", { variant: "warning" });
    enqueueSnackbar(`“${found.variant.name}” shows now: ${changeWords(look.visit, found.change.visit)}.`, {
      autoHideDuration: 9000,
    });
    look.setVisit(found.change.visit);
  };
  return (
    <section className="emptywhy" aria-label="Why nothing is shown here">
      <b>{emptyWords(lookedBy).here}</b>
      <ul>
        {slot.variants.map((variant, index) => {
          const own = trace?.variants.find((item) => item.id === variant.id);
          const reasons = own ? reasonsFor(own, ruleset, 2).map((reason) => reason.text) : [];
          return (
            <li key={variant.id}>
              {letterOf(index)} {variant.name}:{" "}
              {!variant.on
                ? "it is switched off"
                : !own
                  ? "it is not finished"
                  : reasons.length > 0
                    ? `${own.verdict === "rule unknown" ? "" : "because: "}${reasons.join(", ")}`
                    : "its rule is not met"}
            </li>
          );
        })}
        <li>There is no fallback.</li>
      </ul>
      {slot.variants.some((variant) => variant.on) && (
        <Button color="secondary" onClick={fill}>
          Smallest change to show something
        </Button>
      )}
    </section>
  );
}

/** For a variant that does not show: someone who sees it, and the fewest things to change about the visitor at hand. */
export function Reach({ slot, variant }: { slot: Slot; variant: Variant }) {
  const { look, pages } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const judged = look.runnable.ruleset;
  const domain: Domain = { ruleset: judged, pages, from: parseInstant(look.visit.at) as number };
  const here = judged.slots.find((item) => item.id === slot.id);
  const mine = here?.variants.find((item) => item.id === variant.id);
  const changeWords = useChangeWords();
  const off = variant.on ? "" : " It is switched off: that comes first.";
  const someone = () => {
    if (!here || !mine) return;
    const solved = someoneWho(domain, here, mine);
    if (!solved.found) {
      enqueueSnackbar(
        solved.proof === "exact"
          ? "Proven: no visitor can see it. Its rule, and those above it, leave none."
          : `No visitor who sees it was found in ${solved.tries.toLocaleString("en")} tries.`,
        { variant: "warning" },
      );
      return;
    }
    look.setVisit(solved.visit);
    enqueueSnackbar(`You are viewing as a visitor who sees “${variant.name}”.${off}`);
  };
  const nearest = () => {
    if (!here || !mine) return;
    const change = nearestChange(domain, look.visit, here, mine);
    if (!change) {
      enqueueSnackbar("No small change of this visitor would show it. Try “Find a visitor who sees this”.", {
        variant: "warning",
      });
      return;
    }
    const said = changeWords(look.visit, change.visit);
    look.setVisit(change.visit);
    enqueueSnackbar(
      change.facets.length === 0
        ? `Nothing about this visitor has to change.${off}`
        : `${change.facets.length === 1 ? "One thing" : `${change.facets.length} things`} changed: ${said || change.facets.join(", ")}.${off}`,
      { autoHideDuration: 9000 },
    );
  };
  return (
    <div className="reach">
      <button type="button" onClick={someone} aria-label="Find a visitor who sees this" title="…who sees this variant">
        Find a visitor
      </button>
      <button
        type="button"
        onClick={nearest}
        aria-label="Smallest change to show it"
        title="…of this visitor, to show the variant"
      >
        Smallest change
      </button>
    </div>
  );
}
