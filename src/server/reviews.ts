import { t } from "@/core/messages/t";
import { createHash } from "node:crypto";
import type { Finding } from "@/core/analysis/findings";
import { createEngine } from "@/core/decision/engine";
import { rulesetOf } from "@/core/draft/picks";
import type { Problem } from "@/core/formats/problem";
import type { Ruleset } from "@/core/formats/ruleset";
import { mayDo } from "@/core/people/roles";
import { blocks, failingIn, reportOf, type Report } from "@/core/release/report";
import { checkRuleset } from "@/core/ruleset/check";
import { tell } from "@/data/audit";
import { listChecks } from "@/data/checks";
import { deliverySettings } from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { listPages } from "@/data/pages";
import type { SignedIn } from "@/data/people";
import { logFailure } from "@/data/failures";
import { siteLookup } from "@/data/places";
import { allSites, isDatabaseAway, transaction, type Queryable } from "@/data/pool";
import { liveRelease, putLive } from "@/data/releases";
import {
  addComment,
  addReview,
  decideReview,
  dueReview,
  listComments,
  listReviews,
  readReview,
  type Review,
  type ReviewComment,
} from "@/data/reviews";
import { announceDesk } from "@/data/sessions";
import { holdSite } from "@/data/sites";
import { lookAtPages } from "./place-search";
import { forgetPages } from "./read-pages";
import { inWorker, TookTooLong } from "./work";
import { now } from "@/clock";

export type Asked =
  | { ok: true; review: number; release?: number }
  | { ok: false; problem: string; problems?: Problem[]; report?: Report };
export type Decided = { ok: true; release?: number } | { ok: false; problem: string };

/** So long a ruleset is looked through before it goes live, in milliseconds; of a site one at a time. */
const analysisPatience = 1000 * (Number(process.env.MIRADA_ANALYSIS_SECONDS) || 60);
const analyses = new Map<string, Promise<unknown>>();

/** What the analysis finds, on a thread of its own; undefined: it was given up. */
async function findingsOf(site: string, domain: object): Promise<Finding[] | undefined> {
  const before = analyses.get(site);
  const own = (before ?? Promise.resolve())
    .catch(() => undefined)
    .then(() => inWorker<Finding[]>("findings", domain, analysisPatience));
  analyses.set(site, own);
  try {
    return await own;
  } catch (error) {
    if (error instanceof TookTooLong) return undefined;
    throw error;
  } finally {
    if (analyses.get(site) === own) analyses.delete(site);
  }
}

/** What keeps a release back where nobody knows what the analysis would have found. */
const notLookedThrough = {
  kind: "not-looked-through",
  says: t(
    "Not looked through: the analysis was given up after {analysisPatience} seconds. Fewer conditions in one rule make it quicker.",
    { analysisPatience: analysisPatience / 1000 },
  ),
};

/** What checks and the analysis say of a ruleset. */
async function report(site: string, ruleset: Ruleset): Promise<Report> {
  const [checks, pages, lookup, { otherHosts }] = await Promise.all([
    listChecks(site),
    listPages(site),
    siteLookup(site),
    deliverySettings(site),
  ]);
  // As they are just now.
  forgetPages(site);
  const engine = createEngine(ruleset, { lookup, mayLeadTo: (host) => otherHosts.includes(host) });
  const [found, drift] = await Promise.all([
    findingsOf(site, { ruleset, pages, from: now() }),
    lookAtPages(site, ruleset).catch((): Finding[] => []),
  ]);
  const said = reportOf(engine, checks, [...(found ?? []), ...drift]);
  return found ? said : { ...said, faults: [...said.faults, notLookedThrough] };
}

/**
 * Asks for a review of the draft as it stands: its ruleset is kept, so that what was looked at is what goes live. What fails
 * keeps it back, unless a reason is given.
 * @param ask.version the version of the draft that was looked at: should it have changed since, nothing is asked for
 * @param ask.accepted what fails and was seen to fail, in the report's words: what is not among it keeps it back, whatever the reason
 * @param ask.live whoever may approve puts it live in the same step
 */
