/** Odd corners of what a visit gets: unknowns that hold, the page's own content, texts and dates that do not fit, strange ids. */
import { describe, expect, it } from "vitest";
import { signalDocument, toJsonLogic } from "../exchange/json-logic";
import { readRuleset } from "../ruleset/check";
import { ruleText } from "../rules/sentence";
import { engineOf, problemsOf, ruleset, site, truth, variant, visit } from "../testing";
import { createEngine } from "./engine";

const portugal = { signal: "place", op: "isIn", value: [{ country: "PT" }] };
const lisbon = { signal: "place", op: "isIn", value: [{ country: "PT", city: "Lisbon" }] };

describe("a condition that holds where it is not known", () => {
  const or = { ...portugal, unknown: true };
  it("is true there, and nowhere else than without it", () => {
    expect(truth(portugal)).toBe("unknown");
    expect(truth(or)).toBe("true");
    expect(truth(or, { place: { country: "PT" } })).toBe("true");
    expect(truth(or, { place: { country: "ES" } })).toBe("false");
    expect(truth({ none: [or] })).toBe("false");
    expect(truth({ ...portugal, unknown: false })).toBe("unknown");
    // A place of which only the country is known counts as unknown, too.
    expect(truth(lisbon, { place: { country: "PT" } })).toBe("unknown");
    expect(truth({ ...lisbon, unknown: true }, { place: { country: "PT" } })).toBe("true");
    expect(truth({ signal: "history.views", op: "gt", value: 3, unknown: true })).toBe("true");
    expect(truth({ signal: "device.kind", op: "is", value: "phone", unknown: true })).toBe("true");
    expect(truth({ signal: "device.kind", op: "isKnown", unknown: true })).toBe("false");
    expect(truth({ signal: "time", op: "within", value: { zone: "visitor", days: ["MO"] }, unknown: true })).toBe(
      "true",
    );
  });
  it("the trace says both: that it holds, and that it is not known", () => {
    for (const [rule, parts] of [
      [or, {}],
      [{ ...lisbon, unknown: true }, { place: { country: "PT" } }],
    ] as const) {
      const decision = engineOf({ v: rule }).decide(visit(parts), { trace: true });
      expect(decision.slots.s).toMatchObject([{ variant: "v" }]);
      expect(decision.trace?.slots[0]?.variants[0]?.rule).toMatchObject({
        verdict: "true",
        actual: { state: "unknown" },
      });
    }
  });
  it("reads so, and goes out as JsonLogic with the same answers", () => {
    const made = ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          variants: [variant("v", { any: [or, { none: [{ ...portugal, unknown: true }] }] }), variant("w", or)],
        },
      ],
    });
    expect(ruleText(or as never, made)).toBe("the visitor is in Portugal (or it is not known)");
    const exported = toJsonLogic(made);
    expect(exported.conditions).toEqual([]);
    const engine = createEngine(made);
    expect(signalDocument(engine, visit(), exported)).toMatchObject({ place: { state: "unknown" } });
  });
  it("is refused where it is no flag", () => {
    expect(problemsOf({ audiences: [{ id: "a", name: "A", rule: { ...portugal, unknown: "yes" } }] })).toEqual([
      "/audiences/0/rule/unknown kind",
    ]);
  });
});

describe("where a slot is on the page", () => {
  const at = (place: unknown) => problemsOf({ slots: [{ id: "s", name: "S", at: place }] });
  it("is a selector and what becomes of it", () => {
    expect(ruleset({ slots: [{ id: "s", name: "S", at: { selector: "main .hero" } }] }).slots[0]?.at).toEqual({
      selector: "main .hero",
      how: "replace",
    });
    for (const how of ["replace", "before", "after", "first", "last"])
      expect(at({ selector: "main", how })).toEqual([]);
  });
  it("is refused where it is none", () => {
    expect(at({ selector: "main [" })).toEqual(["/slots/0/at/selector form"]);
    expect(at({ selector: `a${" a".repeat(300)}` })).toEqual(["/slots/0/at/selector form"]);
    expect(at({ selector: "main", how: "inside" })).toEqual(["/slots/0/at/how choice"]);
    expect(at({ selector: "main", x: 1 })).toEqual(["/slots/0/at/x unknown-key"]);
    expect(at({ how: "first" })).toEqual(["/slots/0/at/selector missing"]);
  });
});

