// @vitest-environment jsdom
import { act } from "react";
import { beforeEach, expect, it, vi } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { applyEdits, valueAt, type Edit } from "@/core/draft/edit";
import { runnable } from "@/core/draft/runnable";
import type { Rule } from "@/core/formats/rule";
import type { SiteDraft } from "@/core/formats/site-draft";
import { ruleset, variant, visit } from "@/core/testing";
import { mount, press, type Mounted } from "../../testing";
import { RuleEditor } from "./rule-editor";

const at = ["slots", "s", "variants", "a", "rule"];
const fern = { signal: "campaign.source", op: "is", value: "fern" } as const;
const phone = { signal: "device.kind", op: "isOneOf", value: ["phone"] } as const;

let draft: SiteDraft;
let said: string[];
let page: Mounted | undefined;
const desk = () => ({
  ruleset: draft,
  draft: { edit },
  look: { runnable: runnable(draft), visit: visit(), path: "/" },
  pages: [],
  products: [],
  lenses: [],
});
vi.mock("../desk/desk", () => ({ useDesk: () => desk(), useNeeded: () => true }));

const ruleNow = () => valueAt(draft, at) as Rule;
function trace() {
  const sound = runnable(draft).ruleset;
  return createEngine(sound).decide(visit({ url: "https://shop.example/?utm_source=fern" }), { trace: true }).trace
    ?.slots[0]?.variants[0]?.rule;
}
const view = () => <RuleEditor rule={ruleNow()} at={at} says="Rule of a" trace={trace()} />;
function edit(says: string, edits: Edit[]) {
  said.push(says);
  const applied = applyEdits(draft, edits);
  if (!applied.ok) throw new Error(applied.problem);
  draft = applied.value;
}
const open = async (rule: Rule) => {
  draft = {
    ...ruleset({
      audiences: [{ id: "mail", name: "Mail", rule: { signal: "campaign.medium", op: "is", value: "email" } }],
      slots: [{ id: "s", name: "S", variants: [variant("a", rule)] }],
    }),
    library: [],
    picks: [],
  };
  page = await mount(view());
};
/** Presses, and draws what it made of the draft. */
const done = async (...names: string[]) => {
  for (const name of names) {
    await press(name);
    await page?.draw(view());
  }
};
beforeEach(async () => {
  await page?.end();
  document.body.replaceChildren();
  said = [];
});

it("begins with nothing: a first condition stands in a group, unfinished, with its form open", async () => {
  await open(null);
  expect(page?.place.textContent).toContain("For everyone");
  await done("Add a condition");
  expect(ruleNow()).toEqual({ all: [{ signal: "", op: "is" }] });
  expect(document.activeElement?.getAttribute("aria-label")).toBe("What it depends on");
});
it("gives a lone condition a group, so that another can stand beside it, and changes nothing by that alone", async () => {
  await open(fern);
  expect([ruleNow(), said]).toEqual([fern, []]);
  await done("Condition");
  expect(ruleNow()).toEqual({ all: [fern, { signal: "", op: "is" }] });
});
it("offers only what fits the signal, and keeps a value where it fits the next operator, too", async () => {
  await open({ all: [fern] });
  await act(async () => page?.place.querySelector<HTMLElement>(".says")?.click());
  const compare = [...(page?.place.querySelectorAll<HTMLElement>("[role=combobox]") ?? [])].find(
    (one) => one.textContent === "is",
  );
  await act(async () => void compare?.dispatchEvent(new MouseEvent("mousedown", { bubbles: true })));
  const offered = [...document.querySelectorAll("[role=option]")].map((one) => one.getAttribute("aria-label"));
  expect(offered).toContain("contains");
  expect(offered).not.toContain("is at least");
  await done("contains");
  expect(ruleNow()).toEqual({ all: [{ ...fern, op: "contains" }] });
});
it("says a verdict for each part, and what was found", async () => {
  await open({ any: [fern, phone] });
  const marks = [...(page?.place.querySelectorAll(".condhead > b") ?? [])].map((one) => one.textContent);
  expect(marks).toEqual(["✓", "?"]);
  expect(page?.place.textContent).toContain("This lens: ");
});
it("moves a part by keyboard", async () => {
  await open({ all: [fern, phone] });
  const grip = page?.place.querySelector<HTMLElement>('[data-way="1"]');
  await act(async () => void grip?.dispatchEvent(new KeyboardEvent("keydown", { key: "ArrowUp", bubbles: true })));
  expect(ruleNow()).toEqual({ all: [phone, fern] });
});
it("groups, dissolves and removes, and takes an audience", async () => {
  await open({ all: [fern, phone] });
  await done("More about this condition", "Move to its own group");
  expect(ruleNow()).toEqual({ all: [{ any: [fern] }, phone] });
  await done("More about this group", "Ungroup");
  expect(ruleNow()).toEqual({ all: [fern, phone] });
  await done("More about this condition", "Remove this condition");
  expect(ruleNow()).toEqual({ all: [phone] });
  await done("Add something else", "Belongs to “Mail”");
  expect(ruleNow()).toEqual({ all: [phone, { audience: "mail" }] });
  await done("More about the whole rule", "Remove rule");
  expect(ruleNow()).toBeNull();
  expect(new Set(said)).toEqual(new Set(["Rule of a"]));
});
it("refuses text that is no rule, at its place, and loses nothing", async () => {
  await open(fern);
  await done("Add something else", "Paste a rule");
  const text = document.querySelector<HTMLTextAreaElement>("[role=dialog] textarea:not([aria-hidden])");
  await act(async () => {
    Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, "value")?.set?.call(text, "{ no rule");
    text?.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await press("Take it");
  expect(document.querySelector("[role=dialog] .Mui-error")?.textContent).toBeTruthy();
  expect([text?.value, ruleNow()]).toEqual(["{ no rule", fern]);
});
