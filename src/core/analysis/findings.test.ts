import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import type { Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import { ruleset, variant, visit } from "../testing";
import { allFindings, isFault, standingOf, type Finding } from "./findings";
import { ruleNotes } from "./notes";
import { nearestChange, someoneWho } from "./reach";

const from = Date.UTC(2026, 10, 24, 10);
const when = (signal: string, op: string, value?: unknown): Rule =>
  ({ signal, op, ...(value === undefined ? {} : { value }) }) as Rule;
const source = (value: string) => when("campaign.source", "is", value);
const slotOf = (rules: Record<string, unknown>, more: Record<string, unknown> = {}) => ({
  id: "s",
  name: "Hero",
  variants: Object.entries(rules).map(([id, rule]) => variant(id, rule)),
  ...more,
});
const find = (parts: Record<string, unknown>): Finding[] => allFindings({ ruleset: ruleset(parts), from });
const kinds = (parts: Record<string, unknown>) =>
  find(parts).map((item) =>
    `${item.finding} ${item.variant ?? item.about?.id ?? ""}${item.other ? ` ${item.other}` : ""}`.trim(),
  );

describe("findings", () => {
  it("tell what nobody sees, what is always beaten and by whom, what meets, and what is empty", () => {
    const phone = when("device.kind", "is", "phone");
    const found = kinds({
      slots: [
        slotOf({
          a: source("x"),
          never: { all: [source("x"), source("y")] },
          beaten: { all: [source("x"), phone] },
          meets: phone,
        }),
      ],
    });
    expect(found).toEqual(
      expect.arrayContaining(["never-shown never", "always-beaten beaten a", "overlap meets a", "gap"]),
    );
    expect(found.filter((item) => item.startsWith("never-shown"))).toHaveLength(1);
  });
  it("tell for whom alone a variant is left", () => {
    const rules = {
      a: { all: [when("device.kind", "is", "phone"), when("cookie.c", "isAbsent")] },
      b: when("device.kind", "is", "phone"),
    };
    const [but] = find({ slots: [slotOf(rules)] }).filter((item) => item.finding === "beaten-but");
    expect(but).toMatchObject({ variant: "b", other: "a" });
    expect(but?.witness?.cookies).toHaveProperty("c");
  });
  it("come with visits that the engine confirms", () => {
    const parts = { slots: [slotOf({ a: source("x"), b: when("query.q", "contains", "z") })] };
    const engine = createEngine(ruleset(parts));
    // Both must be found: a list without them would confirm nothing.
    const shown = find(parts).map((item) => [
      item.finding,
      item.witness && engine.decide(item.witness).slots.s?.[0]?.variant,
    ]);
    expect(Object.fromEntries(shown)).toEqual({ overlap: "a", gap: null });
  });
  it("tell windows that clock changes shorten or lengthen, and slips of the pen", () => {
    const found = find({
      slots: [
        slotOf({
          night: when("time", "within", { zone: "site", days: ["SU"], windows: [{ start: "00:30", end: "02:30" }] }),
          star: source("news*"),
          bare: when("page.path", "matches", "/ferns"),
          one: source("Café"),
          two: source("cafe"),
        }),
      ],
    });
    expect(found.filter((item) => item.finding === "clock-change").map((item) => item.variant)).toContain("night");
    expect(found.filter((item) => item.finding === "slip").map((item) => item.variant)).toEqual([
      "star",
      "bare",
      "two",
    ]);
  });
  it("tell redirects that go round, pop-ups that never open, audiences within others", () => {
    const go = (id: string, path: string, to: string) => ({ id, name: id, rule: when("page.path", "is", path), to });
    const popup = (id: string, rule: unknown, cap?: unknown) => ({
      id,
      name: id,
      rule,
      arms: [{ id: "a", weight: 100, content: null }],
      opensAfter: { seconds: 1 },
      size: { width: 1, height: 1 },
      ...(cap ? { cap } : {}),
    });
    const found = kinds({
      redirects: [go("a", "/a", "/b"), go("b", "/b", "/a"), go("c", "/c", "https://elsewhere.example/")],
      popups: [popup("all", null), popup("late", source("x")), popup("no", { all: [source("x"), source("y")] })],
      audiences: [
        { id: "big", name: "Big", rule: when("campaign.source", "isOneOf", ["x", "y"]) },
        { id: "small", name: "Small", rule: source("x") },
      ],
    });
    expect(found).toEqual(
      expect.arrayContaining([
        "loop a b",
        "loop b a",
        "popup-never late",
        "popup-never no",
        "audience-within small big",
      ]),
    );
    expect(found.some((item) => item.startsWith("loop c"))).toBe(false);
  });
  it("are silent about a slot in order", () => {
    const block = { blockTypes: [{ id: "t", name: "T" }] };
    expect(
      find({ ...block, slots: [slotOf({ a: source("x"), b: source("y") }, { fallback: { type: "t" } })] }),
    ).toEqual([]);
  });
});

describe("what findings say is so", () => {
  const kindsOf = (rule: unknown, parts: Record<string, unknown> = {}) =>
    kinds({ slots: [slotOf({ v: rule })], ...parts });
  const ten = { offers: [{ id: "ten", name: "Ten", label: "Ten", reward: { percent: 10 } }] };
  it.each<[string, unknown, Record<string, unknown>]>([
    ["days since the last visit", when("history.daysSinceLast", "lt", 5), {}],
    ["a part of the landing path", when("history.landing", "contains", "fern"), {}],
    ["a total beside an offer", when("cart.total", "gte", "20.00"), ten],
    [
      "a place but for a country and a circle",
      when("place", "isNotIn", [{ country: "PT" }, { lat: 41.15, lon: -8.61, km: 200 }]),
      {},
    ],
    [
      "a place outside a circle, in a region",
      {
        all: [
          when("place", "isNotIn", [{ lat: 41.15, lon: -8.61, km: 200 }]),
          when("place", "isIn", [{ country: "BR", region: "BR-SP" }]),
        ],
      },
      {},
    ],
    [
      "the cart's money in another currency",
      { all: [when("cart.count", "isKnown"), { none: [when("cart.subtotal", "isKnown")] }] },
      {},
    ],
    ["words of a host", when("referrer.host", "hasAllWords", "shade fern"), {}],
    [
      "a hint that makes a desktop a phone",
      { all: [when("device.kind", "is", "phone"), when("device.os", "is", "windows")] },
      {},
    ],
  ])("ordinary visitors are not called impossible: %s", (_, rule, parts) => {
    expect(kindsOf(rule, parts).filter((kind) => /never/.test(kind))).toEqual([]);
  });
  it("what was not found is no fault, and says in how many tries", () => {
    const nowhere = {
      all: [when("place", "isIn", [{ lat: 0, lon: 0, km: 1 }]), when("place", "isIn", [{ lat: 50, lon: 50, km: 1 }])],
    };
    const [never] = find({
      slots: [slotOf({ v: nowhere }, { fallback: { type: "t" } })],
      blockTypes: [{ id: "t", name: "T" }],
    });
    expect(never).toMatchObject({ finding: "never-shown", proof: "searched" });
    expect(never?.says).toMatch(/No visitor who sees “v” in Hero was found in [\d,]{5,} tries\./);
    expect([isFault(never!), standingOf(never!)]).toEqual([false, "not found"]);
    const [proven] = find({ slots: [slotOf({ v: { all: [source("a"), source("b")] } })] });
    expect([isFault(proven!), standingOf(proven!)]).toEqual([true, "proven"]);
  });
  it("witnesses are visits that no redirect takes away, and whole for offers", () => {
    const redirects = [{ id: "r", name: "R", rule: when("query.q", "isAbsent"), to: "https://other.example/" }];
    const parts = { redirects, slots: [slotOf({ a: source("x"), b: when("query.q", "contains", "z") })] };
    const engine = createEngine(ruleset(parts));
    const witnesses = find(parts).filter((item) => ["gap", "overlap"].includes(item.finding));
    expect(witnesses.map((item) => item.finding).sort()).toEqual(["gap", "overlap"]);
    for (const { witness } of witnesses) expect(engine.decide(witness!).redirect).toBeNull();
    const limit = when("cart.subtotal", "lte", "10.00");
    const offer = (more: object) => ({
      slots: [slotOf({ v: limit })],
      offers: [{ id: "o", name: "O", label: "O", reward: { percent: 10 }, threshold: "10.00", ...more }],
    });
    expect(kinds(offer({})).filter((kind) => kind.startsWith("offer-boundary"))).toHaveLength(1);
    expect(
      kinds(offer({ scope: { categories: ["ferns"] } })).filter((kind) => kind.startsWith("offer-boundary")),
    ).toHaveLength(1);
    expect(kinds(offer({ from: "2030-01-01T00:00" })).filter((kind) => kind.startsWith("offer-boundary"))).toEqual([]);
    expect(
      kinds(
        offer({
          rule: { all: [when("place", "isIn", [{ country: "PT" }]), when("place", "isIn", [{ country: "ES" }])] },
        }),
      ).filter((kind) => kind.startsWith("offer-boundary")),
    ).toEqual([]);
  });
  it("a redirect to the page it stands on is told", () => {
    const redirects = [{ id: "self", name: "Self", rule: when("page.path", "is", "/ferns"), to: "/ferns" }];
    expect(kinds({ redirects })).toContain("loop self self");
  });
});

describe("notes on one rule", () => {
  const says = (rule: Rule) => ruleNotes(rule, ruleset()).map((note) => `${note.kind} ${note.way.join(".")}`);
  it("point to what can never hold, what says nothing, and leave the rest alone", () => {
    expect(says({ all: [source("a"), source("b")] })).toEqual(["never "]);
    expect(says({ all: [source("a"), when("campaign.source", "isNot", "b")] })).toEqual(["idle 1"]);
    expect(says({ any: [source("a"), when("campaign.source", "isNot", "a")] })).toEqual(["idle "]);
    expect(says({ all: [source("a"), { signal: "campaign.source", op: "is" }] })).toEqual([]);
    expect(says({ all: [source("a"), when("device.kind", "is", "phone")] })).toEqual([]);
    expect(says(when("referrer.kind", "isPresent"))).toEqual(["idle "]);
  });
});

describe("reach", () => {
  const parts = {
    slots: [
      slotOf({
        tuesday: when("time", "within", { zone: "site", days: ["TU"] }),
        spain: {
          all: [when("place", "isIn", [{ country: "ES" }]), when("device.kind", "is", "phone"), source("mail")],
        },
      }),
    ],
  };
  const rules = ruleset(parts);
  const [slot] = rules.slots;
  it("finds someone who sees a variant or the fallback", () => {
    for (const wanted of [...slot!.variants, null]) {
      const solved = someoneWho({ ruleset: rules, from }, slot!, wanted);
      expect(solved.found && createEngine(rules).decide(solved.visit).slots.s?.[0]?.variant).toBe(wanted?.id ?? null);
    }
  });
  it("changes as little as can be, and keeps the rest of the visitor", () => {
    const here = visit({
      at: "2026-11-25T10:00:00Z",
      url: "https://shop.example/?utm_source=mail&x=1",
      cookies: { keep: "me" },
      place: { country: "PT" },
    });
    const change = nearestChange({ ruleset: rules, from }, here, slot!, slot!.variants[1]!);
    expect(change?.facets.sort()).toEqual(["device", "place"]);
    expect(change?.visit).toMatchObject({
      cookies: { keep: "me" },
      place: { country: "ES" },
      at: "2026-11-25T10:00:00.000Z",
    });
    expect(change?.visit.url).toContain("x=1");
  });

  it("is minimal on small cases, by trying everything", () => {
    // With a value besides those that rules name, so that the small domain stands for the whole.
    const values = {
      source: [undefined, "a", "b", "c"],
      cookie: [undefined, "1", "2"],
      country: [undefined, "PT", "ES", "FR"],
    } as const;
    const all: Visit[] = values.source.flatMap((utm) =>
      values.cookie.flatMap((cookie) =>
        values.country.map((country) =>
          visit({
            at: "2026-11-24T10:00:00Z",
            url: `https://shop.example/${utm ? `?utm_source=${utm}` : ""}`,
            ...(cookie ? { cookies: { c: cookie } } : {}),
            ...(country ? { place: { country } } : {}),
          }),
        ),
      ),
    );
    const facts = (item: Visit) => [item.url, item.cookies?.c, item.place?.country];
    const atom: fc.Arbitrary<Rule> = fc.constantFrom(
      source("a"),
      source("b"),
      when("campaign.source", "isNot", "a"),
      when("cookie.c", "is", "1"),
      when("cookie.c", "isAbsent"),
      when("place", "isIn", [{ country: "PT" }]),
      when("place", "isNotIn", [{ country: "ES" }]),
    );
    const rule = fc
      .tuple(fc.constantFrom("all", "any", "none"), fc.array(atom, { minLength: 1, maxLength: 3 }))
      .map(([group, members]) => ({ [group]: members }) as unknown as Rule);
    let compared = 0;
    fc.assert(
      fc.property(fc.array(rule, { minLength: 1, maxLength: 3 }), fc.nat(), (list, pick) => {
        const made = ruleset({ slots: [slotOf(Object.fromEntries(list.map((item, index) => [`v${index}`, item])))] });
        const engine = createEngine(made);
        const target = made.slots[0]!.variants.at(-1)!;
        const start = all[pick % all.length]!;
        const shows = (item: Visit) => engine.decide(item).slots.s?.[0]?.variant === target.id;
        const distances = all
          .filter(shows)
          .map((item) => facts(item).filter((fact, i) => fact !== facts(start)[i]).length);
        const change = nearestChange({ ruleset: made, from }, start, made.slots[0]!, target);
        if (distances.length === 0) {
          expect(change).toBeUndefined();
          return;
        }
        compared += 1;
        expect(change).toBeDefined();
        expect(shows(change!.visit)).toBe(true);
        expect(change!.facets.length).toBe(Math.min(...distances));
      }),
      { numRuns: 300 },
    );
    expect(compared).toBeGreaterThan(150);
  });
});
