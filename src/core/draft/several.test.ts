import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { siteDraftSchema, type SiteDraft } from "../formats/site-draft";
import { unchanged } from "../content/own";
import { ruleset, variant } from "../testing";
import { differences } from "./difference";
import { applyEdits, invertAll, type Edit } from "./edit";
import { removeAll, removeSlots, removeThings, switchAll, switchThings, takeTo } from "./several";
import { standings } from "./standing";

const types = [{ id: "b", name: "B", fields: [{ id: "headline", name: "H", kind: "line" }] }];
const pick = (of: string) => ({ id: `p-${of}`, variant: of, arm: "a", labels: ["offer"] });
const draft: SiteDraft = siteDraftSchema.parse({
  ...ruleset({
    blockTypes: types,
    slots: [
      { id: "one", name: "One", variants: [variant("a"), variant("b"), variant("c")] },
      { id: "two", name: "Two", variants: [variant("d")] },
      { id: "strip", name: "Strip", take: 3, variants: [] },
    ],
  }),
  library: [],
  picks: [pick("b"), { ...pick("b"), id: "p-b2" }],
});
const apply = (edits: readonly Edit[], from = draft): SiteDraft => {
  const done = applyEdits(from, edits);
  if (!done.ok) throw new Error(done.problem);
  return done.value;
};
const order = (of: SiteDraft, slot: string) =>
  of.slots
    .find(({ id }) => id === slot)
    ?.variants.map(({ id }) => id)
    .join(" ");
const at = (slot: string, ...ids: string[]) => ids.map((id) => ({ slot, variant: id }));

describe("several variants at once", () => {
  it("are switched: those that are so already have no edit", () => {
    const off = apply(switchAll(draft, at("one", "a", "c"), false));
    expect(off.slots[0]?.variants.map(({ on }) => on)).toEqual([false, true, false]);
    expect(switchAll(off, at("one", "a", "b", "c"), true)).toHaveLength(2);
  });
  it("are taken out, with what they pick", () => {
    const left = apply(removeAll(draft, [...at("one", "a", "b"), ...at("two", "d")]));
    expect([order(left, "one"), order(left, "two"), left.picks]).toEqual(["c", "", []]);
  });
  it("are moved below what a slot has, in their order, with their ids, their switch and what they pick", () => {
    const off = apply(switchAll(draft, at("one", "a"), false));
    const { edits, ids, left } = takeTo(off, at("one", "a", "b"), "two", "move");
    const now = apply(edits, off);
    expect([order(now, "one"), order(now, "two"), ids, left]).toEqual(["c", "d a b", ["a", "b"], []]);
    expect(now.slots[1]?.variants.map(({ on }) => on)).toEqual([true, false, true]);
    expect(now.picks).toEqual(off.picks);
  });
  it("are copied, switched off, under ids of their own, with what they pick", () => {
    const { edits, ids } = takeTo(draft, at("one", "a", "b"), "two", "copy");
    const now = apply(edits);
    expect(order(now, "one")).toBe("a b c");
    expect(now.slots[1]?.variants).toHaveLength(3);
    expect(new Set([...ids, "a", "b", "c", "d"]).size).toBe(6);
    expect(now.slots[1]?.variants.slice(1).every(({ on }) => !on)).toBe(true);
    expect(now.picks.filter(({ variant: of }) => of === ids[1])).toHaveLength(2);
  });
  it("stay where they are if what they show has no place in the slot, or if they are there already", () => {
    const own = apply([
      {
        do: "set",
        at: ["slots", "one", "variants", "a", "arms", "a", "content"],
        before: draft.slots[0]?.variants[0]?.arms[0]?.content,
        after: unchanged(),
      },
    ]);
    const { ids, left, edits } = takeTo(own, at("one", "a", "b"), "strip", "move");
    expect([ids, left.map(({ id }) => id)]).toEqual([["b"], ["a"]]);
    expect(order(apply(edits, own), "one")).toBe("a c");
    expect(takeTo(draft, at("one", "a"), "one", "move").edits).toEqual([]);
    expect(takeTo(draft, at("one", "a"), "nowhere", "move").edits).toEqual([]);
  });
  it("whatever is done, it can be taken back as one step, and what was not chosen stays as it was", () => {
    const all = draft.slots.flatMap((slot) => slot.variants.map(({ id }) => ({ slot: slot.id, variant: id })));
    fc.assert(
      fc.property(
        fc.subarray(all),
        fc.constantFrom("on", "off", "remove", "move", "copy"),
        fc.constantFrom("one", "two", "strip"),
        (chosen, what, to) => {
          const edits =
            what === "remove"
              ? removeAll(draft, chosen)
              : what === "move" || what === "copy"
                ? takeTo(draft, chosen, to, what).edits
                : switchAll(draft, chosen, what === "on");
          const now = apply(edits);
          expect(apply(invertAll(edits), now)).toEqual(draft);
          const ids = new Set(chosen.map((one) => one.variant));
          const others = (of: SiteDraft) =>
            of.slots
              .flatMap((slot) => slot.variants)
              .filter(({ id }) => !ids.has(id) && all.some((one) => one.variant === id));
          expect(others(now)).toEqual(others(draft));
        },
      ),
    );
  });
});

