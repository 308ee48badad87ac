// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { ruleset } from "@/core/testing";
import { mount, press, type Mounted } from "../../testing";
import { ConflictDialog } from "./conflict-dialog";

let settled: boolean[];
const made = ruleset({ slots: [{ id: "s", name: "Their bar" }] });
const desk = () => ({
  ruleset: made,
  draft: {
    conflict: {
      says: "The name",
      edits: [{ do: "set", at: ["slots", "s", "name"], before: "Bar", after: "My bar" }],
      stale: { path: "slots/s/name", where: "The name of Bar", by: "Another", now: "Their bar" },
    },
    settle: (mine: boolean) => settled.push(mine),
  },
});
vi.mock("./desk", () => ({ useDesk: () => desk() }));

let page: Mounted | undefined;
beforeEach(async () => {
  await page?.end();
  settled = [];
  page = await mount(<ConflictDialog />);
});

it("shows both texts, each with whose it is", () => {
  const texts = [...document.querySelectorAll("section")].map(
    (one) => `${one.getAttribute("aria-label")}: ${one.querySelector("p")?.textContent}`,
  );
  expect(texts).toEqual(["Yours: My bar", "Another’s: Their bar"]);
});
it("takes the one that is chosen", async () => {
  await press("Put mine in its place");
  await press("Keep Another’s");
  expect(settled).toEqual([true, false]);
});
