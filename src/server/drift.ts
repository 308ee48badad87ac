/** Where the pages of a site have changed under what is live: told by visitors' pages, and looked for once a day. */
import { listDrift, readLook, saveLook, sitesToLookAt, type KeptDrift } from "@/data/drift";
import { liveRelease } from "@/data/releases";
import type { Finding } from "@/core/analysis/findings";
import { lookForLostTags } from "./connection";
import { forgetPages } from "./read-pages";
import { lookAtPages } from "./place-search";

export interface DriftNow {
  /** What visitors' pages have told. */
  told: KeptDrift[];
  /** What the server found when it looked last; undefined: it has not looked yet. */
  look: { at: string; found: Finding[] } | undefined;
}

export async function driftNow(site: string): Promise<DriftNow> {
  const [told, look] = await Promise.all([listDrift(site), readLook(site)]);
  return { told, look };
}

/** Looks at the pages of a site under what is live. */
export async function lookAgain(site: string): Promise<DriftNow> {
  const live = await liveRelease(site);
  forgetPages(site);
  if (live) {
    const { zone } = live.ruleset.site;
    const found = await Promise.all([lookAtPages(site, live.ruleset), lookForLostTags(site, zone)]);
    await saveLook(site, found.flat());
  }
  return driftNow(site);
}

/** Looks at the pages of every site that was not looked at for a day. */
export async function lookAtAll(): Promise<void> {
  for (let due = await sitesToLookAt(); due.length > 0; due = await sitesToLookAt())
    for (const site of due) await lookAgain(site).catch(() => undefined);
}
