import { describe, expect, it } from "vitest";
import { heardStands, tagStanding, type TriedPage } from "./tag-standing";

const now = Date.parse("2024-02-29T12:00:00Z");
const ago = (ms: number) => new Date(now - ms).toISOString();
const page = (path: string, more: Partial<TriedPage>): TriedPage => ({ path, ...more });

describe("which pages carry the tag", () => {
  it("takes the page's word first, then that of visitors' pages within a day", () => {
    const standing = tagStanding(
      [
        page("/here", { state: "here" }),
        page("/here-and-silent", { state: "here", heardAt: ago(30 * heardStands) }),
        page("/by-script", { state: "none", heardAt: ago(heardStands - 1) }),
        page("/lost", { state: "none", heardAt: ago(heardStands) }),
        page("/never", { state: "none" }),
        page("/others", { state: "another", heardAt: ago(0) }),
        page("/away", { problem: "The site answered 500.", heardAt: ago(0) }),
        page("/strict", { state: "here", keptOut: ["connect-src 'self'"] }),
      ],
      now,
    );
    expect(
      Object.fromEntries(Object.entries(standing).map(([key, of]) => [key, of.map(({ path }: TriedPage) => path)])),
    ).toEqual({
      carrying: ["/here", "/here-and-silent", "/by-script", "/strict"],
      byScript: ["/by-script"],
      without: ["/never"],
      lost: ["/lost"],
      another: ["/others"],
      unread: ["/away"],
      blocked: ["/strict"],
    });
  });

  it("puts each page into exactly one of: carrying, without, lost, another, unread", () => {
    for (const state of ["here", "another", "none"] as const)
      for (const heardAt of [undefined, ago(0), ago(2 * heardStands)])
        for (const problem of [undefined, "away"]) {
          const { carrying, without, lost, another, unread } = tagStanding(
            [page("/", { state, ...(heardAt ? { heardAt } : {}), ...(problem ? { problem } : {}) })],
            now,
          );
          expect([carrying, without, lost, another, unread].flat()).toHaveLength(1);
        }
  });
});
