import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drawArm } from "../decision/arms";
import { siteDraftSchema, type SiteDraft } from "../formats/site-draft";
import type { Arm, Content } from "../formats/ruleset";
import { ruleset, variant } from "../testing";
import { addArm, missingShare, removeArm, setWeight, shareOut, visitorFor } from "./arms";
import { earlierContents } from "./earlier";
import { applyEdits } from "./edit";
import { differences } from "./difference";
import { blocksFor, emptyPicks, labelsOf, picksNothing, renameAudience, rulesetOf } from "./picks";

const block = (id: string, labels: string[], price?: number) => ({
  id,
  name: id,
  labels,
  content: { type: "b", fields: { headline: id, ...(price === undefined ? {} : { price }) }, tokens: {} },
});
const pick = (of: string, more: object) => ({ id: `p-${of}`, variant: of, arm: "a", labels: ["offer"], ...more });
const draft = (picks: object[], rule: unknown = null): SiteDraft =>
  siteDraftSchema.parse({
    ...ruleset({
      blockTypes: [
        {
          id: "b",
          name: "B",
          fields: [
            { id: "headline", name: "H", kind: "line" },
            { id: "price", name: "P", kind: "number" },
          ],
        },
      ],
      audiences: [
        { id: "growers", name: "Growers", rule: null },
        { id: "gardeners", name: "Gardeners", rule: null },
      ],
      slots: [{ id: "s", name: "S", take: 3, variants: [variant("one", rule), variant("two"), variant("three")] }],
    }),
    library: [
      block("tray", ["Offer", "Growers"], 96),
      block("trio", ["offer"], 24.5),
      block("box", ["offer"], 18.5),
      block("note", ["winter"]),
    ],
    picks,
  });
const shown = (from: SiteDraft) =>
  rulesetOf(from).slots[0]?.variants.map((item) => (item.on ? item.arms[0]?.content?.fields.headline : "off"));

