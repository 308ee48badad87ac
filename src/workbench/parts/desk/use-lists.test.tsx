// @vitest-environment jsdom
import { act, useEffect } from "react";
import { beforeEach, describe, expect, it } from "vitest";
import type { DeskNews, ListItems, ListName, ListPart } from "@/server/types";
import { mount } from "../../testing";
import { useLists, type Lists } from "./use-lists";

type Lens = ListItems["lenses"];
const lens = (id: string, name = id): Lens => ({
  id,
  name,
  visit: { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" } as Lens["visit"],
  steps: [],
});
/** The list on the server, handed out by twos. */
let stored: Lens[];
let mark: string;
let asked: number[];
/** What happens before a part is answered. */
let meanwhile: (from: number) => void;
const partOf = (from: number): ListPart<"lenses"> => ({
  items: stored.slice(from, from + 2),
  mark,
  next: from + 2 < stored.length ? from + 2 : null,
});
const list = ((name: ListName, from: number) => {
  if (name !== "lenses") return Promise.resolve({ items: [], mark: "none", next: null });
  asked.push(from);
  meanwhile(from);
  return Promise.resolve(partOf(from));
}) as never;
const actions = { list };

let lists: Lists;
function Probe({ first }: { first: ListPart<"lenses"> }) {
  const now = useLists({ lenses: first }, actions);
  useEffect(() => {
    lists = now;
  });
  return null;
}
/** Opens with the first part. */
async function open(): Promise<void> {
  await mount(<Probe first={partOf(0)} />);
}
const names = () => lists.of.lenses.map((item) => item.name);
const hear = (heard: string) => act(async () => lists.hear({ lenses: heard } as DeskNews["lists"]));

beforeEach(() => {
  stored = ["a", "b", "c", "d", "e"].map((id) => lens(id));
  mark = "one";
  asked = [];
  meanwhile = () => undefined;
});

describe("a list in parts", () => {
  it("is read to its end, each part once, and not again while nothing has changed", async () => {
    await open();
    expect([names(), lists.isWhole("lenses"), asked]).toEqual([["a", "b", "c", "d", "e"], true, [2, 4]]);
    await hear("one");
    expect(asked).toEqual([2, 4]);
    mark = "two";
    stored[1] = lens("b", "B");
    const before = lists.of.lenses[0];
    await hear("two");
    expect(names()).toEqual(["a", "B", "c", "d", "e"]);
    // What is the same stays the very same.
    expect(lists.of.lenses[0]).toBe(before);
  });

  it("is begun anew if it changes while it is read", async () => {
    meanwhile = (from) => {
      if (from !== 4 || mark !== "one") return;
      mark = "two";
      stored = [lens("z"), ...stored];
    };
    await open();
    expect(names()).toEqual(["z", "a", "b", "c", "d", "e"]);
    expect(asked).toEqual([2, 4, 0, 2, 4]);
  });

  it("has one’s own change at once, and needs nothing more if nobody else changed it", async () => {
    await open();
    await act(async () => lists.changed("lenses", { was: "one", mark: "two", kept: [lens("c", "C"), lens("f")] }));
    expect(names()).toEqual(["a", "b", "C", "d", "e", "f"]);
    await act(async () => lists.changed("lenses", { was: "two", mark: "three", kept: [] }, "a"));
    expect(names()).toEqual(["b", "C", "d", "e", "f"]);
    asked = [];
    await hear("three");
    expect(asked).toEqual([]);
    // Somebody else was there in between: all of it is read.
    stored = [lens("x")];
    mark = "five";
    await act(async () => lists.changed("lenses", { was: "four", mark: "five", kept: [lens("x")] }));
    await hear("five");
    expect([names(), asked]).toEqual([["x"], [0]]);
  });

  it("does not take what was on its way before one’s own change", async () => {
    await open();
    meanwhile = () => {
      if (mark !== "two") return;
      lists.changed("lenses", { was: "two", mark: "three", kept: [lens("a", "Mine")] });
    };
    mark = "two";
    await hear("two");
    expect(names()).toEqual(["Mine", "b", "c", "d", "e"]);
    meanwhile = () => undefined;
    stored[0] = lens("a", "Mine");
    mark = "three";
    await hear("three");
    expect(names()).toEqual(["Mine", "b", "c", "d", "e"]);
  });

  it("goes on with the next news where the server could not be reached", async () => {
    meanwhile = (from) => {
      if (from === 4) throw new Error("away");
    };
    await open();
    expect([names(), lists.isWhole("lenses")]).toEqual([["a", "b", "c", "d"], false]);
    meanwhile = () => undefined;
    await hear("one");
    expect([names(), lists.isWhole("lenses"), asked]).toEqual([["a", "b", "c", "d", "e"], true, [2, 4, 4]]);
  });
});
