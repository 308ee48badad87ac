import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import type { Ruleset } from "../formats/ruleset";
import { siteDraftSchema, type SiteDraft } from "../formats/site-draft";
import { ruleset, variant, visit } from "../testing";
import { differences, nothingLive } from "./difference";
import { applyEdits, asRead, invertAll, keepSame, type Edit } from "./edit";
import { runnable } from "./runnable";
import { changedPlaces, placeName, valueText } from "./words";
import { rulesetOf } from "./picks";
import { draftLike, replaceDraft } from "./replace";
import { addBlank, addCopy, addHidden, hiddenFor, isWhole, move, remove, set } from "./variants";

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

describe("edits as they come out once the document was read", () => {
  /** Reading, here: every item of the list has a colour, and names are trimmed. */
  const read = (document: { list: { id: string; name?: string; colour?: string }[] }) => ({
    list: document.list.map((item) => ({ colour: "none", ...item, ...(item.name ? { name: item.name.trim() } : {}) })),
  });
  const before = { list: [{ id: "a", name: "A", colour: "red" }] };
  const of = (edits: Edit[]) => {
    const applied = applyEdits(before, edits);
    return applied.ok ? asRead(edits, before, read(applied.value)) : "not applied";
  };
  it("are the same where reading changes nothing", () => {
    const edits: Edit[] = [{ do: "set", at: ["list", "a", "name"], before: "A", after: "B" }];
    expect(of(edits)).toEqual(edits);
  });
  it("have what reading put in, and lead there and back", () => {
    const edits: Edit[] = [
      { do: "insert", list: ["list"], index: 1, item: { id: "b" } },
      { do: "set", at: ["list", "a", "name"], before: "A", after: " B " },
      { do: "remove", list: ["list"], index: 0, item: { id: "a", name: " B ", colour: "red" } },
    ];
    expect(of(edits)).toBeUndefined();
    const two = edits.slice(0, 2);
    const told = of(two);
    expect(told).toMatchObject([{ item: { id: "b", colour: "none" } }, { after: "B" }]);
    const there = applyEdits(before, told as Edit[]);
    expect(there.ok && applyEdits(there.value, invertAll(told as Edit[]))).toEqual({ ok: true, value: before });
  });
});

describe("edits", () => {
  const edits: [string, Edit[], string][] = [
    ["copy", addCopy(slot, b, draft).edits, "abb-copyc"],
    ["blank", [addBlank(slot, draft).edit], "new-variantabc"],
    ["remove", remove(slot, b, draft), "ac"],
    ["move", [move(slot, a, 2)], "bca"],
    ["rename", [set(slot, a, "name", "First")], "abc"],
  ];
  it("copy a test whole, or without it one arm alone, switched off", () => {
    const content = (headline: string) => ({ type: "n", fields: { headline }, tokens: {} });
    const arms = [
      { id: "a", weight: 30, content: content("one") },
      { id: "b", weight: 70, content: content("two") },
    ];
    const tested = apply([set(slot, a, "arms", arms)]);
    const [own] = tested.slots;
    const copied = (arm?: string) =>
      apply(addCopy(own!, own!.variants[0]!, tested, arm).edits, tested).slots[0]!.variants[1]!;
    expect([copied().on, copied().arms]).toEqual([false, arms]);
    expect(copied("b").arms).toEqual([{ id: "b", weight: 100, content: content("two") }]);
  });
  it("hide a place for some at once; where it is to be said for whom, once it is", () => {
    for (const hidden of hiddenFor) {
      const { edit, id } = addHidden(slot, draft, hidden);
      const { who } = hidden;
      const on = isWhole(hidden);
      const after = apply([edit]);
      const [first] = after.slots[0]!.variants;
      expect([first?.id, first?.on, first?.arms[0]?.content?.type]).toEqual([id, on, "@hidden"]);
      expect(runnable(after).unfinished.has(id)).toBe(!on);
      if (on) {
        const phone = visit({
          userAgent: "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) Mobile Safari/604.1",
        });
        const seen = createEngine(after).decide(phone).slots.s?.[0]?.variant;
        if (who === "visitors on phones") expect(seen).toBe(id);
        if (who === "visitors on tablets") expect(seen).not.toBe(id);
      }
    }
  });
  it("make a draft like a release: what is picked stays picked where it shows the same", () => {
    const block = (text: string) => ({ type: "b", fields: { text }, tokens: {} });
    const arms = [{ id: "a", weight: 100, content: block("own") }];
    const from = siteDraftSchema.parse({
      ...ruleset({
        blockTypes: [{ id: "b", name: "B", fields: [{ id: "text", name: "T", kind: "line" }] }],
        slots: [{ id: "s", name: "S", variants: [variant("one", null, { arms }), variant("two", null, { arms })] }],
      }),
      library: [{ id: "x", name: "X", labels: ["offer"], content: block("from the library") }],
      picks: ["one", "two"].map((of) => ({ id: of, variant: of, arm: "a", labels: ["offer"] })),
    });
    const release = structuredClone(rulesetOf(from));
    release.slots[0]!.variants[1]!.arms[0]!.content = block("as it was");
    const changed = apply([{ do: "set", at: ["slots", "s", "name"], before: "S", after: "Another" }], from);
    const back = apply(
      replaceDraft(changed as SiteDraft, draftLike(changed as SiteDraft, release)),
      changed,
    ) as SiteDraft;
    expect(rulesetOf(back)).toEqual(release);
    expect([back.picks.map(({ id }) => id), back.library]).toEqual([["one"], from.library]);
    expect(replaceDraft(back, draftLike(back, release))).toEqual([]);
  });
  it.each(edits)("%s, and take it back", (_, list, expected) => {
    const after = apply(list);
    expect(order(after)).toBe(expected);
    expect(apply(invertAll(list), after)).toEqual(draft);
  });
  it("are refused whole when stale, with what stands there now", () => {
    const other = apply([set(slot, a, "name", "Theirs")]);
    const stale = applyEdits(other, [move(slot, b, 0), set(slot, a, "name", "Mine")]);
    expect(stale).toMatchObject({ ok: false, problem: "this was changed by someone else meanwhile", now: "Theirs" });
    expect(applyEdits(apply(remove(slot, a, draft)), [set(slot, a, "on", false)]).ok).toBe(false);
  });
  it("never touch what they do not name", () => {
    const after = apply([set(slot, a, "name", "First")]);
    expect(after.slots[0]?.variants[1]).toBe(b);
  });
});

