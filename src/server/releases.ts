/** What went live: the way back to it, what is kept of it, and what is paused of what is live. */
import { t } from "@/core/messages/t";
import type { Ruleset } from "@/core/formats/ruleset";
import { pausedName, type Pause } from "@/core/release/pause";
import { tell } from "@/data/audit";
import { addPause, endPause, listPauses, type KeptPause } from "@/data/pauses";
import type { SignedIn } from "@/data/people";
import { transaction } from "@/data/pool";
import {
  goLive,
  liveRelease,
  listReleases,
  readRelease,
  wentLive,
  type ReleaseNote,
  type WentLive,
} from "@/data/releases";
import { listComments, listReviews, readReview, type Review, type ReviewComment } from "@/data/reviews";
import { announceDesk } from "@/data/sessions";
import { holdSite } from "@/data/sites";
import type { Decided } from "./reviews";

/** Makes an earlier release live again, in one step. */
export function returnTo(who: SignedIn, number: number, why: string): Promise<Decided> {
  return transaction(who.site, async (db) => {
    await holdSite(who.site, db);
    const [wanted, live] = [await readRelease(who.site, number, db), await liveRelease(who.site, db)];
    if (!wanted) return { ok: false, problem: t("There is no such release.") };
    if (live?.number === number) return { ok: false, problem: t("Release {number} is live already.", { number }) };
    await goLive(who.site, number, who.id, why, db);
    await tell(
      who.site,
      who.id,
      {
        kind: "release",
        says: t("Back to release {number}", { number }),
        before: { release: live?.number },
        after: { release: number, why },
      },
      db,
    );
    await announceDesk(who.site, db);
    return { ok: true, release: number };
  });
}

/** What the releases screen shows. */
export interface ReleasesNow {
  releases: ReleaseNote[];
  wentLive: WentLive[];
  reviews: Review[];
}
export async function releasesNow(site: string): Promise<ReleasesNow> {
  const [releases, went, reviews] = await Promise.all([listReleases(site), wentLive(site), listReviews(site)]);
  return { releases, wentLive: went, reviews };
}

/** The ruleset of a release or a review, with what was said about it. */
export async function rulesetAt(
  site: string,
  kind: "release" | "review",
  number: number,
): Promise<{ ruleset: Ruleset; comments: ReviewComment[] } | undefined> {
  const found = kind === "release" ? await readRelease(site, number) : await readReview(site, number);
  return found && { ruleset: found.ruleset, comments: kind === "review" ? await listComments(site, number) : [] };
}

/** Pauses something on the live site, or lets it go on. At once, and with a line in the audit trail. */
export function pause(who: SignedIn, what: Pause, reason: string | null): Promise<KeptPause[] | string> {
  return transaction(who.site, async (db) => {
    const live = await liveRelease(who.site, db);
    const name = live && pausedName(live.ruleset, what);
    if (!name && reason !== null) return t("This is not live, so there is nothing to pause.");
    const done =
      reason === null ? await endPause(who.site, what, db) : await addPause(who.site, what, who.id, reason, db);
    if (done)
      await tell(
        who.site,
        who.id,
        {
          kind: "pause",
          says: `${name ?? what.id} ${reason === null ? t("goes on") : t("was paused")}`,
          ...(reason ? { after: { why: reason } } : {}),
        },
        db,
      );
    await announceDesk(who.site, db);
    return listPauses(who.site, db);
  });
}
