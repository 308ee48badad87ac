/** From draft to live by several people: what was seen is what goes live, now, at a time, or not at all. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site, variant } from "@/core/testing";
import { readAudit } from "@/data/audit";
import { saveChecks } from "@/data/checks";
import { saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { keepFailures, listFailures } from "@/data/failures";
import { migrate } from "@/data/migrate";
import { makePass, readPass } from "@/data/passes";
import type { SignedIn } from "@/data/people";
import { allSites, pool, transaction } from "@/data/pool";
import { liveRelease } from "@/data/releases";
import { listReviews } from "@/data/reviews";
import { endSession } from "@/data/sessions";
import { changeDraft, redoChange, undoChange } from "@/server/draft";
import { askForReview, commentOn, decideOn, releaseDue, withdraw } from "@/server/reviews";
import { everything, somebody, uniqueId } from "./support";
import { now } from "@/clock";

const id = uniqueId("reviews");
const first = siteDraftSchema.parse(
  ruleset({ site: { ...site, id }, slots: [{ id: "s", name: "S", variants: [variant("a")] }] }),
);
let editor: SignedIn;
let approver: SignedIn;
let both: SignedIn;
const rename = async (who: SignedIn, name: string) => {
  const before = (await loadDraft(id))!.ruleset.slots[0]!.variants[0]!.name;
  return changeDraft(who, `Renamed ${name}`, [
    { do: "set", at: ["slots", "s", "variants", "a", "name"], before, after: name },
  ]);
};
const ask = async (who: SignedIn, more: object = {}) =>
  askForReview(who, { note: "", version: (await loadDraft(id))!.version, reason: "", live: false, ...more });
const state = async (number: number) => (await listReviews(id)).find((review) => review.number === number)?.state;
const liveName = async () => (await liveRelease(id))?.ruleset.slots[0]?.variants[0]?.name;

describe("reviews", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
    editor = await somebody(id, "editor", ["editor"]);
    approver = await somebody(id, "approver", ["approver"]);
    both = await somebody(id, "both", ["editor", "approver"]);
  });
  afterAll(() => pool().end());

  it("what was asked for goes live as it stood then, whatever the draft has become", async () => {
    const asked = await ask(editor);
    expect(asked).toMatchObject({ ok: true, review: 1 });
    await rename(editor, "after the asking");
    expect(await decideOn(editor, 1, { approve: true, at: null })).toMatchObject({ ok: false });
    expect((await commentOn(approver, 1, "S · a is new", "Good")).map((comment) => comment.says)).toEqual(["Good"]);
    expect(await decideOn(approver, 1, { approve: true, at: null })).toEqual({ ok: true, release: 1 });
    expect(await liveName()).toBe("a");
    expect(await decideOn(approver, 1, { approve: true, at: null })).toMatchObject({ ok: false });
  });

  it("a second person must approve, where the site wants it", async () => {
    expect(await ask(both)).toMatchObject({ ok: true, review: 2 });
    expect(await decideOn(both, 2, { approve: true, at: null })).toEqual({
      ok: false,
      problem: "You asked for this yourself: a second person must approve it.",
    });
    // In one step it is refused, too, and nothing is left behind.
    const before = (await listReviews(id)).length;
    expect(await ask(both, { live: true })).toMatchObject({ ok: false });
    expect((await listReviews(id)).length).toBe(before);
    await saveDelivery(id, "secondPerson", false);
    expect(await decideOn(both, 2, { approve: true, at: null })).toEqual({ ok: true, release: 2 });
    expect(await liveName()).toBe("after the asking");
    // What is live already is not asked for again.
    expect(await ask(editor)).toEqual({ ok: false, problem: "Nothing in the draft differs from what is live." });
    expect(await ask(both, { live: true })).toMatchObject({ ok: false });
    expect((await listReviews(id)).length).toBe(before);
  });

  it("goes live by itself at its time, once, whoever looks first", async () => {
    await rename(editor, "at a time");
    await ask(editor);
    const at = new Date(now() + 1200).toISOString();
    expect(await decideOn(approver, 3, { approve: true, at })).toEqual({ ok: true });
    await Promise.all([releaseDue(), releaseDue()]);
    expect([await state(3), await liveName()]).toEqual(["approved", "after the asking"]);
    await new Promise((next) => setTimeout(next, 1300));
    await Promise.all([releaseDue(), releaseDue(), releaseDue()]);
    expect([await state(3), await liveName()]).toEqual(["live", "at a time"]);
    expect((await liveRelease(id))?.number).toBe(3);
  });

  it("is outdated once another release went live, is taken back by who asked, and is sent back", async () => {
    await rename(editor, "fourth");
    await ask(editor);
    // Another is put live meanwhile, past the review.
    const live = (await liveRelease(id))!;
    await everything.query("insert into went_live (site, release) values ($1, $2)", [id, 1]);
    expect(await decideOn(approver, 4, { approve: true, at: null })).toMatchObject({ ok: false });
    expect(await state(4)).toBe("outdated");
    await everything.query("insert into went_live (site, release) values ($1, $2)", [id, live.number]);
    await ask(editor);
    expect(await withdraw(approver, 5)).toEqual({ ok: true });
    await ask(editor);
    expect(await decideOn(approver, 6, { approve: false })).toEqual({ ok: true });
    expect([await state(5), await state(6)]).toEqual(["withdrawn", "sent back"]);
    // Asking anew takes the place of what was open.
    await ask(editor);
    await ask(editor);
    expect([await state(7), await state(8)]).toEqual(["withdrawn", "open"]);
    expect(await ask(editor, { version: 1 })).toMatchObject({ ok: false });
  });

  it("a failing check keeps it back, unless a reason is given, which stays with it", async () => {
    await saveChecks(id, [
      {
        id: "c",
        name: "Nobody sees a",
        visit: { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" },
        steps: [],
        expect: { slot: "s", variant: null },
      },
    ]);
    const refused = await ask(editor);
    expect(refused).toMatchObject({ ok: false, report: { checks: 1, failed: [{ id: "c" }] } });
    // A reason is not enough for what was never seen to fail: each thing is accepted by itself.
    const unseen = await ask(editor, { reason: "all of it", accepted: [] });
    expect(unseen).toMatchObject({ ok: false, problem: "One thing fails that you have not accepted yet." });
    const says = (refused as { report: { failed: { says: string }[] } }).report.failed.map((item) => item.says);
    expect(await ask(editor, { reason: "the check is of last week", accepted: says })).toMatchObject({
      ok: true,
      review: 9,
    });
    const [review] = await listReviews(id);
    expect(review).toMatchObject({ override: "the check is of last week", report: { failed: [{ id: "c" }] } });
  });

  it("undo takes back one's own changes, and the audit trail forgets none of them", async () => {
    await rename(editor, "mine");
    await changeDraft(both, "Switched off", [
      { do: "set", at: ["slots", "s", "variants", "a", "on"], before: true, after: false },
    ]);
    expect(await undoChange(editor)).toMatchObject({ ok: true, says: "Renamed mine" });
    expect((await loadDraft(id))!.ruleset.slots[0]?.variants[0]).toMatchObject({ name: "fourth", on: false });
    expect(await redoChange(both)).toMatchObject({ ok: false });
    const lines = await readAudit(id, { kind: "draft" });
    expect(lines.slice(0, 3).map((line) => line.says)).toEqual([
      "Undone: Renamed mine",
      "Switched off",
      "Renamed mine",
    ]);
    expect(lines[2]).toMatchObject({
      person: editor.id,
      before: { "slots/s/variants/a/name": "fourth" },
      after: { "slots/s/variants/a/name": "mine" },
    });
    // A lost change of one's own cannot be taken back over somebody else's: it is said, and what was before it can.
    const name = (await loadDraft(id))!.ruleset.slots[0]!.name;
    const renamed = await changeDraft(editor, "The slot renamed", [
      { do: "set", at: ["slots", "s", "name"], before: name, after: "Another name" },
    ]);
    expect(renamed).toMatchObject({ ok: true });
    await rename(both, "theirs");
    await rename(editor, "again mine");
    await rename(both, "theirs again");
    expect(await undoChange(editor)).toMatchObject({
      ok: false,
      stale: { by: "both" },
      problem: expect.stringContaining("was set by both since, and stays") as unknown,
    });
    expect(await undoChange(editor)).toMatchObject({ ok: true, says: "The slot renamed" });
    expect((await loadDraft(id))!.ruleset.slots[0]).toMatchObject({ name, variants: [{ name: "theirs again" }] });
  });

  it("a pass ends with the session that made it", async () => {
    const guest = await somebody(id, "guest", ["author"]);
    const look = {
      visit: { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" },
      source: "draft" as const,
      pins: {},
    };
    const pass = await makePass(id, guest.session, look);
    expect(await readPass(id, pass)).toEqual(look);
    await endSession(guest.session);
    expect(await readPass(id, pass)).toBeUndefined();
    expect(await readPass(id, await makePass(id, "no such session", look))).toBeUndefined();
  });

  it("one that cannot go live at its time keeps no other back, and is counted among what failed", async () => {
    const [bad, good] = [uniqueId("reviews"), uniqueId("reviews")];
    for (const each of [bad, good]) {
      const made = siteDraftSchema.parse({ ...first, site: { ...first.site, id: each } });
      await transaction(allSites, (db) => createSite(made, db));
      const who = await somebody(each, "alone", ["editor", "approver"]);
      await saveDelivery(each, "secondPerson", false);
      const version = (await loadDraft(each))!.version;
      expect(await askForReview(who, { note: "", version, reason: "", live: false })).toMatchObject({ ok: true });
      const at = new Date(now() + 60_000).toISOString();
      expect(await decideOn(who, 1, { approve: true, at })).toEqual({ ok: true });
      // The one that fails is due before the other.
      await everything.query("update reviews set live_at = now() - $2::interval where site = $1 and number = 1", [
        each,
        each === bad ? "2 minutes" : "1 minute",
      ]);
    }
    await everything.query(
      `create or replace function refuse_release() returns trigger language plpgsql as $$ begin raise exception 'no room'; end $$;
       create trigger refuse_release before insert on releases for each row when (new.site = '${bad}') execute function refuse_release()`,
    );
    try {
      await releaseDue();
      await releaseDue();
    } finally {
      await everything.query("drop trigger refuse_release on releases");
    }
    expect(await liveRelease(good)).toBeDefined();
    expect(await liveRelease(bad)).toBeUndefined();
    await keepFailures();
    const failed = await listFailures(bad);
    // Each second's failure is not counted anew.
    expect(failed.filter(({ site: of }) => of === bad)).toMatchObject([
      { what: "a release could not go live at its time", error: "no room", count: 1 },
    ]);
    await releaseDue();
    expect(await liveRelease(bad)).toBeDefined();
  });
});
