/** What the workbench of a big site is opened with: what the screen needs, and lists in parts. */
import { gzipSync } from "node:zlib";
import { beforeAll, describe, expect, it } from "vitest";
import { restored } from "@/core/draft/besides";
import { rulesetOf } from "@/core/draft/picks";
import { loadDraft } from "@/data/draft";
import { saveLens } from "@/data/lenses";
import { listNames, type ListName } from "@/data/lists";
import { migrate } from "@/data/migrate";
import type { SignedIn } from "@/data/people";
import { transaction } from "@/data/pool";
import { liveRelease, putLive } from "@/data/releases";
import { openDesk } from "@/server/desk";
import { changeDraft, toldTo } from "@/server/draft";
import { readPart } from "@/server/lists";
import { bigSite, saveBigSite, sizes } from "../generated/big-site";
import { somebody, uniqueId } from "./support";

const big = bigSite(uniqueId("big"), "https://big.example");
const { id } = big.draft.site;
let who: SignedIn;
const every: ListName[] = ["pages", "lenses", "checks"];
const packed = (value: unknown): number => gzipSync(JSON.stringify(value)).length;

beforeAll(async () => {
  await migrate();
  await saveBigSite(big);
  who = await somebody(id, "Ann");
  const { ruleset, version } = (await loadDraft(id))!;
  const release = {
    site: id,
    person: who.id,
    note: "",
    ruleset: rulesetOf(ruleset),
    sha256: "",
    draftVersion: version,
  };
  await transaction(id, (db) => putLive(release, db));
});

describe("the workbench of a big site", () => {
  it("opens with the draft, and with what else the screen needs", async () => {
    const opened = (await openDesk(who, { lists: every, lens: "lens-250", page: "/" }))!;
    expect(Object.keys(opened.lists).sort()).toEqual([...every].sort());
    for (const name of every) expect(opened.lists[name]?.items.length).toBeLessThanOrEqual(100);
    // What the address names is there, wherever in its list it stands.
    expect(opened.lens).toMatchObject({ id: "lens-250" });
    expect(opened.page).toMatchObject({ path: "/", title: "Start" });
    // Beside the draft all of it is less than a fifth of what the whole site is.
    const whole = { ...big, live: (await liveRelease(id))!.ruleset };
    const { ruleset: _draft, ...rest } = opened;
    const { draft: _, ...others } = whole;
    expect(packed(rest)).toBeLessThan(packed(others) / 5);
  });

  it("tells what is live beside the draft", async () => {
    const live = (await liveRelease(id))!.ruleset;
    const opened = async () => (await openDesk(who, { lists: [], lens: null, page: null }))!;
    expect((await opened()).live?.told).toEqual({ same: true });
    const edit = { do: "set" as const, at: ["slots", "slot-3", "name"], before: "rugs head 3", after: "Rugs" };
    const changed = await changeDraft(who, "Slot renamed", [edit]);
    // Saving is answered with what changed, too.
    expect(JSON.stringify(toldTo(changed.ok ? changed.version - 1 : 0, changed)).length).toBeLessThan(1000);
    const now = await opened();
    expect(JSON.stringify(now.live?.told).length).toBeLessThan(5000);
    expect(restored(rulesetOf(now.ruleset), now.live!.told)).toEqual(live);
  });

  it("hands lists out in parts that make up the whole, each with the mark of its list", async () => {
    for (const name of listNames) {
      const items: unknown[] = [];
      const marks = new Set<string>();
      for (let from: number | null = 0; from !== null;) {
        const part: Awaited<ReturnType<typeof readPart>> = await readPart(id, name, from);
        expect(part.items.length).toBeLessThanOrEqual(500);
        items.push(...part.items);
        marks.add(part.mark);
        from = part.next;
      }
      expect(items).toEqual(big[name]);
      expect(items).toHaveLength(sizes[name]);
      expect(marks.size).toBe(1);
    }
  });

  it("says by another mark that a list has changed while it is read", async () => {
    const first = await readPart(id, "lenses", 0);
    await saveLens(id, { ...big.lenses[0]!, name: "Renamed meanwhile" });
    const second = await readPart(id, "lenses", first.next!);
    expect(second.mark).not.toBe(first.mark);
    expect((await readPart(id, "lenses", 0)).mark).toBe(second.mark);
    expect(await readPart(id, "lenses", 10_000)).toMatchObject({ items: [], next: null });
  });
});
