/** Whatever is done to a draft is stored as it was done, and undone: tried on PostgreSQL with made-up changes of all kinds. */
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { applyEdits, invertAll, type Edit } from "@/core/draft/edit";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import { site as plain, variant } from "@/core/testing";
import { createSite, loadDraft, saveDraft } from "@/data/draft";
import { migrate } from "@/data/migrate";
import { allSites, pool, transaction } from "@/data/pool";
import { uniqueId } from "./support";

const id = uniqueId("edits");
const first: SiteDraft = siteDraftSchema.parse({
  format: "mirada-ruleset/1",
  site: { ...plain, id },
  slots: ["one", "two", "three"].map((slot) => ({
    id: slot,
    name: slot,
    variants: ["a", "b", "c"].map((name) => variant(`${slot}-${name}`)),
  })),
  audiences: [
    { id: "x", name: "X", rule: null },
    { id: "y", name: "Y", rule: null },
  ],
  offers: [{ id: "ten", name: "Ten", label: "Ten", reward: { percent: 10 } }],
  library: [{ id: "block", name: "Block", labels: ["l"], content: { type: "t", fields: {} } }],
});
type Item = { id: string } & Record<string, unknown>;
type Kind = "move variant" | "delete slot" | "new slot" | "order" | "rename" | "delete" | "copy" | "audience";
const kinds: Kind[] = ["move variant", "delete slot", "new slot", "order", "rename", "delete", "copy", "audience"];

/** The edits of one change, made for the draft as it is; an empty list where there is nothing to do it to. */
function changeOf(draft: SiteDraft, kind: Kind, [a, b, c]: readonly [number, number, number], fresh: string): Edit[] {
  const { slots } = draft;
  const from = slots[a % Math.max(1, slots.length)];
  const to = slots[b % Math.max(1, slots.length)];
  const list = (slot: string) => ["slots", slot, "variants"];
  const at = from && from.variants.length > 0 ? c % from.variants.length : -1;
  const item = from?.variants[at] as unknown as Item | undefined;
  switch (kind) {
    case "move variant":
      if (!from || !to || !item || from === to) return [];
      return [
        { do: "remove", list: list(from.id), index: at, item },
        { do: "insert", list: list(to.id), index: b % (to.variants.length + 1), item },
      ];
    case "delete slot": {
      // Its variants go to another slot first, in the same change.
      if (!from || !to || from === to) return [];
      const moved = from.variants as unknown as Item[];
      return [
        ...moved.map((one): Edit => ({ do: "remove", list: list(from.id), index: 0, item: one })),
        ...moved.map((one): Edit => ({ do: "insert", list: list(to.id), index: 0, item: one })),
        { do: "remove", list: ["slots"], index: slots.indexOf(from), item: { ...from, variants: [] } as never },
      ];
    }
    case "new slot": {
      // And a variant of another slot moves in.
      const made = { ...first.slots[0], id: fresh, name: fresh, variants: [] } as never;
      const insert: Edit = { do: "insert", list: ["slots"], index: c % (slots.length + 1), item: made };
      if (!from || !item) return [insert];
      return [
        insert,
        { do: "remove", list: list(from.id), index: at, item },
        { do: "insert", list: list(fresh), index: 0, item },
      ];
    }
    case "order":
      if (!from || !item || from.variants.length < 2) return [];
      return [{ do: "move", list: list(from.id), id: item.id, from: at, to: (at + 1) % from.variants.length }];
    case "rename":
      if (!from || !item) return [];
      return [{ do: "set", at: [...list(from.id), item.id, "name"], before: item.name, after: fresh }];
    case "delete":
      return from && item ? [{ do: "remove", list: list(from.id), index: at, item }] : [];
    case "copy":
      return from && item ? [{ do: "insert", list: list(from.id), index: at, item: { ...item, id: fresh } }] : [];
    case "audience":
      return [
        {
          do: "insert",
          list: ["audiences"],
          index: a % (draft.audiences.length + 1),
          item: { id: fresh, name: fresh, rule: null } as never,
        },
      ];
  }
}

const stored = async () => (await loadDraft(id))!.ruleset;
async function change(edits: readonly Edit[]): Promise<void> {
  await transaction(allSites, async (db) => {
    const before = (await loadDraft(id, db, true))!.ruleset;
    const applied = applyEdits(before, edits);
    if (!applied.ok) throw new Error(applied.problem);
    await saveDraft(id, before, applied.value, db);
    expect((await loadDraft(id, db))!.ruleset).toEqual(applied.value);
  });
}

describe("changes of a draft, on PostgreSQL", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
  });
  afterAll(() => pool().end());

  it("a variant that moves into an earlier slot in one change is there afterwards", async () => {
    const item = first.slots[2]!.variants[0] as unknown as Item;
    const edits: Edit[] = [
      { do: "remove", list: ["slots", "three", "variants"], index: 0, item },
      { do: "insert", list: ["slots", "one", "variants"], index: 1, item },
    ];
    await change(edits);
    expect((await stored()).slots.map((slot) => slot.variants.map((one) => one.id))).toEqual([
      ["one-a", "three-a", "one-b", "one-c"],
      ["two-a", "two-b", "two-c"],
      ["three-b", "three-c"],
    ]);
    await change(invertAll(edits));
    expect(await stored()).toEqual(first);
  });

  it("all kinds of changes, several in one, are stored as they were made and taken back again", async () => {
    const numbers = fc.tuple(fc.nat(9), fc.nat(9), fc.nat(9));
    const changes = fc.array(fc.array(fc.tuple(fc.constantFrom(...kinds), numbers), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 8,
    });
    let made = 0;
    let counted = 0;
    await fc.assert(
      fc.asyncProperty(changes, async (list) => {
        const undo: Edit[][] = [];
        for (const parts of list) {
          const before = await stored();
          let draft = before;
          const edits: Edit[] = [];
          for (const [kind, numbers] of parts) {
            const next = changeOf(draft, kind, numbers, `fresh-${made++}`);
            const applied = applyEdits(draft, next);
            if (!applied.ok) throw new Error(applied.problem);
            draft = applied.value;
            edits.push(...next);
          }
          if (edits.length === 0) continue;
          counted += 1;
          await change(edits);
          undo.push(invertAll(edits));
        }
        for (const edits of undo.reverse()) await change(edits);
        expect(await stored()).toEqual(first);
      }),
      { numRuns: 60 },
    );
    expect(counted).toBeGreaterThan(100);
  });
});
