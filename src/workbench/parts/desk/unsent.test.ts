// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { unsentChanges, type Unsent } from "./unsent";

const change = (name: string): Unsent => ({
  name,
  says: `Change ${name}`,
  edits: [{ do: "set", at: ["site", "name"], before: "a", after: name }],
});
beforeEach(() => window.localStorage.clear());

it("keeps what was not answered, in order, for the same person on the same site", () => {
  const mine = unsentChanges("shop", "ann");
  expect(mine.read()).toEqual([]);
  expect([mine.keep(change("one")), mine.keep(change("two"))]).toEqual([true, true]);
  // As another page of this browser finds it.
  expect(unsentChanges("shop", "ann").read()).toEqual([change("one"), change("two")]);
  expect(unsentChanges("shop", "bob").read()).toEqual([]);
  expect(unsentChanges("other", "ann").read()).toEqual([]);
  mine.drop("one");
  mine.drop("never");
  expect(mine.read()).toEqual([change("two")]);
  mine.drop("two");
  expect(window.localStorage).toHaveLength(0);
});

it("says so where the browser keeps nothing, and minds nothing else under its name", () => {
  window.localStorage.setItem("mirada-unsent shop ann", '{"no":"list"}');
  const mine = unsentChanges("shop", "ann");
  expect(mine.read()).toEqual([]);
  const full = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  expect(mine.keep(change("one"))).toBe(false);
  full.mockRestore();
  expect(mine.keep(change("one"))).toBe(true);
});