describe("picks from the library", () => {
  it("take the first blocks with a label, in the order of a field", () => {
    const sort = { field: "price" };
    const from = draft([pick("one", { sort }), pick("two", { sort, nth: 2 }), pick("three", { sort, nth: 3 })]);
    expect(shown(from)).toEqual(["box", "trio", "tray"]);
    expect(shown(draft([pick("one", { sort: { field: "price", descending: true } })]))?.[0]).toBe("tray");
    expect(shown(draft([pick("one", {})]))?.[0]).toBe("tray");
  });
  it("are narrowed by a field, by the label of the audience, and by every label named", () => {
    expect(shown(draft([pick("one", { where: { field: "price", op: "below", value: "20" } })]))?.[0]).toBe("box");
    expect(shown(draft([pick("one", { where: { field: "headline", op: "contains", value: "RI" } })]))?.[0]).toBe(
      "trio",
    );
    expect(shown(draft([pick("one", { forAudience: true })], { audience: "growers" }))?.[0]).toBe("tray");
    expect(shown(draft([pick("one", { labels: ["OFFER", "growers"] })]))?.[0]).toBe("tray");
  });
  it("follow one audience, which they name, whatever else the rule names; another name of it changes no choice", () => {
    const two = { all: [{ audience: "growers" }, { audience: "gardeners" }] };
    const from = draft([pick("one", { audience: "growers" })], two);
    expect([shown(from)?.[0], picksNothing(from, from.slots[0]!.variants[0]!)]).toEqual(["tray", false]);
    // As picks were written before: the first that the rule names.
    expect(shown(draft([pick("one", { forAudience: true })], two))?.[0]).toBe("tray");
    const growers = from.audiences.find(({ id }) => id === "growers")!;
    const done = applyEdits(from, renameAudience(from, growers, "Nurseries"));
    const renamed = done.ok ? done.value : from;
    expect([renamed.audiences[0]?.name, shown(renamed)?.[0]]).toEqual(["Nurseries", "tray"]);
    const gone = draft([pick("one", { audience: "nobody" })]);
    expect(picksNothing(gone, gone.slots[0]!.variants[0]!)).toBe(true);
  });
  it("take what changes a page's own content only where one thing stands, and stands for what the page has", () => {
    const kept = (type: string) => ({
      id: type.slice(1),
      name: type,
      labels: ["offer"],
      content: { type, fields: type === "@own" ? { changes: [{ part: "h1", text: "Boats" }] } : {}, tokens: {} },
    });
    const found = (slot: object) => {
      const from = draft([pick("one", {})]);
      const all = {
        ...from,
        library: [kept("@own"), kept("@hidden"), ...from.library],
        slots: [{ ...from.slots[0]!, ...slot }],
      };
      return blocksFor(all.picks[0]!, all, undefined).map(({ id }) => id);
    };
    expect(found({ take: 1 })).toEqual(["own", "hidden", "tray", "trio", "box"]);
    expect(found({ take: 3 })).toEqual(["tray", "trio", "box"]);
    expect(found({ take: 1, at: { selector: "h1", how: "after" } })).toEqual(["hidden", "tray", "trio", "box"]);
  });
  it("leave a variant out that nothing fits, and put blocks without the field last", () => {
    expect(shown(draft([pick("one", { labels: ["spring"] }), pick("two", { nth: 9 })]))).toEqual([
      "off",
      "off",
      undefined,
    ]);
    // What is said of it is the true cause: its switch is on.
    const [full, empty] = [draft([pick("one", {})]), draft([pick("one", { nth: 9 })])];
    expect(differences(rulesetOf(full), rulesetOf(empty), emptyPicks(empty)).map(({ says }) => says)).toEqual([
      "is left out, since no block of the library fits",
    ]);
    const fresh = { ...ruleset(), slots: [{ ...empty.slots[0]!, variants: [] }] };
    expect(differences(fresh, rulesetOf(empty), emptyPicks(empty))[0]?.says).toBe(
      "is new, 1 of 3, with no block to show",
    );
    const all = draft([pick("one", { labels: ["offer"], sort: { field: "colour" } })]);
    expect(blocksFor(all.picks[0]!, all, undefined).map((item) => item.id)).toEqual(["tray", "trio", "box"]);
  });
  it("give a ruleset that has no library in it any more", () => {
    expect(Object.keys(rulesetOf(draft([])))).not.toContain("library");
    expect(labelsOf(draft([]))).toEqual([
      { label: "Growers", count: 1 },
      { label: "Offer", count: 3 },
      { label: "winter", count: 1 },
    ]);
  });
});