describe("what the page itself has", () => {
  const own = (changes: unknown, tokens = {}) => ({ type: "@own", fields: { changes }, tokens });
  const slot = (content: unknown, more = {}) => ({
    slots: [
      { id: "s", name: "S", variants: [variant("v", null, { arms: [{ id: "a", weight: 100, content }] })], ...more },
    ],
  });
  const there = "/slots/0/variants/0/arms/0/content";
  const shown = (content: unknown, parts = {}) =>
    createEngine(ruleset(slot(content))).decide(visit(parts), { trace: true });
  it("comes with its changes, texts and links filled in", () => {
    const tokens = { name: { signal: "query.n", fallback: "there" } };
    const content = own(
      [
        { part: "h1", was: "Rooms", text: "Hello {name}" },
        { part: "a.cta", link: "/x/{name}" },
        { part: "img", image: { src: "https://a.example/b.png", alt: "B" } },
        { part: ".badge", hidden: true },
        { part: "", text: "whole" },
      ],
      tokens,
    );
    expect(shown(content, { url: "https://shop.example/?n=A%26B" }).slots.s?.[0]?.content).toEqual({
      type: "@own",
      fields: {
        changes: [
          { part: "h1", was: "Rooms", text: "Hello A&B" },
          { part: "a.cta", link: "/x/A%26B" },
          { part: "img", image: { src: "https://a.example/b.png", alt: "B" } },
          { part: ".badge", hidden: true },
          { part: "", text: "whole" },
        ],
      },
    });
  });
  it("leaves a change out whose token is missing, and says so; links and pictures that lead to script come out empty", () => {
    const content = own(
      [
        { part: "h1", text: "{name}" },
        { part: "a", link: "javascript:alert(1)" },
        { part: "img", image: { src: "data:text/html,x" } },
      ],
      { name: { signal: "query.n" } },
    );
    const decision = shown(content);
    expect(decision.slots.s?.[0]?.content?.fields).toEqual({
      changes: [
        { part: "a", link: "" },
        { part: "img", image: { src: "" } },
      ],
    });
    expect(decision.trace?.slots[0]?.missing).toEqual([
      { field: "changes/0/text", token: "name", took: "left out", variant: "v" },
    ]);
  });
  it("may be hidden, and may be the fallback", () => {
    expect(shown({ type: "@hidden" }).slots.s?.[0]?.content).toEqual({ type: "@hidden", fields: {} });
    const made = ruleset({ slots: [{ id: "s", name: "S", fallback: { type: "@hidden" } }] });
    expect(createEngine(made).decide(visit()).slots.s).toEqual([
      { variant: null, arm: null, content: { type: "@hidden", fields: {} } },
    ]);
  });
  it("is refused in lists and pop-ups, and where it says nothing, too much or nonsense", () => {
    const refused = (content: unknown) => problemsOf(slot(content));
    expect(problemsOf(slot({ type: "@hidden" }, { take: 2 }))).toEqual([`${there}/type not-here`]);
    expect(
      problemsOf({
        popups: [
          {
            id: "p",
            name: "P",
            arms: [{ id: "a", weight: 100, content: own([{ part: "h1", hidden: true }]) }],
            opensAfter: { seconds: 1 },
            size: { width: 1, height: 1 },
          },
        ],
      }),
    ).toEqual(["/popups/0/arms/0/content/type not-here"]);
    expect(refused(own([]))).toEqual([`${there}/fields/changes empty`]);
    expect(refused({ type: "@own" })).toEqual([`${there}/fields/changes missing`]);
    expect(refused(own([{ part: "h1" }]))).toEqual([`${there}/fields/changes/0 missing`]);
    expect(refused(own([{ part: "h1", text: "a", hidden: true }]))).toHaveLength(1);
    expect(refused(own([{ part: "h1", hidden: false }]))).toEqual([`${there}/fields/changes/0/hidden choice`]);
    expect(refused(own([{ part: "h1 [", text: "a" }]))).toEqual([`${there}/fields/changes/0/part form`]);
    expect(refused(own([{ text: "a" }]))).toEqual([`${there}/fields/changes/0/part missing`]);
    expect(refused(own([{ part: "h1", text: "{" }]))).toEqual([`${there}/fields/changes/0/text form`]);
    expect(refused(own([{ part: "h1", text: "a", x: 1 }]))).toEqual([`${there}/fields/changes/0/x unknown-key`]);
    expect(refused({ ...own([{ part: "h1", text: "a" }]), tokens: { n: { signal: "nothing" } } })).toEqual([
      `${there}/tokens/n/signal unknown-name`,
    ]);
    expect(refused({ type: "@hidden", fields: { x: 1 } })).toEqual([`${there}/fields/x not-here`]);
    expect(refused({ type: "@other" })).toEqual([`${there}/type unknown-name`]);
    expect(readRuleset({ format: "mirada-ruleset/1", site, blockTypes: [{ id: "@own", name: "Own" }] }).ok).toBe(false);
  });
});

