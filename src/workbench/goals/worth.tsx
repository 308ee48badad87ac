"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { fromWords, worthSignal } from "@/core/collect/sources";
import { ReadOnPages } from "../parts/collect/on-pages";
import { PlaceForm } from "../parts/collect/place-form";
import { useDesk } from "../parts/desk/desk";
import { To } from "../parts/desk/site-address";
import type { GoalProps } from "./editor";

/** Where pages say what a goal is worth: pointed at, said by hand, or nowhere. */
export function WorthOnPage({ goal, set }: GoalProps) {
  const { lookedBy, may } = useDesk();
  const { worth } = goal;
  return (
    <>
      {worth && (
        <span className="stack" style={{ gap: 2, overflowWrap: "anywhere" }}>
          <span>{t("It is read {worth}, when the goal is reached.", { worth: fromWords(worth) })}</span>
          <ReadOnPages entry={{ signal: worthSignal(goal.id), ...worth }} />
        </span>
      )}
      <div className="row" style={{ flexWrap: "wrap" }}>
        {lookedBy === "tag" && may("slots") && (
          <Button component={To} href={`/pages?point=worth&goal=${encodeURIComponent(goal.id)}`}>
            {t("Point at what says it")}
          </Button>
        )}
        {worth && (
          <Button
            onClick={() =>
              set(goal, "worth", undefined, t("{goal} is no longer worth what the page says", { goal: goal.name }))
            }
          >
            {t("Stop reading it")}
          </Button>
        )}
      </div>
      <PlaceForm
        counts
        onAdd={(from, decimal) =>
          set(goal, "worth", { from, ...decimal }, t("{goal} is worth what the page says", { goal: goal.name }))
        }
      />
    </>
  );
}
