import { describe, expect, it } from "vitest";
import { applyEdits, invertAll } from "../draft/edit";
import type { SiteDraft } from "../formats/site-draft";
import { checkRuleset } from "../ruleset/check";
import { ruleset, variant } from "../testing";
import { pasteParts, readParts, slotsFromCsv, takeParts } from "./parts";

const note = { id: "note", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] };
const arms = [{ id: "a", weight: 100, content: { type: "note", fields: { text: "Hello" } } }];
const draft = (parts: Record<string, unknown>): SiteDraft => ({ ...ruleset(parts), library: [], picks: [] });
const from = draft({
  blockTypes: [note],
  slots: [{ id: "hero", name: "Hero", at: { selector: "h1" }, variants: [variant("one", null, { arms })] }],
});
const hero = from.slots[0]!;
const pasted = (to: SiteDraft, edits: ReturnType<typeof pasteParts>["edits"]) => {
  const applied = applyEdits(to, edits);
  if (!applied.ok) throw new Error(applied.problem);
  expect(applyEdits(applied.value, invertAll(edits))).toEqual({ ok: true, value: to });
  return applied.value;
};

describe("slots and variants", () => {
  it("come to another site with the kinds of blocks that they need, and are right there", () => {
    const text = JSON.stringify(takeParts({ slots: [hero] }, from));
    const read = readParts(text);
    if (!("parts" in read)) throw new Error("not read");
    const empty = draft({});
    const { edits, ids } = pasteParts(read.parts, empty);
    const after = pasted(empty, edits);
    expect(ids).toEqual(["hero"]);
    expect(after.slots).toEqual([hero]);
    expect(after.blockTypes).toEqual(from.blockTypes);
    expect(checkRuleset(after)).toEqual([]);
  });

  it("get ids of their own where theirs are taken", () => {
    const { edits, ids } = pasteParts(takeParts({ slots: [hero] }, from), from);
    const after = pasted(from, edits);
    expect(ids[0]).not.toBe("hero");
    const all = after.slots.flatMap((slot) => slot.variants.map((one) => one.id));
    expect(new Set(all).size).toBe(2);
    expect(checkRuleset(after)).toEqual([]);
  });

  it("pasted into a slot come first, switched off", () => {
    const to = draft({
      blockTypes: [note],
      slots: [{ id: "bar", name: "Bar", variants: [variant("one", null, { arms })] }],
    });
    const { edits, ids } = pasteParts(takeParts({ variants: hero.variants }, from), to, to.slots[0]);
    const after = pasted(to, edits);
    expect(after.slots[0]?.variants.map((one) => [one.id, one.on])).toEqual([
      [ids[0], false],
      ["one", true],
    ]);
    expect(after.slots[0]?.variants[0]?.arms).toEqual(hero.variants[0]?.arms);
  });

  it.each([
    ["{", " file"],
    ["[]", " kind"],
    ['{"format":"mirada-parts/2"}', "/format choice"],
    ['{"format":"mirada-parts/1","slots":[{"id":"a b","name":"A"}]}', "/slots/0/id form"],
  ])("%s is none: %s", (text, says) => {
    const read = readParts(text);
    expect("problems" in read && read.problems.map(({ path, code }) => `${path} ${code}`)).toContain(says);
  });
});

describe("slots from a table", () => {
  it("are a row each", () => {
    const read = slotsFromCsv("name,selector,how,path\r\nHeading,main h1,,/rooms/*\r\nNote,main,first,\r\nBar,,,/\r\n");
    expect("parts" in read && read.parts.slots).toMatchObject([
      {
        id: "heading",
        name: "Heading",
        at: { selector: "main h1", how: "replace" },
        pages: { op: "matches", value: "/rooms/*" },
      },
      { id: "note", at: { selector: "main", how: "first" }, pages: null },
      { id: "bar", pages: { op: "is", value: "/" } },
    ]);
  });
  it("are refused with line and column of whatever is wrong, and nothing is read", () => {
    const read = slotsFromCsv("id,name,selector,how,path\na b,,main >,inside,rooms\nx,X,,first,\nx,Y,,,\n");
    expect("problems" in read && read.problems.map(({ path, code }) => `${path}: ${code}`)).toEqual([
      "line 2, column name: missing",
      "line 2, column id: form",
      "line 2, column selector: form",
      "line 2, column how: choice",
      "line 2, column path: form",
      "line 3, column how: not-here",
      "line 4, column id: twice",
    ]);
    expect(slotsFromCsv("title\nA\n")).toHaveProperty("problems");
  });
});