describe("an unfinished draft", () => {
  const on = (of: Ruleset) => of.slots[0]?.variants.filter((item) => item.on).map((item) => item.id);
  it("switches a variant with an unfinished rule off, so that it can be looked at, and runs the rest", () => {
    const unfinished = apply([set(slot, a, "rule", { all: [{ signal: "campaign.source", op: "is" }] })]);
    const ready = runnable(unfinished);
    expect(on(ready.ruleset)).toEqual(["b", "c"]);
    expect(createEngine(ready.ruleset).decide(visit(), { pins: { s: "a" } }).slots.s?.[0]?.variant).toBe("a");
    expect(ready.unfinished.get("a")?.[0]?.code).toBe("missing");
    expect(ready.problems).toHaveLength(1);
  });
  it("leaves out what leans on something left out", () => {
    const leaning = apply([
      { do: "insert", list: ["audiences"], index: 0, item: { id: "x", name: "X", rule: { all: [] } } },
      set(slot, a, "rule", { audience: "x" }),
    ]);
    expect(on(runnable(leaning).ruleset)).toEqual(["b", "c"]);
  });
  it("leaves out a variant whose content is unfinished, and keeps a pop-up whose rule is", () => {
    const content = { type: "none", fields: {}, tokens: {} };
    const broken = apply([set(slot, a, "arms", [{ id: "a", weight: 100, content }])]);
    expect(runnable(broken).ruleset.slots[0]?.variants.map((item) => item.id)).toEqual(["b", "c"]);
    // Shares that do not add up yet are shared out meanwhile: the variant is still shown, and not finished.
    const two = ["a", "b"].map((id) => ({ id, weight: 40, content: null }));
    const uneven = runnable(apply([set(slot, a, "arms", two)]));
    expect(uneven.ruleset.slots[0]?.variants[0]?.arms.map((arm) => arm.weight)).toEqual([50, 50]);
    expect([uneven.problems.length, [...uneven.unfinished.keys()]]).toEqual([1, ["a"]]);
    const popup = {
      id: "p",
      name: "P",
      on: true,
      rule: { all: [] },
      pages: null,
      opensAfter: { seconds: 1 },
      size: "box",
      arms: [{ id: "a", weight: 100, content: null }],
    };
    const open = runnable(apply([{ do: "insert", list: ["popups"], index: 0, item: popup }]));
    expect(open.ruleset.popups).toMatchObject([{ id: "p", on: false, rule: null }]);
    expect([...open.unfinishedPopups]).toEqual(["p"]);
    expect(open.problems.length).toBeGreaterThan(0);
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
      "b is switched off",
      "b, copy is new, 4 of 4, switched off",
      "The order is changed",
    ]);
    expect(differences(draft, now)[0]).toMatchObject({
      before: "for everyone",
      after: "when the campaign source is “x”",
    });
    expect(differences(draft, draft)).toEqual([]);
  });
  it("of pop-ups, offers and the like are said part by part", () => {
    const offer = { id: "o", name: "Spring", threshold: "40.00", reward: { percent: 10 }, label: "Spring" };
    const popup = {
      id: "p",
      name: "P",
      opensAfter: { seconds: 0 },
      size: { width: 300, height: 200 },
      arms: [{ id: "a", weight: 100, content: null }],
    };
    const of = (more: object, other: object = {}) =>
      ruleset({ offers: [{ ...offer, ...more }], popups: [{ ...popup, ...other }] });
    const [zone] = differences(of({}), { ...of({}), site: { ...of({}).site, zone: "Europe/Madrid" } });
    expect(zone).toEqual({
      where: "Settings",
      what: "Shop",
      says: "is changed: the time zone",
      before: "Europe/Lisbon",
      after: "Europe/Madrid",
    });
    const said = differences(
      of({}),
      of(
        { threshold: "60.00", reward: { freeDelivery: true }, on: false },
        { opensAfter: { leaving: true }, cap: { times: 2, per: "visit" } },
      ),
    );
    expect(said.map(({ what, says, before, after }) => `${what} ${says} ${before ?? ""} → ${after ?? ""}`)).toEqual([
      "P is changed: when it opens at once → when the pointer leaves the page",
      "P is changed: how often it opens as often as its rule holds → at most 2 times per visit",
      "Spring is switched off  → ",
      "Spring is changed: the threshold 40.00 → 60.00",
      "Spring is changed: what it gives 10 % off → free delivery",
    ]);
  });
});

