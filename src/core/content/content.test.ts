import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, visit } from "../testing";
import { cleanHtml, cleanHtmlReport, cleanText, isSafeLink } from "./clean";
import { cleanedText, textProblem } from "./author";
import {
  quoteText,
  readMessage,
  tokenFormat,
  tokenName,
  tokensInUse,
  tokenSource,
  writeMessage,
  type Piece,
  type TokenFormat,
} from "./message";

const fields = [
  { id: "line", name: "Line", kind: "line" },
  { id: "html", name: "Html", kind: "html" },
  { id: "link", name: "Link", kind: "link" },
  { id: "image", name: "Image", kind: "image" },
];
/** The fields of a block as they come out for a visit. */
const filled = (values: Record<string, unknown>, tokens = {}, parts = {}) => {
  const content = { type: "b", fields: values, tokens };
  const engine = createEngine(
    ruleset({
      blockTypes: [{ id: "b", name: "B", fields }],
      slots: [{ id: "s", name: "S", fallback: content }],
    }),
  );
  return engine.decide(visit(parts)).slots.s?.[0]?.content?.fields ?? {};
};
const name = { name: { signal: "query.n", fallback: "there" } };
const asking = (value: string) => ({ url: `https://shop.example/?n=${encodeURIComponent(value)}` });

describe("texts that come to a page", () => {
  it("have no script in any form, and keep plain formatting", () => {
    expect(filled({ html: "<p>Hi <strong>you</strong></p>" }).html).toBe("<p>Hi <strong>you</strong></p>");
    expect(filled({ html: `<img src=x onerror="alert(1)"><script>alert(1)</script>ok` }).html).toBe(
      `<img src="x" />ok`,
    );
    expect(filled({ html: `<a href="javascript:alert(1)">a</a><a href="/b" onclick="x()">b</a>` }).html).toBe(
      `<a>a</a><a href="/b">b</a>`,
    );
    expect(filled({ html: "<p>unclosed <em>tag" }).html).toBe("<p>unclosed <em>tag</em></p>");
  });
  it("never take a stranger's text as markup", () => {
    expect(filled({ html: "<p>Hello {name}</p>" }, name, asking("<script>alert(1)</script>")).html).toBe(
      "<p>Hello &lt;script&gt;alert(1)&lt;/script&gt;</p>",
    );
    // Even within an attribute, where a quote or a scheme would do harm.
    const inside = `<a href="{name}">x</a>`;
    expect(filled({ html: inside }, name, asking("javascript:alert(1)")).html).toBe("<a>x</a>");
    expect(filled({ html: inside }, name, asking(`/x" onclick="alert(1)`)).html).not.toMatch(/<a[^>]*" onclick=/);
    expect(filled({ line: "Hello {name}" }, name, asking("<b>")).line).toBe("Hello <b>");
  });
  it("lead only where a page may lead", () => {
    for (const link of ["/ferns", "https://x.example/", "mailto:a@x.example", "tel:+351555010101", "#top"])
      expect(filled({ link }).link).toBe(link);
    for (const link of [
      "javascript:alert(1)",
      "java\nscript:alert(1)",
      " javascript:alert(1)",
      "data:text/html,x",
      "vbscript:x",
    ])
      expect(filled({ link }).link).toBe("");
    expect(filled({ image: { src: "javascript:alert(1)", alt: "x" } }).image).toEqual({ src: "", alt: "x" });
    expect(filled({ image: "data:image/svg+xml,<svg>" }).image).toBe("");
  });
  it("say what was taken out", () => {
    const report = cleanHtmlReport(`<p style="x" onclick="y">a</p><script>b</script><a href="javascript:c">d</a>`);
    expect(report.text).toBe("<p>a</p><a>d</a>");
    expect(report.removed).toEqual(["style", "onclick", "<script>", "the link javascript:c"]);
    expect(cleanText("safe\u202Egpj.exe\u0007")).toEqual({
      text: "safegpj.exe",
      removed: ["marks that turn the reading direction", "control characters"],
    });
    expect(cleanText("plain, mañana, 中文, עברית")).toEqual({ text: "plain, mañana, 中文, עברית", removed: [] });
  });
  it("are clean once and for all", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (text) => {
        const once = cleanHtml(`<p>${text}</p>`);
        return cleanHtml(once) === once;
      }),
    );
    expect(isSafeLink("//elsewhere.example/")).toBe(true);
    expect(isSafeLink("https://[")).toBe(false);
  });
});

