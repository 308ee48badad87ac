import { describe, expect, it } from "vitest";
import type { SiteDraft } from "../formats/site-draft";
import { ruleset, variant } from "../testing";
import { differences } from "./difference";
import { applyEdits, invertAll, type Edit } from "./edit";
import { runnable } from "./runnable";
import { addBlank, addCopy, move, remove, set } from "./variants";

const draft: SiteDraft = {
  ...ruleset({ slots: [{ id: "s", name: "Hero", variants: [variant("a"), variant("b"), variant("c")] }] }),
  library: [],
  picks: [],
};
const slot = draft.slots[0]!;
const [a, b] = slot.variants as [(typeof slot.variants)[0], (typeof slot.variants)[0]];
const apply = (edits: Edit[], from = draft) => {
  const done = applyEdits(from, edits);
  if (!done.ok) throw new Error(done.problem);
  return done.value;
};
const order = (document = draft) => document.slots[0]?.variants.map((item) => item.id).join("");

describe("edits", () => {
  const edits: [string, Edit[], string][] = [
    ["copy", addCopy(slot, b, draft).edits, "ab-copybc"],
    ["blank", [addBlank(slot, draft).edit], "new-variantabc"],
    ["remove", remove(slot, b, draft), "ac"],
    ["move", [move(slot, a, 2)], "bca"],
    ["rename", [set(slot, a, "name", "First")], "abc"],
  ];
  it.each(edits)("%s, and take it back", (_, list, expected) => {
    const after = apply(list);
    expect(order(after)).toBe(expected);
    expect(apply(invertAll(list), after)).toEqual(draft);
  });
  it("are refused whole when stale, with what stands there now", () => {
    const other = apply([set(slot, a, "name", "Theirs")]);
    const stale = applyEdits(other, [move(slot, b, 0), set(slot, a, "name", "Mine")]);
    expect(stale).toEqual({ ok: false, problem: "this was changed by someone else meanwhile", now: "Theirs" });
    expect(applyEdits(apply(remove(slot, a, draft)), [set(slot, a, "on", false)]).ok).toBe(false);
  });
  it("never touch what they do not name", () => {
    const after = apply([set(slot, a, "name", "First")]);
    expect(after.slots[0]?.variants[1]).toBe(b);
  });
});

describe("an unfinished draft", () => {
  it("leaves the unfinished variant out and runs the rest", () => {
    const unfinished = apply([set(slot, a, "rule", { all: [{ signal: "campaign.source", op: "is" }] })]);
    const ready = runnable(unfinished);
    expect(ready.ruleset.slots[0]?.variants.map((item) => item.id)).toEqual(["b", "c"]);
    expect(ready.unfinished.get("a")?.[0]?.problem).toBe("is missing");
    expect(ready.problems).toHaveLength(1);
  });
  it("leaves out what leans on something left out", () => {
    const leaning = apply([
      { do: "insert", list: ["audiences"], index: 0, item: { id: "x", name: "X", rule: { all: [] } } },
      set(slot, a, "rule", { audience: "x" }),
    ]);
    expect(runnable(leaning).ruleset.slots[0]?.variants.map((item) => item.id)).toEqual(["b", "c"]);
  });
});

describe("differences", () => {
  it("are said in words, with before and after", () => {
    const now = apply([
      set(slot, a, "rule", { signal: "campaign.source", op: "is", value: "x" }),
      set(slot, b, "on", false),
      ...addCopy(slot, b, draft).edits,
      { do: "move", list: ["slots", "s", "variants"], id: "c", from: 3, to: 0 },
    ]);
    expect(differences(draft, now).map((item) => `${item.what} ${item.says}`)).toEqual([
      "a has another rule",
      "b, copy is new, 3 of 4",
      "b is switched off",
      "The order is changed",
    ]);
    expect(differences(draft, now)[0]).toMatchObject({
      before: "for everyone",
      after: "when the campaign source is “x”",
    });
    expect(differences(draft, draft)).toEqual([]);
  });
});