describe("arms of a test", () => {
  const content: Content = { type: "b", fields: {}, tokens: {} };
  const one: Arm[] = [{ id: "a", weight: 100, content }];
  const sum = (arms: readonly Arm[]) => arms.reduce((all, arm) => all + Math.round(arm.weight * 100), 0);
  it("always add up to 100 in steps of 0.01, whatever is done", () => {
    const step = fc.oneof(
      fc.constant("add" as const),
      fc.constant("control" as const),
      fc.nat(5),
      fc.tuple(fc.nat(5), fc.integer({ min: 0, max: 10_000 })),
      fc.constant("share out" as const),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        let arms = one;
        for (const what of steps) {
          if (what === "add") arms = addArm(arms, content);
          else if (what === "control") arms = addArm(arms, null);
          else if (typeof what === "number") arms = removeArm(arms, arms[what % arms.length]!.id);
          else if (what === "share out") arms = shareOut(arms);
          else {
            arms = setWeight(arms, arms[what[0] % arms.length]!.id, what[1] / 100, new Set());
            // A single arm has nobody to share with.
            if (arms.length === 1) arms = shareOut(arms);
          }
          expect([sum(arms), missingShare(arms)]).toEqual([10_000, 0]);
          expect(arms.every((arm) => arm.weight >= 0 && Number.isInteger(Math.round(arm.weight * 1e6) / 1e4))).toBe(
            true,
          );
          expect(new Set(arms.map((arm) => arm.id)).size).toBe(arms.length);
        }
      }),
    );
  });
  it("keep their proportions", () => {
    const two = addArm(one, null);
    expect(two.map((arm) => [arm.id, arm.weight])).toEqual([
      ["a", 50],
      ["control", 50],
    ]);
    const nothing = new Set<string>();
    expect(setWeight(two, "a", 80, nothing).map((arm) => arm.weight)).toEqual([80, 20]);
    expect(addArm(two, content).map((arm) => arm.weight)).toEqual([33.33, 33.33, 33.34]);
    expect(removeArm(setWeight(addArm(two, content), "a", 50, nothing), "control").map((arm) => arm.weight)).toEqual([
      66.67, 33.33,
    ]);
  });
  it("keep what was typed: 40, 40, 20", () => {
    const weights = (arms: readonly Arm[]) => arms.map((arm) => arm.weight);
    let three = addArm(addArm(one, content), content);
    const typed = new Set<string>();
    const type = (id: string, weight: number) => {
      three = setWeight(three, id, weight, typed);
      typed.add(id);
      return weights(three);
    };
    expect(type("a", 40)).toEqual([40, 30, 30]);
    expect(type("b", 40)).toEqual([40, 40, 20]);
    expect(type("c", 20)).toEqual([40, 40, 20]);
    // Nobody is left to share with: what is missing is told, and shared out when that is asked for.
    expect([type("c", 10), missingShare(three)]).toEqual([[40, 40, 10], 10]);
    expect(weights(shareOut(three, new Set(["a", "b"])))).toEqual([40, 40, 20]);
    expect(weights(addArm(three, null))).toEqual([40, 40, 10, 10]);
    expect([type("a", 70), missingShare(three)]).toEqual([[70, 40, 10], -20]);
    expect(weights(shareOut(three, typed))).toEqual([58.34, 33.33, 8.33]);
  });
  it("find a visitor who draws an arm", () => {
    const arms = setWeight(addArm(addArm(one, content), null), "control", 1, new Set());
    for (const arm of arms) expect(drawArm("v", arms, visitorFor("v", arms, arm.id)).id).toBe(arm.id);
    expect(visitorFor("v", setWeight(addArm(one, null), "control", 0, new Set()), "control")).toBeUndefined();
  });
});

describe("earlier texts", () => {
  const at = ["slots", "s", "variants", "v", "arms", "a", "content"];
  const content = (headline: string): Content => ({ type: "b", fields: { headline }, tokens: {} });
  const set = (path: string[], before: unknown, after: unknown) => ({ do: "set" as const, at: path, before, after });
  it("are found by taking changes back, newest first, and end where the thing was made", () => {
    const changes = [
      { at: "3", says: "headline again", edits: [set([...at, "fields", "headline"], "two", "three")] },
      { at: "2b", says: "renamed", edits: [set(["slots", "s", "variants", "v", "name"], "V", "W")] },
      {
        at: "2",
        says: "arms",
        edits: [
          set(
            at.slice(0, 5),
            [{ id: "a", weight: 100, content: content("one") }],
            [{ id: "a", weight: 50, content: content("two") }],
          ),
        ],
      },
      {
        at: "1",
        says: "made",
        edits: [{ do: "insert" as const, list: ["slots", "s", "variants"], index: 0, item: { id: "v" } }],
      },
      { at: "0", says: "before that", edits: [set([...at, "fields", "headline"], "zero", "one")] },
    ];
    expect(
      earlierContents(content("three"), at, changes).map((item) => [item.until, item.content.fields.headline]),
    ).toEqual([
      ["3", "two"],
      ["2", "one"],
    ]);
  });
  it("leave out what came back to what is there now", () => {
    const changes = [
      { at: "2", says: "back", edits: [set([...at, "fields", "headline"], "other", "one")] },
      { at: "1", says: "away", edits: [set([...at, "fields", "headline"], "one", "other")] },
    ];
    expect(earlierContents(content("one"), at, changes).map((item) => item.content.fields.headline)).toEqual(["other"]);
  });
});
