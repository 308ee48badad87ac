import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, variant } from "../testing";
import { expectedValues, linkSources, tagsFor } from "./expected";
import { tagNotes, unfed } from "./judge";
import { encodeValue, inOrder, linkSchema, linkText, queryText, readLink, type CampaignLink } from "./link";
import { linksFromCsv, linksToCsv } from "./sheet";

const when = (signal: string, op: string, value?: unknown, more = {}) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
  ...more,
});
const rules = ruleset({
  wordParameters: ["kw", "utm_term"],
  audiences: [{ id: "letter", name: "Letter", rule: when("campaign.source", "is", "postbox") }],
  slots: [
    {
      id: "hero",
      name: "Hero",
      variants: [
        variant("winter", { all: [{ audience: "letter" }, when("campaign.name", "is", "winter-light")] }),
        variant("shade", when("search.words", "hasAnyWord", "shade dark")),
        variant("quiz", {
          all: [when("query.choice", "isPresent"), { none: [when("campaign.source", "is", "spam")] }],
        }),
        variant("cafe", when("campaign.content", "is", "café")),
      ],
    },
  ],
});
const origin = "https://shop.example";
const link = (tags: Record<string, string>, more: Partial<CampaignLink> = {}): CampaignLink => ({
  id: "l",
  name: "L",
  path: "/",
  tags: Object.entries(tags).map(([name, value]) => ({ name, value })),
  part: "",
  note: "",
  usedBy: "",
  ...more,
});

describe("a campaign link", () => {
  it("is written with what it carries encoded, and placeholders as they are", () => {
    const made = link(
      { utm_source: "finder", utm_term: "{keyword}", utm_content: "a & b/{{ad.id}}-é", gift: "%%id%%" },
      { part: "top" },
    );
    expect(linkText(made, origin)).toBe(
      "https://shop.example/?utm_source=finder&utm_term={keyword}&utm_content=a%20%26%20b%2F{{ad.id}}-%C3%A9&gift=%%id%%#top",
    );
    expect(queryText([{ name: "empty", value: "" }])).toBe("");
    expect(encodeValue("[x] ${y} *|Z|*")).toBe("[x]%20${y}%20*|Z|*");
  });
  it("is read as browsers read it, whatever is in it (WHATWG URL)", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.string({ unit: "grapheme", minLength: 1 }), fc.string({ unit: "grapheme", minLength: 1 })),
        ),
        (pairs) => {
          const tags = pairs
            .filter(([name, value]) => !/[{}[\]%*]/.test(name + value))
            .map(([name, value]) => ({ name, value }));
          const url = new URL(linkText({ path: "/x", tags, part: "" }, origin));
          expect([...url.searchParams]).toEqual(tags.map((tag) => [tag.name, tag.value]));
          expect(readLink(url.href)?.tags).toEqual(tags);
        },
      ),
    );
  });
  it("is read from a whole address, a path, or the part after ? alone", () => {
    expect(readLink("https://shop.example/ferns?utm_source=a+b&x#top")).toEqual({
      origin,
      path: "/ferns",
      tags: [
        { name: "utm_source", value: "a b" },
        { name: "x", value: "" },
      ],
      part: "top",
    });
    expect(readLink("?utm_term={keyword}")).toMatchObject({
      path: "",
      tags: [{ name: "utm_term", value: "{keyword}" }],
    });
    expect(readLink("utm_source=a&b=%ZZ")?.tags).toEqual([
      { name: "utm_source", value: "a" },
      { name: "b", value: "%ZZ" },
    ]);
    for (const none of ["", "hello", "two words", "ftp://x/"]) expect(readLink(none)).toBeUndefined();
  });
  it("leads to a page of the site only", () => {
    const path = (text: string) => linkSchema.safeParse(link({}, { path: text })).success;
    expect(["/", "/ferns/x", "/a%20b"].map(path)).toEqual([true, true, true]);
    expect(["", "ferns", "//evil.example", "/\\evil", "/a b", "/a?b", "https://x/"].some(path)).toBe(false);
  });
});

describe("what rules expect", () => {
  it("is offered as the rules spell it", () => {
    expect(expectedValues("utm_source", rules)).toEqual(["postbox"]);
    expect(expectedValues("utm_campaign", rules)).toEqual(["winter-light"]);
  });
  it("makes a link that shows the variant", () => {
    const engine = createEngine(rules);
    for (const { owner, tags } of linkSources(rules)) {
      const decision = engine.decide({
        at: "2026-11-24T10:00:00Z",
        url: linkText(link({}, { tags: inOrder(tags) }), origin),
      });
      expect(decision.slots.hero?.[0]?.variant).toBe(owner.id);
    }
    expect(tagsFor({ none: [when("campaign.source", "is", "x") as never] }, rules)).toEqual([]);
  });
});

