import { describe, expect, it } from "vitest";
import type { Edit } from "../draft/edit";
import { lacking, mayDo, neededFor, refusal, roles, type Ability, type Role } from "./roles";

const set = (...at: string[]): Edit => ({ do: "set", at, before: null, after: 1 });
const cases: [string, Edit, Ability][] = [
  ["a headline", set("slots", "hero", "variants", "a", "arms", "x", "content", "fields", "headline"), "content"],
  ["the name of a variant", set("slots", "hero", "variants", "a", "name"), "content"],
  ["the rule of a variant", set("slots", "hero", "variants", "a", "rule"), "rules"],
  ["a switch", set("slots", "hero", "variants", "a", "on"), "rules"],
  ["how long it is remembered", set("slots", "hero", "variants", "a", "rememberDays"), "rules"],
  ["a fallback", set("slots", "hero", "fallback", "fields", "headline"), "content"],
  ["the pages of a slot", set("slots", "hero", "pages"), "slots"],
  [
    "a variant for everyone",
    { do: "insert", list: ["slots", "hero", "variants"], index: 0, item: { id: "b", rule: null } },
    "content",
  ],
  [
    "a variant with a rule",
    { do: "insert", list: ["slots", "hero", "variants"], index: 0, item: { id: "b", rule: { all: [] } } },
    "rules",
  ],
  ["the order", { do: "move", list: ["slots", "hero", "variants"], id: "a", from: 0, to: 1 }, "rules"],
  ["a slot", { do: "insert", list: ["slots"], index: 0, item: { id: "new" } }, "slots"],
  ["an offer", set("offers", "box", "threshold"), "rules"],
  ["a pop-up's rule", set("popups", "p", "rule"), "rules"],
  ["a pop-up's words", set("popups", "p", "arms"), "content"],
  ["a block of the library", { do: "remove", list: ["library"], index: 0, item: { id: "b" } }, "content"],
  ["the zone", set("site", "zone"), "build"],
  ["own data", set("dataFields"), "build"],
  ["a kind of block", set("blockTypes", "hero", "fields"), "build"],
];

describe("roles", () => {
  it.each(cases)("%s asks for what it should", (_name, edit, ability) => expect(neededFor(edit)).toBe(ability));

  it("give what the product says, and no more", () => {
    const table: Record<Role, Ability[]> = {
      author: ["content"],
      editor: ["content", "rules", "slots"],
      approver: ["release"],
      developer: ["slots", "build", "people"],
    };
    for (const role of roles)
      for (const ability of ["content", "rules", "slots", "release", "build", "people"] as const)
        expect([role, ability, mayDo([role], ability)]).toEqual([role, ability, table[role].includes(ability)]);
  });

  it("of one person add up", () => {
    const edits = [set("slots", "hero", "variants", "a", "rule"), set("site", "zone")];
    expect(lacking(["editor"], edits)).toBe("build");
    expect(lacking(["editor", "developer"], edits)).toBeUndefined();
  });

  it("say who may, and who one is", () => {
    expect(refusal(["author"], "rules")).toBe("Rules, order and offers are an editor’s to change; you are an author.");
    expect(refusal(["developer", "author"], "release")).toContain("you are a developer and an author");
  });
});
