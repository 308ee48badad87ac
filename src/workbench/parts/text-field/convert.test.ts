import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fromDoc, fromHtml, toEditor, type Doc } from "./convert";

describe("a plain text in the editor", () => {
  const char = fc.constantFrom("a", " ", "'", "{", "}", "é", "<");
  const node: fc.Arbitrary<Doc> = fc.oneof(
    fc.string({ unit: char, minLength: 1 }).map((text) => ({ type: "text", text })),
    fc.constantFrom(
      { type: "token", attrs: { name: "n", source: "{n}" } },
      { type: "token", attrs: { name: "n", source: "{n, plural, one {# item} other {# items}}" } },
    ),
  );
  const doc = fc
    .array(fc.array(node, { maxLength: 4 }), { minLength: 1, maxLength: 4 })
    .map((lines): Doc => ({ type: "doc", content: lines.map((content) => ({ type: "paragraph", content })) }));
  /** Texts beside each other are one. */
  const flat = (of: Doc) =>
    (of.content ?? []).map((line) =>
      (line.content ?? [])
        .map((item) => (item.type === "token" ? `[${String(item.attrs?.source)}]` : item.text))
        .join(""),
    );
  it("comes back line by line, with its values", () => {
    fc.assert(
      fc.property(doc, (made) => {
        const back = toEditor(fromDoc(made), "text") as Doc;
        expect(flat(back)).toEqual(flat(made));
      }),
    );
  });
  it("is shown as written where it cannot be read", () => {
    expect(toEditor("Hello {name", "line")).toBeUndefined();
    expect(toEditor("", "line")).toEqual({ type: "doc", content: [{ type: "paragraph", content: [] }] });
  });
});

describe("a rich text in the editor", () => {
  it("keeps its values as places of their own, and comes back", () => {
    const source = `<p>It''s {name}, {n, plural, one {# "fern"} other {# ferns & more}}</p><ul><li>'{'x'}'</li></ul>`;
    const shown = toEditor(source, "html") as string;
    expect(shown).toContain('<span data-token="name" data-source="{name}"></span>');
    expect(shown).toContain("<p>It's <span");
    expect(shown).toContain("{x}");
    expect(toEditor(fromHtml(shown), "html")).toBe(shown);
  });
  it("of nothing but an empty paragraph is empty", () => {
    expect(fromHtml("<p></p>")).toBe("");
    expect(fromHtml("<p></p><p></p>")).toBe("");
    expect(fromHtml("<p>a</p>")).toBe("<p>a</p>");
  });
  it("with a value within a tag is shown as written", () => {
    expect(toEditor('<a href="{link}">x</a>', "html")).toBeUndefined();
  });
});
