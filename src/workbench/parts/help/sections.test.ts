import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { searchSections, sectionsOf } from "./sections";

const guide = `# A guide

Before.

## Slots
What a slot is.

## Signals

### Time
When it is.

### Place
Where it is, by address.
`;

describe("the guides in sections", () => {
  it("are parted at their headings, and what has parts is named with them", () => {
    expect(sectionsOf(guide)).toEqual([
      { guide: "A guide", title: "Slots", text: "What a slot is." },
      { guide: "A guide", title: "Signals: Time", text: "When it is." },
      { guide: "A guide", title: "Signals: Place", text: "Where it is, by address." },
    ]);
    expect(sectionsOf("# Empty\n")).toEqual([]);
  });
  it("are found by all the words, titles first, whatever the letters’ case", () => {
    const sections = sectionsOf(guide);
    const found = (asked: string) => searchSections(sections, asked).map((one) => one.title);
    expect(found("IT IS")).toEqual(["Signals: Time", "Signals: Place"]);
    expect(found("place")).toEqual(["Signals: Place"]);
    expect(found("slot is")).toEqual(["Slots"]);
    expect(found("signals address")).toEqual(["Signals: Place"]);
    expect(found("")).toHaveLength(3);
    expect(found("no such thing")).toEqual([]);
  });
  it("the guides that ship have sections of their own, none of them empty or twice", () => {
    for (const name of ["marketer", "signals", "glossary"]) {
      const sections = sectionsOf(readFileSync(`docs/${name}.md`, "utf8"));
      expect(sections.length).toBeGreaterThan(3);
      expect(new Set(sections.map((one) => one.title)).size).toBe(sections.length);
      for (const { text } of sections) expect(text).not.toBe("");
    }
  });
});