export async function askForReview(
  who: SignedIn,
  ask: { note: string; version: number; reason: string; live: boolean; accepted?: readonly string[] },
): Promise<Asked> {
  const { site } = who;
  const changed: Asked = {
    ok: false,
    problem: t("The draft was changed meanwhile. Look at the differences once more."),
  };
  const seen = await loadDraft(site);
  if (!seen) return { ok: false, problem: t("There is no such site.") };
  if (seen.version !== ask.version) return changed;
  const ruleset = rulesetOf(seen.ruleset);
  const problems = checkRuleset(ruleset);
  if (problems.length > 0) return { ok: false, problem: t("Something in the draft is not finished."), problems };
  const sha256 = createHash("sha256").update(JSON.stringify(ruleset)).digest("hex");
  if ((await liveRelease(site))?.sha256 === sha256)
    return { ok: false, problem: t("Nothing in the draft differs from what is live.") };
  const told = await report(site, ruleset);
  const unseen = failingIn(told).filter((item) => ask.accepted && !ask.accepted.includes(item));
  if (blocks(told) && (ask.reason.trim() === "" || unseen.length > 0))
    return {
      ok: false,
      problem:
        unseen.length > 0 && ask.reason.trim() !== ""
          ? t("{unseen, plural, one {One thing fails} other {# things fail}} that you have not accepted yet.", {
              unseen: unseen.length,
            })
          : t("Checks or findings failed. Mend them, or accept each and say why it should go live all the same."),
      report: told,
    };
  return transaction<Asked>(site, async (db) => {
    const draft = await loadDraft(site, db, true);
    if (draft?.version !== ask.version) return changed;
    const live = await liveRelease(site, db);
    for (const open of await listReviews(site, 20, db))
      if (open.state === "open" || open.state === "approved")
        await decideReview(site, open.number, { state: "withdrawn", by: who.id }, db);
    const review = await addReview(
      site,
      {
        askedBy: who.id,
        note: ask.note,
        ruleset,
        sha256,
        draftVersion: ask.version,
        basedOn: live?.number ?? null,
        report: told,
        override: ask.reason.trim(),
      },
      db,
    );
    await tell(
      site,
      who.id,
      {
        kind: "release",
        says: t("Asked for review {review}", { review }),
        after: { ...(ask.note ? { note: ask.note } : {}), ...(ask.reason ? { "all the same": ask.reason } : {}) },
      },
      db,
    );
    await announceDesk(site, db);
    if (!ask.live) return { ok: true, review };
    const done = await decide(who, review, { approve: true, at: null }, db);
    if (!done.ok) throw new Refused(done.problem);
    return { ok: true, review, ...(done.release === undefined ? {} : { release: done.release }) };
  }).catch((error: unknown) => {
    if (error instanceof Refused) return { ok: false, problem: error.message };
    throw error;
  });
}

class Refused extends Error {}

export type Verdict = { approve: true; at: string | null } | { approve: false };

/** Approves a review, now or for a time, or sends it back. */
export const decideOn = (who: SignedIn, number: number, verdict: Verdict): Promise<Decided> =>
  transaction(who.site, (db) => decide(who, number, verdict, db));

async function decide(who: SignedIn, number: number, verdict: Verdict, db: Queryable): Promise<Decided> {
  const { site } = who;
  await holdSite(site, db);
  const review = await readReview(site, number, db, true);
  if (!review || (review.state !== "open" && review.state !== "approved"))
    return { ok: false, problem: t("This review is not open any more.") };
  if (!mayDo(who.roles, "release")) return { ok: false, problem: t("What goes live is an approver’s to say.") };
  if (!verdict.approve) {
    await decideReview(site, number, { state: "sent back", by: who.id }, db);
    await tell(site, who.id, { kind: "release", says: t("Review {number} was sent back", { number }) }, db);
    await announceDesk(site, db);
    return { ok: true };
  }
  const { secondPerson } = await deliverySettings(site, db);
  if (secondPerson && review.askedBy === who.id)
    return { ok: false, problem: t("You asked for this yourself: a second person must approve it.") };
  const live = await liveRelease(site, db);
  if ((live?.number ?? null) !== review.basedOn) {
    await decideReview(site, number, { state: "outdated", by: who.id }, db);
    await announceDesk(site, db);
    return {
      ok: false,
      problem: t("Release {number} went live meanwhile. Request a review anew.", { number: live?.number }),
    };
  }
  if (verdict.at !== null && Date.parse(verdict.at) > now()) {
    await decideReview(site, number, { state: "approved", by: who.id, liveAt: verdict.at }, db);
    await tell(
      site,
      who.id,
      { kind: "release", says: t("Review {number} was approved", { number }), after: { "goes live": verdict.at } },
      db,
    );
    await announceDesk(site, db);
    return { ok: true };
  }
  return { ok: true, release: await release(site, review, who.id, db) };
}

