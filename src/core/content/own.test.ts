import { describe, expect, it } from "vitest";
import { differences } from "../draft/difference";
import { addNothing, addOwn, blankContent, hasOwnContent } from "../draft/variants";
import { checkRuleset } from "../ruleset/check";
import { ruleset, variant } from "../testing";
import {
  changedParts,
  changeRows,
  changesOf,
  kindOfChange,
  takenAway,
  typeName,
  unchanged,
  withChange,
  type OwnChange,
} from "./own";

const own = (...changes: OwnChange[]) => ({ type: "@own", fields: { changes }, tokens: {} });
const text: OwnChange = { part: "h1", was: "Rooms with a view", text: "Rooms by the water" };
const link: OwnChange = { part: "h1", link: "/rooms" };
const hide: OwnChange = { part: ".badge", hidden: true };

describe("changes of what stands there", () => {
  it("of one part stand beside each other by kind; one takes the place of its like, or goes", () => {
    const both = withChange(withChange([], "h1", "text", text), "h1", "link", link);
    expect(both).toEqual([text, link]);
    const other = { ...text, text: "Boats" };
    expect(withChange(both, "h1", "text", other)).toEqual([other, link]);
    expect(withChange(both, "h1", "text", undefined)).toEqual([link]);
    expect(withChange(both, "h2", "text", undefined)).toEqual(both);
    expect([text, link, hide].map(kindOfChange)).toEqual(["text", "link", "hidden"]);
  });
  it("tell the parts that they are of, by what stood there", () => {
    const image: OwnChange = { part: "img", image: { src: "/boats.jpg" } };
    expect(changedParts([link, text, hide, image, { part: "", text: "Closed" }])).toEqual([
      { part: "h1", name: "“Rooms with a view”", text: "Rooms with a view", link: "" },
      { part: ".badge", name: ".badge" },
      { part: "img", name: "img", image: { src: "" } },
      { part: "", name: "the place itself", text: "" },
    ]);
  });
  it("are told in words", () => {
    expect(changeRows(own(text, link, hide)).map(({ name, value }) => `${name}: ${value}`)).toEqual([
      "“Rooms with a view”: Rooms by the water",
      "Link of h1: /rooms",
      ".badge: hidden",
    ]);
    expect(changeRows(takenAway())).toEqual([]);
    expect(typeName("@own", [])).toBe("What stands there, changed");
    expect(typeName("note", [{ id: "note", name: "Note" }])).toBe("Note");
  });
});

describe("a slot that was pointed at", () => {
  const slot = (more: object = {}) =>
    ruleset({ slots: [{ id: "s", name: "Heading", at: { selector: "h1" }, ...more }] }).slots[0]!;
  it("begins with what stands there, switched off, and with nothing changed yet", () => {
    const rules = ruleset({});
    expect(blankContent(slot(), rules)).toEqual(unchanged());
    for (const add of [addOwn, addNothing]) {
      const { edit } = add(slot(), rules);
      expect(edit).toMatchObject({ do: "insert", item: { on: false, rule: null } });
    }
    // Without a change it is not finished.
    const unfinished = ruleset({ slots: [slot()] });
    unfinished.slots[0]!.variants.push({
      ...variant("a"),
      on: true,
      rule: null,
      arms: [{ id: "a", weight: 100, content: unchanged() }],
    });
    expect(checkRuleset(unfinished).map(({ code }) => code)).toEqual(["empty"]);
  });
  it("has nothing of the page's own in it where its place is made beside another part", () => {
    expect(hasOwnContent(slot())).toBe(true);
    expect(hasOwnContent(slot({ at: undefined }))).toBe(true);
    expect(hasOwnContent(slot({ at: { selector: "h1", how: "before" } }))).toBe(false);
    expect(
      blankContent(slot({ at: { selector: "h1", how: "before" } }), ruleset({ blockTypes: [{ id: "n", name: "N" }] }))
        .type,
    ).toBe("n");
  });
});

describe("what differs of a copy of the page's own", () => {
  const with_ = (content: object, at: object = { selector: "h1" }) =>
    ruleset({
      slots: [
        { id: "s", name: "Heading", at, variants: [variant("a", null, { arms: [{ id: "a", weight: 100, content }] })] },
      ],
    });
  const told = (before: object, after: object) =>
    differences(with_(before), with_(after)).map(({ says, before: was, after: is }) => [says, was, is]);

  it("is said change by change", () => {
    expect(told(own(text), own(text))).toEqual([]);
    expect(told(own(text), own({ ...text, text: "Boats" }))).toEqual([
      ["changes “Rooms with a view” otherwise", "Rooms by the water", "Boats"],
    ]);
    expect(told(own(text), own(text, hide))).toEqual([["changes .badge", undefined, "hidden"]]);
    expect(told(own(text, hide), own(text))).toEqual([["no longer changes .badge", "hidden", undefined]]);
    expect(told(own(text), takenAway())).toEqual([
      ["is another kind of block", "What stands there, changed", "Nothing"],
    ]);
    // What stood there when it was made decides whether it is shown.
    expect(told(own({ part: "p", text: "A", was: "x" }), own({ part: "p", text: "A", was: "y" }))).toEqual([
      ["is made from what the page says now", undefined, undefined],
    ]);
    expect(changesOf(own(text))).toEqual([text]);
  });
  it("and of its place, too", () => {
    const [moved] = differences(with_(own(text)), with_(own(text), { selector: "main", how: "first" }));
    expect(moved).toMatchObject({ says: "is at another place", before: "h1", after: "inside, at the start of main" });
  });
});
