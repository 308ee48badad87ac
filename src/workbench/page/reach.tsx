"use client";
import { locale, t } from "@/core/messages/t";
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
      return enqueueSnackbar(t("No small change of this visitor would show anything here."), { variant: "warning" });
    enqueueSnackbar(
      t("“{variant}” shows now: {changeWords}.", {
        variant: found.variant.name,
        changeWords: changeWords(look.visit, found.change.visit),
      }),
      {
        autoHideDuration: 9000,
      },
    );
    look.setVisit(found.change.visit);
  };
  return (
    <section className="emptywhy" aria-label={t("Why nothing is shown here")}>
      <b>{emptyWords(lookedBy).here}</b>
      <ul>
        {slot.variants.map((variant, index) => {
          const own = trace?.variants.find((item) => item.id === variant.id);
          const reasons = own ? reasonsFor(own, ruleset, 2).map((reason) => reason.text) : [];
          return (
            <li key={variant.id}>
              {letterOf(index)} {variant.name}:{" "}
              {!variant.on
                ? t("it is switched off")
                : !own
                  ? t("it is not finished")
                  : reasons.length > 0
                    ? `${own.verdict === "rule unknown" ? "" : "because: "}${reasons.join(", ")}`
                    : t("its rule is not met")}
            </li>
          );
        })}
        <li>{t("There is no fallback.")}</li>
      </ul>
      {slot.variants.some((variant) => variant.on) && (
        <Button color="secondary" onClick={fill}>
          {t("Smallest change to show something")}
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
  const off = variant.on ? "" : t(" It is switched off: that comes first.");
  const someone = () => {
    if (!here || !mine) return;
    const solved = someoneWho(domain, here, mine);
    if (!solved.found) {
      enqueueSnackbar(
        solved.proof === "exact"
          ? t("Proven: no visitor can see it. Its rule, and those above it, leave none.")
          : t("No visitor who sees it was found in {tries} tries.", { tries: solved.tries.toLocaleString(locale()) }),
        { variant: "warning" },
      );
      return;
    }
    look.setVisit(solved.visit);
    enqueueSnackbar(t("You are viewing as a visitor who sees “{variant}”.{off}", { variant: variant.name, off }));
  };
  const nearest = () => {
    if (!here || !mine) return;
    const change = nearestChange(domain, look.visit, here, mine);
    if (!change) {
      enqueueSnackbar(t("No small change of this visitor would show it. Try “Find a visitor who sees this”."), {
        variant: "warning",
      });
      return;
    }
    const said = changeWords(look.visit, change.visit);
    look.setVisit(change.visit);
    enqueueSnackbar(
      change.facets.length === 0
        ? t("Nothing about this visitor has to change.{off}", { off })
        : t("{facets, plural, one {One thing} other {# things}} changed: {said}.{off}", {
            facets: change.facets.length,
            said: said || change.facets.join(", "),
            off,
          }),
      { autoHideDuration: 9000 },
    );
  };
  return (
    <div className="reach">
      <button
        type="button"
        onClick={someone}
        aria-label={t("Find a visitor who sees this")}
        title={t("…who sees this variant")}
      >
        {t("Find a visitor")}
      </button>
      <button
        type="button"
        onClick={nearest}
        aria-label={t("Smallest change to show it")}
        title={t("…of this visitor, to show the variant")}
      >
        {t("Smallest change")}
      </button>
    </div>
  );
}
