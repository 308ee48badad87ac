"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { ArrowRight } from "lucide-react";
import { useState } from "react";
import type { Effect } from "@/core/analysis/effects";
import type { Ruleset } from "@/core/formats/ruleset";
import { visitPhrases } from "@/core/lens/phrases";
import type { LookSource } from "@/server/types";
import { useDesk } from "../parts/desk/desk";
import { useGo } from "../parts/desk/use-go";
import { widthOf } from "../parts/devices";
import { SiteCell } from "../parts/page-frame/site-cell";
import { SentenceParts } from "../parts/sentence-text";
import { useEffects } from "./use-effects";

interface Side {
  ruleset: Ruleset;
  source: LookSource;
  title: string;
}

/** Who is affected, each with a visitor and what they see before and after. */
export function EffectList({ before, after }: { before: Side; after: Side }) {
  const { pages } = useDesk();
  const { list, share } = useEffects(before.ruleset, after.ruleset, pages);
  const [open, setOpen] = useState(0);
  const shown = list[Math.min(open, list.length - 1)];
  return (
    <section className="stack" aria-label={t("Who is affected")}>
      <h2>{t("Who is affected")}</h2>
      {share < 1 && <LinearProgress variant="determinate" value={share * 100} aria-label={t("Looking for visitors")} />}
      {share === 1 && list.length === 0 && (
        <p className="quiet">
          {t("No visitor was found who would see a difference: what differs is not shown, or only named differently.")}
        </p>
      )}
      <ol className="effects">
        {list.map((effect, index) => (
          <li key={`${effect.kind} ${effect.id} ${effect.before} ${effect.after}`}>
            <button type="button" aria-pressed={effect === shown} onClick={() => setOpen(index)}>
              <b>{effect.name}</b>
              <span>
                {effect.before} <ArrowRight size={13} aria-label={t("becomes")} /> {effect.after}
              </span>
              <span className="serif quiet">
                {effect.rule === null ? (
                  effect.kind === "slot" ? (
                    t("for everyone else")
                  ) : (
                    t("for everyone")
                  )
                ) : (
                  <>
                    {t("when")}{" "}
                    <SentenceParts
                      rule={effect.rule}
                      names={effect.from === "after" ? after.ruleset : before.ruleset}
                    />
                  </>
                )}
              </span>
            </button>
          </li>
        ))}
      </ol>
      {shown && <Witness key={list.indexOf(shown)} effect={shown} before={before} after={after} />}
    </section>
  );
}

/** One visitor, and the page as they see it before and after. */
function Witness({ effect, before, after }: { effect: Effect; before: Side; after: Side }) {
  const { pages, look, setWidth, ruleset } = useDesk();
  const go = useGo();
  const { witness } = effect;
  const titles = new Map(pages.map((page) => [page.path, page.title]));
  const phrases = visitPhrases(witness, ruleset, titles);
  const width = widthOf(witness);
  const marks =
    effect.kind === "slot" ? { [effect.id]: { label: effect.name, colour: "#8A6A12", selected: true } } : undefined;
  return (
    <div className="stack">
      <div className="row">
        <p className="serif" style={{ flex: 1 }}>
          {rich(
            "For example {visitor} on {device} in {place}, reading {language}, arriving {arrival}{link}, looking at {page} on {time}, with {cart}.",
            {
              visitor: <b>{phrases.visitor}</b>,
              device: phrases.device,
              place: phrases.place,
              language: phrases.language,
              arrival: phrases.arrival,
              link: phrases.link ? t(" by {link}", { link: phrases.link }) : "",
              page: phrases.page,
              time: phrases.time,
              cart: phrases.cart,
            },
          )}
        </p>
        <Button
          onClick={() => {
            look.setVisit(witness);
            setWidth(width);
            go("/pages");
          }}
        >
          {t("View as this visitor")}
        </Button>
      </div>
      <div className="before-after" data-width={width}>
        {[before, after].map((side) => (
          <figure key={side.title}>
            <figcaption>
              {side.title}: {side === before ? effect.before : effect.after}
            </figcaption>
            <SiteCell
              visit={witness}
              title={t("The page, {title}", { title: side.title })}
              width={width}
              height={760}
              source={side.source}
              {...(marks ? { marks } : {})}
            />
          </figure>
        ))}
      </div>
    </div>
  );
}