describe("several slots at once", () => {
  it("are taken out with what their variants pick; taken back, all stand where they stood", () => {
    const two = { ...draft, picks: [...draft.picks, { ...draft.picks[0]!, id: "p-d", variant: "d" }] };
    const edits = removeSlots(two, new Set(["one", "two"]));
    const now = apply(edits, two);
    expect([now.slots.map(({ id }) => id), now.picks]).toEqual([["strip"], []]);
    expect(apply(invertAll(edits), now)).toEqual(two);
  });
});

describe("how slots and variants stand beside what is live", () => {
  it("are as live, changed or new", () => {
    const now = apply([
      ...switchAll(draft, at("one", "b"), false),
      ...takeTo(draft, at("one", "a"), "strip", "copy").edits,
    ]);
    const standing = standings(now, draft, differences(draft, now));
    expect(standing.get("two")).toBe("same");
    expect([standing.get("one"), standing.get("one a"), standing.get("one b")]).toEqual(["changed", "same", "changed"]);
    expect(standing.get("strip")).toBe("changed");
    expect([...standing.values()].filter((value) => value === "new")).toHaveLength(1);
    expect([...standings(now, undefined, []).values()].every((value) => value === "new")).toBe(true);
  });
});

describe("several things of a list at once", () => {
  const listed = siteDraftSchema.parse({
    ...ruleset({
      audiences: [
        { id: "inner", name: "Inner", rule: null },
        { id: "outer", name: "Outer", rule: { audience: "inner" } },
        { id: "asked", name: "Asked for", rule: null },
      ],
      slots: [{ id: "s", name: "S", variants: [variant("v", { audience: "asked" })] }],
      redirects: [
        { id: "p", name: "P", on: true, rule: null, to: "/q" },
        { id: "q", name: "Q", on: false, rule: null, to: "/q" },
      ],
      blockTypes: types,
    }),
    library: [],
    picks: [],
  });
  const used = (audience: string) => ({ audience });
  it("are taken out, also those that lean on each other; what something else leans on stays", () => {
    const { edits, count, left } = removeThings(listed, "audiences", new Set(["inner", "outer", "asked"]), used);
    expect([count, left.map(({ id }) => id)]).toEqual([2, ["asked"]]);
    const now = apply(edits, listed);
    expect(now.audiences.map(({ id }) => id)).toEqual(["asked"]);
    expect(apply(invertAll(edits), now)).toEqual(listed);
    expect(removeThings(listed, "audiences", new Set(["inner"]), used)).toMatchObject({ count: 0, edits: [] });
  });
  it("are switched where they have a switch", () => {
    const now = apply(switchThings(listed, "redirects", new Set(["p", "q"]), true), listed);
    expect(now.redirects.map(({ on }) => on)).toEqual([true, true]);
    expect(switchThings(listed, "audiences", new Set(["inner"]), false)).toEqual([]);
  });
});
