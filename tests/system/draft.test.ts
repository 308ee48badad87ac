/** The draft and its releases in a real PostgreSQL: all or nothing, nothing lost, nothing that went live ever changed. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { applyEdits } from "@/core/draft/edit";
import { set } from "@/core/draft/variants";
import type { SiteDraft } from "@/core/formats/site-draft";
import { ruleset, site, variant } from "@/core/testing";
import { createSite, loadDraft } from "@/data/draft";
import { deleteLink, saveLinks } from "@/data/links";
import { migrate } from "@/data/migrate";
import { makePass, readPass } from "@/data/passes";
import { allSites, pool, transaction } from "@/data/pool";
import { liveRelease } from "@/data/releases";
import { answer } from "@/delivery/answer";
import { deskNow } from "@/server/desk";
import { changeDraft, redoChange, toldTo, undoChange } from "@/server/draft";
import { askForReview } from "@/server/reviews";
import { saveDelivery } from "@/data/delivery";
import type { SignedIn } from "@/data/people";
import { everything, somebody, uniqueId } from "./support";

const id = uniqueId("test");
const first: SiteDraft = {
  ...ruleset({
    site: { ...site, id },
    slots: [{ id: "s", name: "Hero", variants: [variant("a"), variant("b")] }],
  }),
  library: [],
  picks: [],
};
let one: SignedIn;
let two: SignedIn;
/** Asks for the draft to go live and approves it in the same step. */
const putLive = (note: string, version: number, reason = "meant so, for this test") =>
  askForReview(one, { note, version, reason, live: true });
const draft = async () => (await loadDraft(id))!;
const slotOf = async () => (await draft()).ruleset.slots[0]!;
const visitPage = (target = "/") =>
  answer({
    site: id,
    target,
    headers: new Headers({ host: "shop.localhost" }),
    cookies: {},
    page: undefined,
    cart: undefined,
  });

