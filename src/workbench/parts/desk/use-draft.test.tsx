// @vitest-environment jsdom
import { act, useEffect } from "react";
import { beforeEach, expect, it, vi } from "vitest";
import { applyEdits, type Edit } from "@/core/draft/edit";
import type { SiteDraft } from "@/core/formats/site-draft";
import { ruleset, variant } from "@/core/testing";
import { ActionError } from "../actions";
import { mount, settled, type Mounted } from "../../testing";
import { useDraft, type Draft } from "./use-draft";
import { unsentChanges } from "./unsent";

const first: SiteDraft = {
  ...ruleset({ slots: [{ id: "s", name: "Bar", variants: [variant("a"), variant("b")] }] }),
  library: [],
  picks: [],
};
const named = (to: string, before = "Bar"): Edit[] => [{ do: "set", at: ["slots", "s", "name"], before, after: to }];

/** A server with one draft: it answers when it is told to. */
let server: { ruleset: SiteDraft; version: number };
let asked: { says: string; edits: Edit[]; name: string; answer: () => void; refuse: (error: unknown) => void }[];
let said: string[];
const changed = (edits: Edit[]) => {
  const applied = applyEdits(server.ruleset, edits);
  if (!applied.ok) return { ok: false, problem: applied.problem };
  server = { ruleset: applied.value, version: server.version + 1 };
  return { ok: true, version: server.version, undo: "it", redo: null, edits };
};
const actions = {
  news: () => Promise.resolve({ draft: { ...server, undo: null, redo: null } }),
  change: (says: string, edits: Edit[], name: string) =>
    new Promise((answer, refuse) =>
      asked.push({
        says,
        edits,
        name,
        answer: () => answer(changed(edits)),
        refuse: (error) => (error instanceof Error ? refuse(error) : answer(error)),
      }),
    ),
  undo: () => Promise.resolve(changed(named("Bar", server.ruleset.slots[0]?.name))),
};
vi.mock("notistack", () => ({ useSnackbar: () => ({ enqueueSnackbar: say }) }));
const say = (text: string) => void said.push(text);

let draft: Draft;
const me = { id: "me", roles: ["editor"] as ("author" | "editor")[] };
function Probe({ who = me }: { who?: typeof me }) {
  const now = useDraft({ ruleset: first, version: 1, undo: null, redo: null }, who, "shop", actions as never);
  useEffect(() => {
    draft = now;
  });
  return null;
}
const name = () => draft.ruleset.slots[0]?.name;
const edit = (says: string, edits: Edit[]) => act(async () => draft.edit(says, edits));
const answer = (index: number) => act(async () => asked[index]?.answer());

let page: Mounted | undefined;
const open = async (who = me) => {
  page = await mount(<Probe who={who} />);
  await settled();
};
beforeEach(async () => {
  await page?.end();
  window.localStorage.clear();
  server = { ruleset: first, version: 1 };
  asked = [];
  said = [];
});

it("shows a change at once, and saves one after the other; an earlier answer does not undo a later change", async () => {
  await open();
  await edit("One", named("Top bar"));
  await edit("Two", named("Topmost bar", "Top bar"));
  expect([name(), draft.saving, asked.map(({ says }) => says)]).toEqual(["Topmost bar", true, ["One"]]);
  await answer(0);
  expect([name(), asked.length]).toEqual(["Topmost bar", 2]);
  await answer(1);
  expect([name(), draft.saving, draft.version, draft.undo]).toEqual(["Topmost bar", false, 3, "it"]);
  expect(said).toEqual([]);
});
it("keeps what stayed the same the very same", async () => {
  await open();
  const variants = draft.ruleset.slots[0]?.variants;
  await edit("One", named("Top bar"));
  await answer(0);
  expect(draft.ruleset.slots[0]?.variants).toBe(variants);
});
it("refuses by role, without asking", async () => {
  await open({ ...me, roles: ["author"] });
  await edit("One", named("Top bar"));
  expect([name(), asked.length, said.length]).toEqual(["Bar", 0, 1]);
});
it("goes back to the server's word if it refuses, and says so", async () => {
  await open();
  await edit("One", named("Top bar"));
  await act(async () => asked[0]?.refuse(new ActionError(422, "No such name.")));
  await settled();
  expect([name(), said]).toEqual(["Bar", ["Not saved: No such name."]]);
});
/** Names the slot while somebody else does. */
async function comeTooLate(): Promise<void> {
  await open();
  await edit("Mine", named("My bar"));
  changed(named("Their bar"));
  const stale = { path: "slots/s/name", where: "The name of a slot", by: "Another", now: "Their bar" };
  await act(async () => asked[0]?.refuse({ ok: false, problem: "too late", stale }));
  await settled();
}
it("asks which of two stands, where somebody else had set the same; mine goes on top of theirs", async () => {
  await comeTooLate();
  expect([name(), draft.conflict?.stale.by, said]).toEqual(["Their bar", "Another", []]);
  await act(async () => draft.settle(true));
  expect([name(), draft.conflict, asked[1]?.edits]).toEqual(["My bar", undefined, named("My bar", "Their bar")]);
  await answer(1);
  expect([name(), server.ruleset.slots[0]?.name]).toEqual(["My bar", "My bar"]);
});
it("leaves theirs where that is chosen", async () => {
  await comeTooLate();
  await act(async () => draft.settle(false));
  expect([name(), draft.conflict, asked.length]).toEqual(["Their bar", undefined, 1]);
});
it("sends on while the server is away, by the same name, and keeps it meanwhile", async () => {
  await open();
  await edit("One", named("Top bar"));
  await act(async () => asked[0]?.refuse(new TypeError("away")));
  expect([
    draft.unsent,
    name(),
    unsentChanges("shop", "me")
      .read()
      .map(({ says }) => says),
  ]).toEqual([true, "Top bar", ["One"]]);
  await act(async () => void window.dispatchEvent(new Event("online")));
  expect([asked.length, asked[1]?.name === asked[0]?.name]).toEqual([2, true]);
  await answer(1);
  expect([draft.unsent, draft.saving, unsentChanges("shop", "me").read()]).toEqual([false, false, []]);
});
it("takes up what an earlier page did not get rid of, and says so", async () => {
  unsentChanges("shop", "me").keep({ name: "left", says: "Left", edits: named("Left bar") });
  unsentChanges("shop", "somebody else").keep({ name: "theirs", says: "Theirs", edits: named("No") });
  await open();
  expect([name(), asked.map((one) => one.name), said.length]).toEqual(["Left bar", ["left"], 1]);
  await answer(0);
  expect(unsentChanges("shop", "me").read()).toEqual([]);
  expect(unsentChanges("shop", "somebody else").read()).toHaveLength(1);
});
it("takes what somebody else saved, but not under one's own change, nor an older one", async () => {
  await open();
  const theirs = { ruleset: { ...first, slots: [] }, version: 5, undo: null, redo: null };
  await edit("One", named("Top bar"));
  await act(async () => draft.take(theirs));
  expect(name()).toBe("Top bar");
  await answer(0);
  await act(async () => draft.take({ ...theirs, version: 1 }));
  expect(name()).toBe("Top bar");
  await act(async () => draft.take(theirs));
  expect([draft.ruleset.slots, draft.version]).toEqual([[], 5]);
});
it("undoes by the server's word", async () => {
  await open();
  await edit("One", named("Top bar"));
  await answer(0);
  await act(async () => draft.undoLast());
  expect([name(), draft.version]).toEqual(["Bar", 3]);
});