describe("what an author writes", () => {
  it("is refused in words where a field cannot have it", () => {
    expect(textProblem("Hello {name}", "line")).toBeUndefined();
    expect(textProblem("Hello {name", "line")).toContain("not understood as a value");
    expect(textProblem("x".repeat(20_001), "text")).toBe("This is too long: 20,001 characters, at most 20,000");
    expect(textProblem("two\nlines", "line")).toBe("This must be one line");
    expect(textProblem("two\nlines", "text")).toBeUndefined();
    for (const link of ["", "/ferns", "#top", "https://x.example/{q}", "mailto:a@b.example", "tel:+351"])
      expect(textProblem(link, "link")).toBeUndefined();
    for (const link of ["javascript:x", "//elsewhere.example", "{url}", "data:text/html,x", "ferns"])
      expect(textProblem(link, "link")).toContain("A link begins with");
  });
  it("is cleaned by its kind", () => {
    expect(cleanedText("<b>x</b><script>y</script>", "html")).toEqual({ text: "<b>x</b>", removed: ["<script>"] });
    expect(cleanedText("<b>x</b>", "line")).toEqual({ text: "<b>x</b>", removed: [] });
  });
});

describe("a message taken apart for an editor", () => {
  const piece: fc.Arbitrary<Piece> = fc.oneof(
    fc
      .string({ unit: fc.constantFrom("a", " ", "'", "{", "}", "#", "\n", "é", "<"), minLength: 1 })
      .map((text) => ({ text })),
    fc.constantFrom<Piece>(
      { token: "n", source: "{n}" },
      { token: "n", source: "{n, plural, one {# item} other {# items}}" },
      { token: "n", source: "{n, number, ::currency/EUR}" },
    ),
  );
  it("is put together again as it was", () => {
    fc.assert(
      fc.property(fc.array(piece), (pieces) => {
        const message = writeMessage(pieces);
        const read = readMessage(message);
        expect(read).toBeDefined();
        expect(writeMessage(read ?? [])).toBe(message);
        const texts = (list: readonly Piece[]) =>
          list.map((item) => ("text" in item ? item.text : `[${item.source}]`)).join("");
        expect(texts(read ?? [])).toBe(texts(pieces));
      }),
    );
  });
  it("quotes a text so that it reads as itself", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom("a", "'", "{", "}", "#", "|", "<") }), (text) => {
        expect(filled({ line: quoteText(text) }).line).toBe(text);
      }),
    );
  });
  it("cannot be read when broken, and has no pieces when empty", () => {
    expect(readMessage("Hello {name")).toBeUndefined();
    expect(readMessage("")).toEqual([]);
  });
  it("writes tokens by kind", () => {
    expect(tokenSource("n", { as: "count", one: "# {fern}", other: "# ferns" })).toBe(
      "{n, plural, one {# '{'fern'}'} other {# ferns}}",
    );
    expect(tokenSource("n", { as: "amount", currency: "EUR" })).toBe("{n, number, ::currency/EUR}");
    expect(tokenSource("n", { as: "date", style: "long" })).toBe("{n, date, long}");
  });
  it("reads back how a token is written, unless it was written by hand", () => {
    const formats: TokenFormat[] = [
      { as: "text" },
      { as: "number" },
      { as: "percent" },
      { as: "amount", currency: "EUR" },
      { as: "date", style: "short" },
      { as: "date", style: "long" },
      { as: "count", one: "one {fern}", other: "it's # ferns" },
    ];
    for (const format of formats) expect(tokenFormat("n", tokenSource("n", format))).toEqual(format);
    expect(tokenFormat("n", "{n,  number,::currency/JPY}")).toEqual({ as: "amount", currency: "JPY" });
    for (const byHand of [
      "{n, plural, =0 {none} one {# x} other {# y}}",
      "{n, select, a {b} other {c}}",
      "{n, plural, one {{m}} other {#}}",
      "{n, time}",
    ])
      expect(tokenFormat("n", byHand)).toBeUndefined();
  });
  it("names tokens after their signal, and drops those that no text has", () => {
    const content = { type: "b", fields: {}, tokens: { first_name: { signal: "query.other" } } };
    expect(tokenName("query.first_name", content)).toBe("first_name_2");
    expect(tokenName("cart.toGo.spring-10", content)).toBe("spring_10");
    expect(
      tokensInUse(
        { line: "{a} {b, plural, other {{c}}}" },
        { a: { signal: "x" }, c: { signal: "y" }, d: { signal: "z" } },
      ),
    ).toEqual({ a: { signal: "x" }, c: { signal: "y" } });
  });
});