describe("links beside rules", () => {
  const notes = (tags: Record<string, string>, others: Record<string, string> = {}) =>
    tagNotes(link(tags).tags, rules, link(others).tags).map(({ tag, says, like }) => [tag, says, like]);
  it("says which tag no rule asks for, and which value none knows", () => {
    expect(notes({ utm_source: "postbox", utm_campaign: "winter-light" })).toEqual([]);
    expect(notes({ utm_medium: "email" })).toEqual([["utm_medium", "unasked", undefined]]);
    expect(notes({ Choice: "a" })).toEqual([["Choice", "unasked", "choice"]]);
    expect(notes({ utm_campaign: "summer" })).toEqual([["utm_campaign", "unknown", undefined]]);
    expect(notes({ utm_campaign: "{campaign}", choice: "anything" })).toEqual([]);
  });
  it("says what differs only by case, accent or strokes", () => {
    expect(notes({ utm_source: "PostBox" })).toEqual([["utm_source", "case", "postbox"]]);
    expect(notes({ utm_content: "cafe" })).toEqual([["utm_content", "near", "café"]]);
    expect(notes({ utm_campaign: "winter_light" })).toEqual([["utm_campaign", "near", "winter-light"]]);
    expect(notes({ utm_medium: "E-Mail" }, { utm_medium: "e-mail" })).toEqual([["utm_medium", "case", "e-mail"]]);
  });
  it("says which rules no link feeds, and what comes near", () => {
    const waiting = unfed([link({ utm_source: "postbox", utm_campaign: "Winter light" })], rules);
    expect(waiting.map((item) => [item.owner.id, item.tag, item.like])).toEqual([
      ["winter", "utm_campaign", "Winter light"],
      ["quiz", "choice", undefined],
      ["cafe", "utm_content", undefined],
    ]);
    expect(
      unfed([link({ utm_source: "postbox", utm_campaign: "WINTER-LIGHT", utm_content: "café", choice: "x" })], rules),
    ).toEqual([]);
  });
});

describe("links as a table", () => {
  const text = fc
    .string({ unit: "grapheme", minLength: 1, maxLength: 20 })
    .map((item) => item.trim())
    .filter((item) => item !== "" && !/[\r\n'{}[\]%*|$]/.test(item));
  it("come back as they went out", () => {
    const one = fc.record({ name: text, value: text, note: text, other: text });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 5 }), (items) => {
        const links = items.map((item, index) =>
          link(
            { utm_source: item.value, [`p${index}`]: item.other },
            { id: `l-${index}`, name: item.name, note: item.note, path: "/ferns" },
          ),
        );
        expect(linksFromCsv(linksToCsv(links, origin))).toEqual({ links });
      }),
    );
  });
  it("are read from whole links, and get ids of their names", () => {
    const read = linksFromCsv(
      "\uFEFFname,link\r\nÄ letter,https://shop.example/ferns?utm_source=postbox\r\nÄ letter,/?a=1\r\n",
    );
    expect("links" in read && read.links.map(({ id, path, tags }) => [id, path, tags[0]?.name])).toEqual([
      ["a-letter", "/ferns", "utm_source"],
      ["a-letter-2", "/", "a"],
    ]);
  });
  it("are refused as a whole where something is wrong, each by line and column", () => {
    const problems = (csv: string) => {
      const read = linksFromCsv(csv);
      return "problems" in read ? read.problems.map((item) => `${item.path}: ${item.code}`) : [];
    };
    expect(problems("name,page,colour\nA,/,red\n")).toEqual(["line 1, column 3: unknown-key"]);
    expect(problems("page\n/\n")).toEqual(["line 1: missing"]);
    expect(problems("")).toEqual(["line 1: missing"]);
    expect(problems('name,page\n"A\nB",/\nC,ferns\n,/\n')).toEqual([
      "line 4, column page: form",
      "line 5, column name: empty",
    ]);
    expect(problems("name,page\nA,/,x\n")).toEqual(["line 2, column 3: size"]);
    expect(problems('name,page\n"A,/\n')).toEqual(["line 2: form"]);
  });
});