describe("values in texts", () => {
  const said = (text: string, token: object, parts = {}, more = {}) => {
    const content = { type: "b", fields: { line: text }, tokens: { t: token } };
    const made = ruleset({
      blockTypes: [{ id: "b", name: "B", fields: [{ id: "line", name: "L", kind: "line" }] }],
      slots: [{ id: "s", name: "S", fallback: content }],
      ...more,
    });
    return createEngine(made).decide(visit(parts)).slots.s?.[0]?.content?.fields.line;
  };
  const asked = (value: string) => ({ url: `https://shop.example/?t=${encodeURIComponent(value)}` });
  it("an empty value, or one of white space, takes the fallback", () => {
    for (const value of ["", "  ", "\t", "\u00a0"])
      expect(said("{t}, here", { signal: "query.t", fallback: "there" }, asked(value))).toBe("there, here");
    expect(said("{t}", { signal: "query.t" }, asked(" "))).toBe("");
  });
  it("a fallback is written as it is where a number, an amount or a date would stand", () => {
    const toGo = { signal: "cart.subtotal", fallback: "a little" };
    expect(said("Only {t, number, ::currency/EUR} to go", toGo)).toBe("Only a little to go");
    expect(said("Only {t, number} to go", { ...toGo, fallback: "1234.5" })).toBe("Only 1,234.5 to go");
    expect(said("{t, plural, one {# fern} other {# ferns}}", { signal: "query.t", fallback: "2" }, asked("many"))).toBe(
      "2 ferns",
    );
    expect(said("{t, plural, one {# fern} other {# ferns}}", { signal: "query.t", fallback: "2" }, asked("1"))).toBe(
      "1 fern",
    );
    const born = { signal: "data.born", fallback: "one day" };
    expect(said("On {t, date, long}", born, {}, { dataFields: [{ signal: "data", name: "born", kind: "date" }] })).toBe(
      "On one day",
    );
  });
  it("dates are those of the site's zone, whatever the zone, and medium without a style", () => {
    const born = { signal: "data.born" };
    for (const zone of ["UTC", "Pacific/Kiritimati", "Pacific/Auckland", "Pacific/Pago_Pago", "America/St_Johns"]) {
      const more = { dataFields: [{ signal: "data", name: "born", kind: "date" }], site: { ...site, zone } };
      const told = { data: { born: "2026-03-01" } };
      expect([zone, said("{t, date, short}", born, told, more)]).toEqual([zone, "3/1/26"]);
      expect([zone, said("{t, date}", born, told, more)]).toEqual([zone, "Mar 1, 2026"]);
      expect([zone, said("{t}", born, told, more)]).toEqual([zone, "Mar 1, 2026"]);
    }
  });
  it("a number without a format is grouped as the language does", () => {
    const more = { dataFields: [{ signal: "data", name: "n", kind: "number" }] };
    expect(said("{t}", { signal: "data.n" }, { data: { n: 12345.5 } }, more)).toBe("12,345.5");
    expect(
      said("{t}", { signal: "data.n" }, { data: { n: 12345.5 } }, { ...more, site: { ...site, language: "de" } }),
    ).toBe("12.345,5");
  });
});

