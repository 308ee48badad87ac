"use client";
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
  new Date(instant).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

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
    return version ? `“${version.name}” in “${found?.name}”` : `“${found?.name ?? slot}”`;
  };
  const nothing = now.told.length === 0 && (now.look?.found.length ?? 0) === 0;
  return (
    <section aria-label="The site’s pages">
      <div className="row">
        <h2 style={{ flex: 1 }}>The site’s pages, under what is live</h2>
        <span className="quiet">{now.look ? `looked at ${when(now.look.at)}` : "not looked at yet"}</span>
        <Button disabled={busy} onClick={() => void ask(actions.lookAtPages())}>
          {busy ? "Looking …" : "Look now"}
        </Button>
      </div>
      {nothing && (
        <p className="quiet">
          Every slot that was pointed at, and every changed copy, fits the pages; every redirect leads to one.
        </p>
      )}
      {now.told.map((item) => (
        <div key={`${item.path} ${item.slot} ${item.variant}`} className="finding" data-finding="drift">
          <b className="no">The page has changed</b>
          <span className="rule">
            {nameOf(item.slot, item.variant)} on {item.path}: {item.why}. Since {when(item.since)},{" "}
            {item.visitors === 1 ? "1 visitor got" : `${item.visitors} visitors got`} the page’s own content instead
          </span>
          <span className="quiet" title="Told by the page script in visitors’ browsers, once a session each">
            told by pages
          </span>
          <span className="row">
            <Button
              onClick={() => {
                look.setVisit({ ...look.visit, url: new URL(item.path, look.visit.url).href });
                go(variantAddress(item.slot, item.variant || undefined));
              }}
            >
              Open
            </Button>
            {may("slots") && (
              <Button
                title="It is told again if it is still so"
                onClick={() =>
                  void ask(actions.forgetDrift({ path: item.path, slot: item.slot, variant: item.variant }))
                }
              >
                Mended
              </Button>
            )}
          </span>
        </div>
      ))}
      {now.look?.found.map((item) => (
        <div key={item.says} className="finding" data-finding={item.finding}>
          <b className={item.proof === "exact" ? "no" : "unsure"}>{titles[item.finding]}</b>
          <span className="rule">{item.says}</span>
          <span className="quiet" title="Looked for by the server, in the pages as they are served">
            found
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
              Open
            </Button>
          </span>
        </div>
      ))}
      <h2>The draft</h2>
    </section>
  );
}
