"use client";
import { locale, t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { DriftNow } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { addressOf, variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { titles } from "./titles";

const when = (instant: string): string =>
  new Date(instant).toLocaleString(locale(), { dateStyle: "medium", timeStyle: "short" });

/** Where the site's pages have changed under what is live: visitors get the page's own content there. */
export function DriftList() {
  const { actions, ruleset, look, lookedBy, may } = useDesk();
  const go = useGo();
  const { enqueueSnackbar } = useSnackbar();
  const { value: now, set: setNow } = useAsked("drift", []);
  const [busy, setBusy] = useState(false);
  const ask = async (work: Promise<DriftNow>) => {
    setBusy(true);
    await work.then(setNow, (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }));
    setBusy(false);
  };
  // Nothing is pointed at on pages that the site's own server fills: then there is something only where redirects lead nowhere.
  if (!now || (lookedBy === "process" && (now.look?.found.length ?? 0) === 0)) return null;
  const nameOf = (slot: string, variant: string) => {
    const found = ruleset.slots.find((item) => item.id === slot);
    const version = found?.variants.find((item) => item.id === variant);
    return version
      ? t("“{version}” in “{name}”", { version: version.name, name: found?.name })
      : `“${found?.name ?? slot}”`;
  };
  const nothing = now.told.length === 0 && (now.look?.found.length ?? 0) === 0;
  return (
    <section aria-label={t("The site’s pages")}>
      <div className="row">
        <h2 style={{ flex: 1 }}>{t("The site’s pages, under what is live")}</h2>
        <span className="quiet">
          {now.look ? t("looked at {at}", { at: when(now.look.at) }) : t("not looked at yet")}
        </span>
        <Button disabled={busy} onClick={() => void ask(actions.lookAtPages())}>
          {busy ? t("Looking …") : t("Look now")}
        </Button>
      </div>
      {nothing && (
        <p className="quiet">
          {t("Every slot that was pointed at, and every changed copy, fits the pages; every redirect leads to one.")}
        </p>
      )}
      {now.told.map((item) => (
        <div key={`${item.path} ${item.slot} ${item.variant}`} className="finding" data-finding="drift">
          <b className="no">{t("The page has changed")}</b>
          <span className="rule">
            {t(
              "{nameOf} on {path}: {why}. Since {since}, {visitors, plural, one {# visitor got} other {# visitors got}} the page’s own content instead",
              {
                nameOf: nameOf(item.slot, item.variant),
                path: item.path,
                why: item.why,
                since: when(item.since),
                visitors: item.visitors,
              },
            )}
          </span>
          <span className="quiet" title={t("Told by the page script in visitors’ browsers, once a session each")}>
            {t("told by pages")}
          </span>
          <span className="row">
            <Button
              onClick={() => {
                look.setVisit({ ...look.visit, url: new URL(item.path, look.visit.url).href });
                go(variantAddress(item.slot, item.variant || undefined));
              }}
            >
              {t("Open")}
            </Button>
            {may("slots") && (
              <Button
                title={t("It is told again if it is still so")}
                onClick={() =>
                  void ask(actions.forgetDrift({ path: item.path, slot: item.slot, variant: item.variant }))
                }
              >
                {t("Mended")}
              </Button>
            )}
          </span>
        </div>
      ))}
      {now.look?.found.map((item) => (
        <div key={item.says} className="finding" data-finding={item.finding}>
          <b className={item.proof === "exact" ? "no" : "unsure"}>{titles[item.finding]}</b>
          <span className="rule">{item.says}</span>
          <span className="quiet" title={t("Looked for by the server, in the pages as they are served")}>
            {t("found")}
          </span>
          <span className="row">
            <Button
              onClick={() =>
                go(
                  item.finding === "tag-gone"
                    ? "/connect"
                    : item.about
                      ? addressOf("/redirects", item.about.id)
                      : variantAddress(item.slot ?? "", item.variant),
                )
              }
            >
              {t("Open")}
            </Button>
          </span>
        </div>
      ))}
      <h2>{t("The draft")}</h2>
    </section>
  );
}