describe("strange ids and texts", () => {
  it("a slot may be called __proto__, and answers", () => {
    const made = ruleset({ slots: [{ id: "__proto__", name: "P", variants: [variant("v")] }] });
    const decision = createEngine(made).decide(visit());
    expect(Object.keys(decision.slots)).toEqual(["__proto__"]);
    expect(JSON.stringify(decision.slots)).toContain('"__proto__":[{"variant":"v"');
  });
  it("half a surrogate pair breaks nothing, wherever it comes from", () => {
    const half = "a\ud800b";
    const link = { type: "b", fields: { link: "/x/{t}" }, tokens: { t: { signal: "cookie.c" } } };
    const made = ruleset({
      blockTypes: [{ id: "b", name: "B", fields: [{ id: "link", name: "L", kind: "link" }] }],
      slots: [{ id: "s", name: "S", fallback: link }],
      redirects: [{ id: "r", name: "R", rule: { signal: "cookie.go", op: "isPresent" }, to: "/{city}" }],
    });
    const engine = createEngine(made);
    expect(engine.decide(visit({ cookies: { c: half } })).slots.s?.[0]?.content?.fields.link).toBe("/x/a%EF%BF%BDb");
    expect(
      engine.decide(visit({ cookies: { go: "1" }, place: { country: "PT", city: half } })).redirect?.location,
    ).toBe("https://shop.example/a%EF%BF%BDb");
  });
  it("empty text is as if not told", () => {
    const seen = visit({ visitorId: "", userAgent: "", referrer: "", ip: "", zone: "", acceptLanguage: "" });
    expect(Object.keys(seen).sort()).toEqual(["acceptLanguage", "at", "url"]);
  });
  it("a referrer without a host has neither address nor host", () => {
    for (const referrer of ["about:blank", "mailto:a@b.example", "file:///x"])
      for (const signal of ["referrer.url", "referrer.host"])
        expect(truth({ signal, op: "isAbsent" }, { referrer })).toBe("true");
    expect(truth({ signal: "referrer.kind", op: "is", value: "other" }, { referrer: "about:blank" })).toBe("true");
  });
  it("a landing path of any length stays in memory; a category of a long name counts", () => {
    const path = `/${"a".repeat(4000)}`;
    const engine = engineOf({});
    const { memory } = engine.decide(
      visit({ url: `https://shop.example${path}`, consent: true, page: { category: "c".repeat(300) } }),
    );
    const next = visit({ at: "2026-11-24T10:20:00Z", consent: true, memory });
    expect(engine.read(next).history?.landing).toBe(path);
    const short = engine.decide(visit({ consent: true, page: { category: "c".repeat(300) } })).memory;
    expect(
      engine
        .read(visit({ at: "2026-11-24T10:20:00Z", consent: true, memory: short }))
        .history?.categories.get("c".repeat(300)),
    ).toBe(1);
  });
  it("a variant whose rule holds, in a slot that is on another page, is not called false", () => {
    const made = ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          pages: { signal: "page.path", op: "is", value: "/x" },
          variants: [variant("v"), variant("w", portugal), variant("off", null, { on: false })],
        },
      ],
    });
    const trace = createEngine(made).decide(visit({ place: { country: "ES" } }), { trace: true }).trace?.slots[0];
    expect(trace?.variants.map((item) => item.verdict)).toEqual(["not on this page", "rule false", "off"]);
  });
});
