import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, variant, visit } from "../testing";
import { filledFor, found, mailed, sponsored } from "./arrivals";
import type { CampaignLink } from "./link";

const link = (id: string, source: string, more: Record<string, string> = {}): CampaignLink => ({
  id,
  name: id,
  path: "/",
  part: "",
  note: "",
  usedBy: "",
  tags: Object.entries({ utm_source: source, ...more }).map(([name, value]) => ({ name, value })),
});
const links = [link("ad", "Finder", { utm_term: "{keyword}" }), link("mail", "postbox"), link("other", "elsewhere")];
const here = "https://finder.example/search?q=shade+fern";

describe("ways in", () => {
  it("are the links of that source, spelled in whatever letters, with what was searched for in its place", () => {
    expect(sponsored(links, "finder", "shade fern", here)).toEqual([
      { id: "ad", name: "ad", says: "", target: "/?utm_source=Finder&utm_term=shade%20fern", referrer: here },
    ]);
    expect(mailed(links, "postbox", "").map((item) => item.id)).toEqual(["mail"]);
    expect(filledFor(link("x", "a", { b: "{{Keyword}} {id}" }), "y").tags[1]?.value).toBe("y {id}");
  });
  it("tell the engine what a visitor’s browser would: link, referrer and words of the search", () => {
    const rules = ruleset({
      searchSources: [{ host: "finder.example", engine: "finder", parameter: "q" }],
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("a", {
              all: [
                { signal: "search.engine", op: "is", value: "finder" },
                { signal: "search.words", op: "hasAllWords", value: "fern shade" },
              ],
            }),
          ],
        },
      ],
    });
    const [arrival] = sponsored(links, "finder", "shade fern", here);
    const decision = createEngine(rules).decide(
      visit({ url: `https://shop.example${arrival?.target}`, referrer: arrival?.referrer }),
    );
    expect(decision.slots.s?.[0]?.variant).toBe("a");
  });
  it("are found among the pages by their words, best first", () => {
    const pages = [
      { path: "/tools", title: "Tools" },
      { path: "/ferns", title: "Ferns", text: "For the shade" },
      { path: "/ferns/lady", title: "Lady fern" },
    ];
    expect(found(pages, "Shade FERN", here).map((item) => item.id)).toEqual(["/ferns", "/ferns/lady"]);
    expect(found(pages, "", here)).toEqual([]);
  });
});
