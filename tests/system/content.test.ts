/** Library, pages, shared lenses and other hosts in a real PostgreSQL, and what visitors get of them. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { earlierContents } from "@/core/draft/earlier";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site, variant, visit } from "@/core/testing";
import { saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { changesOf } from "@/data/edits";
import { listLenses, saveLens } from "@/data/lenses";
import { migrate } from "@/data/migrate";
import { addPages, listPages, removePages } from "@/data/pages";
import { endShare, listShares, makePass, makeShare, readShare } from "@/data/passes";
import { allSites, pool, transaction } from "@/data/pool";
import { liveRelease } from "@/data/releases";
import { answer, answerShare } from "@/delivery/answer";
import { changeDraft, undoChange } from "@/server/draft";
import { askForReview } from "@/server/reviews";
import { setLeft, type SignedIn } from "@/data/people";
import { everything, somebody, uniqueId } from "./support";

const id = uniqueId("content");
const block = (name: string, headline: string) => ({
  id: name,
  name,
  labels: ["offer"],
  content: { type: "b", fields: { headline } },
});
const first = siteDraftSchema.parse({
  ...ruleset({
    site: { ...site, id },
    blockTypes: [{ id: "b", name: "B", fields: [{ id: "headline", name: "H", kind: "line" }] }],
    slots: [{ id: "s", name: "S", variants: [variant("picked")] }],
    redirects: [
      {
        id: "away",
        name: "Away",
        rule: { signal: "page.path", op: "is", value: "/away" },
        to: "https://other.example/",
      },
    ],
  }),
  library: [block("one", "First block"), block("two", "Second block")],
  picks: [{ id: "p", variant: "picked", arm: "a", labels: ["offer"] }],
});
let one: SignedIn;
const visitPage = (target: string) =>
  answer({
    site: id,
    target,
    headers: new Headers({ host: "shop.localhost" }),
    cookies: {},
    page: undefined,
    cart: undefined,
  });
const headlineOf = (got: Awaited<ReturnType<typeof answer>>) => got?.decision.slots.s?.[0]?.content?.fields.headline;

describe("content and lenses", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
    await saveDelivery(id, "secondPerson", false);
    one = await somebody(id, "one");
  });
  afterAll(() => pool().end());

  it("a release carries the picked blocks and nothing of the library; a change of a block is a change of the draft", async () => {
    const draft = (await loadDraft(id))!;
    expect(draft.ruleset).toEqual(first);
    expect((await askForReview(one, { note: "", version: draft.version, reason: "", live: true })).ok).toBe(true);
    const live = (await liveRelease(id))!.ruleset as unknown as Record<string, unknown>;
    expect(Object.keys(live)).not.toContain("library");
    expect(Object.keys(live)).not.toContain("picks");
    expect(headlineOf(await visitPage("/"))).toBe("First block");
    const before = draft.ruleset.library[0]!.content.fields.headline;
    const at = ["library", "one", "content", "fields", "headline"];
    await changeDraft(one, "Headline", [{ do: "set", at, before, after: "Another" }]);
    await changeDraft(one, "Headline again", [{ do: "set", at, before: "Another", after: "A third" }]);
    const now = (await loadDraft(id))!.ruleset.library[0]!.content;
    const earlier = earlierContents(now, at.slice(0, 3), await changesOf(id, "one", everything));
    expect(earlier.map((item) => item.content.fields.headline)).toEqual(["Another", "First block"]);
    // Undone changes are no earlier texts.
    await undoChange(one);
    expect((await changesOf(id, "one", everything)).map((item) => item.says)).toEqual(["Headline"]);
    // What is live stays as it was.
    expect(headlineOf(await visitPage("/"))).toBe("First block");
  });

  it("visitors are sent to another host only once it is allowed", async () => {
    expect((await visitPage("/away"))?.decision.redirect).toBeNull();
    await saveDelivery(id, "otherHosts", ["other.example"]);
    await expect
      .poll(async () => (await visitPage("/away"))?.decision.redirect?.location, { timeout: 15_000 })
      .toBe("https://other.example/");
  });

  const by = (who: SignedIn) => ({ session: who.session, madeBy: who.id });
  it("a shared lens goes on to other pages, and is gone when it has expired or was ended", async () => {
    const look = { visit: visit({ url: "https://shop.example/?x=1" }), source: "live" as const, pins: {} };
    const share = await makeShare(id, by(one), look, "A lens", 60);
    expect(await readShare(share, id)).toMatchObject({ site: id, title: "A lens" });
    const shown = await answerShare(id, share, "/ferns", "?y=2", { id: "ferns" });
    expect(shown?.visit.url).toBe("https://shop.example/ferns?y=2");
    expect(shown?.visit.page).toEqual({ id: "ferns" });
    expect(headlineOf(shown)).toBe("First block");
    await everything.query("update preview_passes set expires_at = now() - interval '1 second' where id = $1", [share]);
    expect(await readShare(share, id)).toBeUndefined();
    const other = await makeShare(id, by(one), look, "Another", 60);
    await endShare(id, other);
    expect(await answerShare(id, other, "/", "", undefined)).toBeUndefined();
    // Whoever made it goes, and it with them; the others see who made which, and end any of them.
    const passing = await somebody(id, "passing");
    const theirs = await makeShare(id, by(passing), look, "Theirs", 60);
    const mine = await makeShare(id, by(one), look, "Mine", 30);
    const named = async () => (await listShares(id)).map(({ id: name, title, by: maker }) => [name, title, maker]);
    expect(await named()).toEqual([
      [mine, "Mine", "one"],
      [theirs, "Theirs", "passing"],
    ]);
    await setLeft(id, passing.id, true, everything);
    expect(await readShare(theirs, id)).toBeUndefined();
    expect(await named()).toEqual([[mine, "Mine", "one"]]);
    expect(await endShare(id, mine)).toBe("Mine");
    expect(await endShare(id, mine)).toBeUndefined();
    // A preview pass of the workbench is no shared link, and a name that was made up is none either.
    expect(await readShare(await makePass(id, one.session, look), id)).toBeUndefined();
    for (const name of ["", "x".repeat(24), "../../etc/passwd", "' or 1=1 --"])
      expect(await readShare(name, id)).toBeUndefined();
  });

  it("pages are taken up once, lenses keep their steps, an address is kept once", async () => {
    const page = (path: string) => ({ path, title: path, facts: { id: path } });
    await addPages(id, [page("/a"), page("/b")], everything);
    await addPages(id, [page("/b"), page("/c")], everything);
    expect((await listPages(id)).map((item) => item.path)).toEqual(["/a", "/b", "/c"]);
    await removePages(id, ["/b"]);
    expect((await listPages(id)).map((item) => item.path)).toEqual(["/a", "/c"]);
    const lens = { id: "l", name: "L", visit: visit(), steps: [{ path: "/a", after: 5 }] };
    await saveLens(id, lens);
    await saveLens(id, { ...lens, name: "M" });
    expect(await listLenses(id)).toMatchObject([{ name: "M", steps: [{ path: "/a", after: 5 }] }]);
  });
});
