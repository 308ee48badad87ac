"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import { linkText, type CampaignLink } from "@/core/campaigns/link";
import type { Visit } from "@/core/formats/visit";
import { onPage } from "@/core/lens/pages";
import { useDesk } from "../parts/desk/desk";
import { useGo } from "../parts/desk/use-go";
import { variantAddress } from "../parts/desk/screens";
import { indexIn, Swatch } from "../parts/variants";

/** The visit of somebody who follows a link: the lens at hand, at the link's address. */
export const visitBy = (link: CampaignLink, visit: Visit, origin: string): Visit => ({
  ...visit,
  url: linkText(link, origin),
});

/** What a link shows the visitor of the sentence above, slot by slot, and what it changes for them. */
export function LinkShows({ link }: { link: CampaignLink }) {
  const { look, facts, ruleset } = useDesk();
  const go = useGo();
  const { engine } = look;
  const { shown, without, redirect } = useMemo(() => {
    const visit = onPage(visitBy(link, look.visit, ruleset.site.origin), facts);
    const decision = engine.decide(visit);
    const bare = engine.decide(onPage(visitBy({ ...link, tags: [] }, look.visit, ruleset.site.origin), facts));
    return { shown: decision.slots, without: bare.slots, redirect: decision.redirect };
  }, [engine, link, look.visit, facts, ruleset.site.origin]);
  const open = (address: string) => {
    look.setVisit(visitBy(link, look.visit, ruleset.site.origin));
    go(address);
  };
  return (
    <section className="stack" aria-label={t("What this link shows")}>
      <div className="row">
        <h2 style={{ flex: 1 }}>{t("What this link shows")}</h2>
        <Button variant="contained" onClick={() => open("/pages")}>
          {t("View as this visitor")}
        </Button>
      </div>
      <span className="quiet">
        {t("To the visitor of the sentence above. What the link itself makes different is marked.")}
      </span>
      {redirect && <p>{rich("It is sent on to {location}.", { location: <code>{redirect.location}</code> })}</p>}
      <ul className="linkshows">
        {ruleset.slots.map((slot) => {
          const items = shown[slot.id];
          if (!items) return null;
          const names = items.map((item) => item.variant ?? "fallback").join();
          const moved = names !== (without[slot.id] ?? []).map((item) => item.variant ?? "fallback").join();
          return (
            <li key={slot.id} className={moved ? "moved" : ""}>
              <button
                type="button"
                className="link"
                onClick={() => open(variantAddress(slot.id, items[0]?.variant ?? undefined))}
              >
                {slot.name}
              </button>
              <span>
                {items.map((item, index) => (
                  <span key={index} className="shownvariant">
                    <Swatch index={indexIn(slot, item.variant)} />
                    {slot.variants.find((variant) => variant.id === item.variant)?.name ??
                      (slot.fallback ? t("Fallback") : t("Nothing"))}
                  </span>
                ))}
              </span>
              <span>{moved ? <span className="pill live">{t("by this link")}</span> : null}</span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