describe("draft and releases", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
    await saveDelivery(id, "secondPerson", false);
    one = await somebody(id, "one");
    two = await somebody(id, "two");
  });
  afterAll(() => pool().end());

  it("keeps the draft as it was given", async () => {
    expect((await draft()).ruleset).toEqual(first);
  });

  it("is read as of one moment, however often it is saved meanwhile", async () => {
    const audience = { id: "both", name: "0", rule: null };
    const begun = await changeDraft(one, "An audience", [
      { do: "insert", list: ["audiences"], item: audience, index: 0 },
    ]);
    expect(begun).toMatchObject({ ok: true });
    const was = first.slots[0]!.name;
    let saving = true;
    const saves = (async () => {
      for (let time = 1; time <= 40; time++) {
        const slot = (await slotOf()).name;
        const done = await changeDraft(one, "Both renamed", [
          { do: "set", at: ["slots", "s", "name"], before: slot, after: String(time) },
          { do: "set", at: ["audiences", "both", "name"], before: time === 1 ? "0" : slot, after: String(time) },
        ]);
        if (!done.ok) throw new Error(done.problem);
      }
    })().finally(() => (saving = false));
    const torn: string[] = [];
    let reads = 0;
    while (saving) {
      const { ruleset } = await draft();
      const names = [ruleset.slots[0]!.name, ruleset.audiences[0]!.name];
      if (names[0] !== was && names[0] !== names[1]) torn.push(names.join(" "));
      reads += 1;
    }
    await saves;
    expect(torn).toEqual([]);
    expect(reads).toBeGreaterThan(10);
    const { ruleset } = await draft();
    const back = await changeDraft(one, "As it was", [
      { do: "set", at: ["slots", "s", "name"], before: "40", after: was },
      { do: "remove", list: ["audiences"], item: ruleset.audiences[0]!, index: 0 },
    ]);
    expect(back).toMatchObject({ ok: true });
  });

  it("saves a change, refuses a stale one with what stands there now, and loses nothing", async () => {
    const slot = await slotOf();
    const [a] = slot.variants;
    const done = await changeDraft(one, "a renamed", [set(slot, a!, "name", "First")]);
    expect(done.ok).toBe(true);
    // Another editor, who has not seen that.
    const stale = await changeDraft(two, "a renamed", [
      set(slot, a!, "name", "Mine"),
      set(slot, slot.variants[1]!, "on", false),
    ]);
    expect(stale).toMatchObject({
      ok: false,
      stale: { now: "First", by: "one", where: "Hero, First, its name", path: "slots/s/variants/a/name" },
    });
    expect((await slotOf()).variants.map((item) => [item.name, item.on])).toEqual([
      ["First", true],
      ["b", true],
    ]);
  });

  it("tells only what changed to whoever had the version before, and the whole to everybody else", async () => {
    const before = await draft();
    const slot = await slotOf();
    const changed = await changeDraft(one, "b renamed", [set(slot, slot.variants[1]!, "name", "Second")]);
    const told = toldTo(before.version, changed);
    expect(told).not.toHaveProperty("ruleset");
    const edits = told.ok && "edits" in told ? told.edits : [];
    expect(applyEdits(before.ruleset, edits)).toEqual({ ok: true, value: (await draft()).ruleset });
    for (const known of [before.version - 1, before.version + 1, null, undefined])
      expect(toldTo(known, changed)).toMatchObject({ ok: true, ruleset: { slots: [{ id: "s" }] } });
    const back = toldTo((await draft()).version, await undoChange(one));
    expect(back).toMatchObject({ ok: true, edits: [{ do: "set", after: "b", before: "Second" }] });
    expect((await draft()).ruleset).toEqual(before.ruleset);
    // What reading puts into place is told with the edits, and is taken back with them.
    const bare = { id: "bare", name: "Bare" };
    const made = await changeDraft(one, "A slot", [{ do: "insert", list: ["slots"], index: 1, item: bare }]);
    const now = await draft();
    expect(now.ruleset.slots[1]).toMatchObject({ ...bare, take: 1, variants: [] });
    expect(toldTo(now.version - 1, made)).toMatchObject({ edits: [{ do: "insert", item: { take: 1 } }] });
    expect(await undoChange(one)).toMatchObject({ ok: true });
    expect((await draft()).ruleset).toEqual(before.ruleset);
  });

  it("tells of each list a mark that changes with it, and with no other", async () => {
    const { version } = await draft();
    const marks = async () => (await deskNow(one, version, "")).lists;
    const before = await marks();
    expect(await deskNow(one, version, "")).not.toHaveProperty("draft");
    expect(await marks()).toEqual(before);
    const link = { id: "letter", name: "Letter", path: "/", tags: [], part: "", note: "", usedBy: "" };
    await saveLinks(first.site.id, [link]);
    const after = await marks();
    expect(after).toEqual({ ...before, links: expect.any(String) as string });
    expect(after.links).not.toBe(before.links);
    await saveLinks(first.site.id, [{ ...link, note: "Monday" }]);
    expect((await marks()).links).not.toBe(after.links);
    await deleteLink(first.site.id, "letter");
    expect(await marks()).toEqual(before);
  });

  it("refuses what is no ruleset any more, and leaves the draft as it was", async () => {
    const before = await draft();
    const bad = await changeDraft(one, "nonsense", [
      { do: "set", at: ["slots", "s", "take"], before: 1, after: "many" },
    ]);
    expect(bad.ok).toBe(false);
    expect(await draft()).toEqual(before);
  });

  it("takes changes back and does them again, in order", async () => {
    const slot = await slotOf();
    await changeDraft(one, "a moved", [{ do: "move", list: ["slots", "s", "variants"], id: "a", from: 0, to: 1 }]);
    expect((await slotOf()).variants.map((item) => item.id)).toEqual(["b", "a"]);
    await undoChange(one);
    await undoChange(one);
    expect((await slotOf()).variants[0]?.name).toBe("a");
    const again = await redoChange(one);
    expect(again).toMatchObject({ ok: true, says: "a renamed", redo: "a moved" });
    expect(await slotOf()).toEqual(slot);
  });

  it("puts a finished draft live at once, and an unfinished one never", async () => {
    const { version } = await draft();
    expect(await putLive("", version - 1)).toMatchObject({ ok: false });
    // Its second variant is never reached: a fault keeps it back, unless a reason is given.
    expect(await putLive("first", version, "")).toMatchObject({
      ok: false,
      report: { faults: [{ kind: "always-beaten" }] },
    });
    expect(await putLive("first", version)).toEqual({ ok: true, review: 1, release: 1 });
    expect((await visitPage())?.decision.slots.s?.[0]?.variant).toBe("a");

    const slot = await slotOf();
    await changeDraft(one, "rule", [set(slot, slot.variants[0]!, "rule", { signal: "campaign.source", op: "is" })]);
    expect(await putLive("", (await draft()).version)).toMatchObject({
      ok: false,
      problems: [{ problem: "is missing" }],
    });
    await changeDraft(one, "rule", [
      {
        do: "set",
        at: ["slots", "s", "variants", "a", "rule"],
        before: { signal: "campaign.source", op: "is" },
        after: { signal: "campaign.source", op: "is", value: "x" },
      },
    ]);
    expect(await putLive("second", (await draft()).version)).toEqual({ ok: true, review: 2, release: 2 });
    await expect
      .poll(async () => (await visitPage())?.decision.slots.s?.[0]?.variant, { timeout: 15_000, interval: 20 })
      .toBe("b");
    expect((await visitPage("/?utm_source=x"))?.decision.slots.s?.[0]?.variant).toBe("a");
    expect((await liveRelease(id))?.sha256).toMatch(/^[0-9a-f]{64}$/);
    await expect(everything.query("update releases set note = 'changed' where site = $1", [id])).rejects.toThrow(
      "never changes",
    );
  });

  it("shows a look only by a pass of the same site, while it lasts", async () => {
    const look = {
      visit: { at: "2026-11-24T10:15:00Z", url: "https://shop.example/?utm_source=x" },
      source: "draft" as const,
      pins: { s: "b" },
    };
    const pass = await makePass(id, one.session, look);
    expect(await readPass(id, pass)).toEqual(look);
    expect(await readPass("other", pass)).toBeUndefined();
    expect(await readPass(id, `${pass.slice(0, -1)}!`)).toBeUndefined();
    const seen = await answer({
      site: id,
      target: "/",
      headers: new Headers(),
      cookies: {},
      page: undefined,
      cart: undefined,
      pass,
    });
    expect(seen?.decision.slots.s?.[0]?.variant).toBe("b");
    await everything.query("update preview_passes set expires_at = now() where id = $1", [pass]);
    expect(await readPass(id, pass)).toBeUndefined();
  });

  it("answers whatever a visitor sends", async () => {
    for (const target of [
      "/%",
      "/%ff%00",
      "//elsewhere.example/x",
      `/?${"a=1&".repeat(10_000)}`,
      "/?utm_source=%zz",
      "/\u{1f33f}",
    ])
      expect((await visitPage(target))?.decision.slots.s).toHaveLength(1);
  });
});
