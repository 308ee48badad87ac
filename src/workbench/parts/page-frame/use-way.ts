"use client";
import { useState } from "react";
import type { Way } from "@/server/types";
import { useAsked } from "../asked";
import { useDesk } from "../desk/desk";

/** How long it is believed by which way a page is looked at, in milliseconds. */
const believed = 60_000;
/** Sites that somebody chose to see in the mirror, until the workbench is opened anew. */
const mirrored = new Set<string>();

/** The way to a page of the site at hand; undefined until it is known. `path`: path and query. */
export function useWay(path: string): { way: Way | undefined; takeMirror: () => void } {
  const { site, storefront, lookedBy } = useDesk();
  const [chosen, setChosen] = useState(mirrored.has(site));
  // Which way it is depends on the page, not on its parameters.
  const page = path.split("?")[0] as string;
  const asks = lookedBy !== "process";
  const direct = useAsked("wayTo", [page], { when: asks && !chosen, believed });
  const mirror = useAsked("mirror", [], { when: asks && chosen, believed });
  const asked = chosen ? mirror : direct;
  // Should nobody know: as a page with the tag, which says itself if it does not answer.
  const otherwise: Way | undefined = asked.asking ? undefined : { by: "tag", origin: storefront };
  return {
    way: lookedBy === "process" ? { by: "process", origin: storefront } : (asked.value ?? otherwise),
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
