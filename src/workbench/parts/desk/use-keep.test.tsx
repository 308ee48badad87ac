// @vitest-environment jsdom
import { act, useEffect } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { ListChanged, ListItems } from "@/server/types";
import { mount } from "../../testing";
import { useKeep } from "./use-keep";
import { useLists, type Lists } from "./use-lists";

type Check = ListItems["checks"];
const check = (id: string, name = id) => ({ id, name, expect: { redirect: "/" } }) as unknown as Check;

/** Saves that were asked for and not answered yet, in their order. */
let asked: { items: Check[]; answer: (mark: string) => void; fail: () => void }[];
let said: string[];
const actions = {
  list: () => Promise.resolve({ items: [], mark: "one", next: null }),
  keepChecks: (items: Check[]) =>
    new Promise<ListChanged<"checks">>((done, fail) =>
      asked.push({
        items,
        answer: (mark) => done({ was: "one", mark, kept: items }),
        fail: () => fail(new Error("away")),
      }),
    ),
  dropCheck: () => Promise.resolve({ was: "one", mark: "gone", kept: [] }),
};

let lists: Lists;
let kept: ReturnType<typeof useKeep<"checks">>;
/** In the place of the desk: what is kept needs no more of it. */
const desk = vi.hoisted(() => ({ value: undefined as unknown as React.Context<unknown> }));
vi.mock("./desk", async () => {
  const { createContext, useContext } = await import("react");
  desk.value = createContext<unknown>(undefined);
  return { useDesk: () => useContext(desk.value) };
});
vi.mock("notistack", () => ({ useSnackbar: () => ({ enqueueSnackbar: (text: string) => void said.push(text) }) }));

function Keeper() {
  const now = useKeep("checks");
  useEffect(() => {
    kept = now;
  });
  return null;
}
function Probe({ first }: { first: Check[] }) {
  const now = useLists({ checks: { items: first, mark: "one", next: null } }, actions as never);
  useEffect(() => {
    lists = now;
  });
  return (
    <desk.value value={{ lists: now, actions }}>
      <Keeper />
    </desk.value>
  );
}
const names = () => lists.of.checks.map((item) => item.name);

beforeEach(async () => {
  asked = [];
  said = [];
  await mount(<Probe first={[check("a"), check("b")]} />);
});

describe("what is kept of a list", () => {
  it("is shown at once, and sent one after the other; an earlier answer does not undo a later change", async () => {
    await act(async () => void kept.keep([check("a", "A")]));
    await act(async () => void kept.keep([check("a", "A once more"), check("c")]));
    expect([names(), asked.length]).toEqual([["A once more", "b", "c"], 1]);
    await act(async () => asked[0]?.answer("two"));
    expect([names(), asked.length]).toEqual([["A once more", "b", "c"], 2]);
    await act(async () => asked[1]?.answer("three"));
    expect([names(), said]).toEqual([["A once more", "b", "c"], []]);
  });

  it("that could not be kept is as it was before, that is said, and what came meanwhile stays", async () => {
    await act(async () => void kept.keep([check("a", "A"), check("c")]));
    await act(async () => lists.changed("checks", { was: "one", mark: "two", kept: [check("b", "by another")] }));
    await act(async () => asked[0]?.fail());
    expect(names()).toEqual(["a", "by another"]);
    expect(said).toEqual(["Not saved: The server could not be reached. Nothing was changed."]);
  });

  it("is deleted after what was on its way is kept", async () => {
    await act(async () => void kept.keep([check("a", "A")]));
    await act(async () => void kept.drop(check("a"), "It is deleted"));
    expect(names()).toEqual(["A", "b"]);
    await act(async () => asked[0]?.answer("two"));
    expect([names(), said]).toEqual([["b"], ["It is deleted"]]);
  });
});