/** Makes a review the live release. */
async function release(
  site: string,
  review: Review & { ruleset: Ruleset },
  by: string,
  db: Queryable,
): Promise<number> {
  const { note, ruleset, sha256, draftVersion } = review;
  const number = await putLive({ site, person: by, note, ruleset, sha256, draftVersion }, db);
  await decideReview(site, review.number, { state: "live", by, release: number }, db);
  await tell(
    site,
    by,
    {
      kind: "release",
      says: t("Release {number} went live", { number }),
      after: { ...(note ? { note } : {}), "SHA-256": sha256 },
    },
    db,
  );
  await announceDesk(site, db);
  return number;
}

/** What could not go live, by site and number, with the failure that was logged: each second's is not said again. */
const couldNot = new Map<string, string>();

/**
 * Puts live what was approved for a time that has come. Whichever process asks first does it; what cannot go live keeps no other
 * back.
 */
export async function releaseDue(): Promise<void> {
  const failed: string[] = [];
  for (;;) {
    let due: { site: string; number: number } | undefined;
    try {
      await transaction(allSites, async (db) => {
        due = await dueReview(failed, db);
        if (due) await releaseOne(due, db);
      });
      if (!due) return;
    } catch (error) {
      if (!due || isDatabaseAway(error)) throw error;
      const name = `${due.site} ${due.number}`;
      failed.push(name);
      if (couldNot.get(name) !== String(error)) logLate(due, error);
      couldNot.set(name, String(error));
    }
  }
}
const logLate = ({ site, number }: { site: string; number: number }, error: unknown) =>
  logFailure("a release could not go live at its time", { site, review: number }, error);

async function releaseOne(due: { site: string; number: number }, db: Queryable): Promise<void> {
  const { site, number } = due;
  const review = await readReview(site, number, db);
  const live = await liveRelease(site, db);
  if (review && (live?.number ?? null) === review.basedOn) {
    await release(site, review, review.decidedBy ?? "mirada", db);
    return;
  }
  await decideReview(site, number, { state: "outdated", by: "mirada" }, db);
  const says = t("Review {number} did not go live: another release had, meanwhile", { number });
  await tell(site, "mirada", { kind: "release", says }, db);
  logLate(due, new Error("another release had gone live meanwhile"));
}

/** Takes back what one asked for, or what was approved for later. */
export function withdraw(who: SignedIn, number: number): Promise<Decided> {
  return transaction(who.site, async (db) => {
    const review = await readReview(who.site, number, db, true);
    if (!review || (review.state !== "open" && review.state !== "approved"))
      return { ok: false, problem: t("This review is not open any more.") };
    if (review.askedBy !== who.id && !mayDo(who.roles, "release"))
      return { ok: false, problem: t("Only who asked for it, or an approver, can take it back.") };
    await decideReview(who.site, number, { state: "withdrawn", by: who.id }, db);
    await tell(who.site, who.id, { kind: "release", says: t("Review {number} was taken back", { number }) }, db);
    await announceDesk(who.site, db);
    return { ok: true };
  });
}

export async function commentOn(who: SignedIn, number: number, change: string, says: string): Promise<ReviewComment[]> {
  await transaction(who.site, async (db) => {
    if (!(await readReview(who.site, number, db))) return;
    await addComment(who.site, number, { person: who.id, change, says }, db);
    await announceDesk(who.site, db);
  });
  return listComments(who.site, number);
}
