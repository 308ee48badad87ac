"use client";
import { useEffect, useState } from "react";
import type { Way } from "@/server/types";
import { useDesk } from "../desk/desk";

/** How long it is believed by which way a page is looked at, in milliseconds. */
const believed = 60_000;
const kept = new Map<string, { way: Promise<Way | undefined>; until: number }>();
/** Sites that somebody chose to see in the mirror, until the workbench is opened anew. */
const mirrored = new Set<string>();

/** The way to a page of the site at hand; undefined until it is known. `path`: path and query. */
export function useWay(path: string): { way: Way | undefined; takeMirror: () => void } {
  const { site, storefront, lookedBy, actions } = useDesk();
  const [known, setKnown] = useState<{ key: string; way: Way }>();
  const [chosen, setChosen] = useState(mirrored.has(site));
  // Which way it is depends on the page, not on its parameters.
  const page = path.split("?")[0] as string;
  const key = `${site} ${chosen ? "mirror" : page}`;
  useEffect(() => {
    if (lookedBy === "process") return;
    let stale = false;
    const before = kept.get(key);
    const asked =
      before && before.until > performance.now()
        ? before.way
        : (chosen ? actions.mirror() : actions.wayTo(page)).catch(() => undefined);
    if (asked !== before?.way) kept.set(key, { way: asked, until: performance.now() + believed });
    void asked.then((found) => {
      if (!found) kept.delete(key);
      // Should nobody know: as a page with the tag, which says itself if it does not answer.
      if (!stale) setKnown({ key, way: found ?? { by: "tag", origin: storefront } });
    });
    return () => {
      stale = true;
    };
  }, [key, page, chosen, lookedBy, storefront, actions]);
  return {
    way: lookedBy === "process" ? { by: "process", origin: storefront } : known?.key === key ? known.way : undefined,
    takeMirror: () => {
      mirrored.add(site);
      setChosen(true);
    },
  };
}

/** An address of a page in the frame as the site has it. */
export function onSite(href: string, way: Way): string {
  if (!URL.canParse(href)) return href;
  const url = new URL(href);
  const site = way.origins?.find(([mirror]) => mirror === url.origin)?.[1];
  return site === undefined ? href : `${site}${url.pathname}${url.search}${url.hash}`;
}