describe("edits in words", () => {
  const made = { ...ruleset({ slots: [{ id: "s", name: "Hero", variants: [variant("a")] }] }), library: [], picks: [] };
  it("name the places that changed, with what stood there before the first and after the last", () => {
    const at = ["slots", "s", "variants", "a", "name"];
    const changed = changedPlaces([
      { do: "set", at, before: "one", after: "two" },
      { do: "set", at, before: "two", after: "three" },
      { do: "set", at: ["site", "zone"], before: "UTC", after: "UTC" },
      { do: "move", list: ["slots", "s", "variants"], id: "a", from: 0, to: 2 },
      { do: "insert", list: ["offers"], index: 0, item: { id: "o", name: "Offer" } },
    ]);
    expect(changed.before).toEqual({
      "slots/s/variants/a/name": "one",
      "slots/s/variants/a/order": "1",
      "offers/o": null,
    });
    expect(changed.after).toEqual({
      "slots/s/variants/a/name": "three",
      "slots/s/variants/a/order": "3",
      "offers/o": { id: "o", name: "Offer" },
    });
  });
  it("are told by names and sentences, not by ids and JSON", () => {
    expect(placeName("slots/s/variants/a/rule", made)).toBe("Hero, a, its rule");
    expect(placeName("offers/gone/threshold", made)).toBe("Offer, “gone”, the threshold");
    const rule = { signal: "campaign.source", op: "is", value: "postbox" };
    expect(valueText("slots/s/variants/a/rule", rule, made)).toBe("the campaign source is “postbox”");
    expect(valueText("slots/s/variants/a/rule", null, made)).toBe("for everyone");
    expect(valueText("popups/p/opensAfter", { scrollPercent: 40 }, made)).toBe("once 40 % of the page is scrolled");
    expect(valueText("popups/p/cap", { times: 1, per: "day" }, made)).toBe("at most once per day");
    expect(valueText("offers/o/reward", { percent: 10 }, made)).toBe("10 % off");
    expect(valueText("placeLists/l/places", [{ country: "PT" }, { lat: 1, lon: 2, km: 3 }], made)).toBe(
      "Portugal or 3 km around 1, 2",
    );
    expect(valueText("wordParameters", ["kw", "q"], made)).toBe("kw, q");
    expect(
      valueText("slots/s/fallback", { type: "n", fields: { text: "Hello", more: "there" }, tokens: {} }, made),
    ).toBe("Hello · there");
  });
  it("leave what nobody touched the very same, where a draft is taken up from somebody else", () => {
    const now = structuredClone({ ...made, slots: [{ ...made.slots[0]!, name: "Other" }] });
    const kept = keepSame(made, now);
    expect(kept).toEqual(now);
    expect(kept.site).toBe(made.site);
    expect(kept.slots[0]?.variants).toBe(made.slots[0]?.variants);
    expect(keepSame(made, structuredClone(made))).toBe(made);
  });
});

describe("before the first release", () => {
  it("everything in the draft is new, and a draft of nothing has nothing that differs", () => {
    const whole = ruleset({
      audiences: [{ id: "a", name: "A", rule: null }],
      slots: [{ id: "s", name: "Hero", variants: [variant("v")] }],
    });
    expect(differences(nothingLive(whole), whole).map((item) => `${item.what} ${item.says}`)).toEqual([
      "Hero is a new slot",
      "A is new",
    ]);
    expect(differences(nothingLive(whole), nothingLive(whole))).toEqual([]);
  });
});
