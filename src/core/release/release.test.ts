import { describe, expect, it } from "vitest";
import { allEffects } from "../analysis/effects";
import { allFindings } from "../analysis/findings";
import { createEngine } from "../decision/engine";
import { ruleset, variant, visit } from "../testing";
import { releaseBefore } from "./before";
import { pausedName, withPauses } from "./pause";
import { blocks, reportOf } from "./report";

const from = Date.UTC(2026, 10, 24, 10, 15);
const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const says = (text: string) => [{ id: "a", weight: 100, content: { type: "note", fields: { text } } }];
const noteType = { id: "note", name: "Note", fields: [{ id: "text", name: "Text", kind: "text" }] };
const slot = (variants: unknown[], more: object = {}) => ({ id: "s", name: "S", variants, ...more });
const made = (parts: Record<string, unknown>) => ruleset({ blockTypes: [noteType], ...parts });
const portugal = when("place", "isIn", [{ country: "PT" }]);
const spain = when("place", "isIn", [{ country: "ES" }]);

/** Effects as "before → after", after checking that each witness really gets the one and the other. */
function told(before: ReturnType<typeof ruleset>, after: ReturnType<typeof ruleset>): string[] {
  const [a, b] = [createEngine(before), createEngine(after)];
  return allEffects({ before, after, pages: [{ path: "/", facts: {} }], from }).map((effect) => {
    const [was, is] = [a.decide(effect.witness), b.decide(effect.witness)];
    expect(JSON.stringify([was.slots, was.popup, was.redirect, was.cart])).not.toBe(
      JSON.stringify([is.slots, is.popup, is.redirect, is.cart]),
    );
    return `${effect.before} → ${effect.after}`;
  });
}

describe("the release that was live before", () => {
  const went = (...releases: number[]) => releases.map((release, index) => ({ number: index + 1, release })).reverse();
  it.each([
    [went(1, 2, 3), 3, 2],
    [went(1, 2, 1), 1, 2],
    [went(1, 2, 2), 2, 1],
    [went(1), 1, undefined],
    [went(1, 2), 7, undefined],
    [[], 1, undefined],
  ])("%j, %i: %s", (list, release, before) => expect(releaseBefore(list, release)).toBe(before));
});

describe("what another ruleset changes for visitors", () => {
  const base = made({ slots: [slot([variant("pt", portugal, { arms: says("Olá") })])] });

  it("is nothing where nothing differs, or only names do", () => {
    expect(told(base, base)).toEqual([]);
    const renamed = made({ slots: [slot([{ ...variant("pt", portugal, { arms: says("Olá") }), name: "Other" }])] });
    expect(told(base, renamed)).toEqual([]);
  });

  it("is told of a new variant, with somebody who sees it and saw the fallback", () => {
    const after = made({
      slots: [slot([variant("pt", portugal, { arms: says("Olá") }), variant("es", spain, { arms: says("Hola") })])],
    });
    const [effect, ...more] = allEffects({ before: base, after, pages: [{ path: "/", facts: {} }], from });
    expect(more).toEqual([]);
    expect(effect).toMatchObject({ before: "nothing", after: "“es”", rule: spain, from: "after" });
    expect(effect?.witness.place?.country).toBe("ES");
  });

  it("is told by the rule of what somebody saw before, where they fall back to what everybody sees", () => {
    const one = variant("pt", portugal, { arms: says("Olá") });
    const whole = (on: boolean) =>
      made({ slots: [slot([{ ...one, on }], { fallback: { type: "note", fields: { text: "Hello" } } })] });
    const found = allEffects({ before: whole(true), after: whole(false), pages: [{ path: "/", facts: {} }], from });
    expect(found).toMatchObject([{ before: "“pt”", after: "the fallback", rule: portugal, from: "before" }]);
  });

  it("is told of other words, another order and what is taken out", () => {
    expect(told(base, made({ slots: [slot([variant("pt", portugal, { arms: says("Bom dia") })])] }))).toEqual([
      "“pt” → “pt”, changed",
    ]);
    const two = (ids: string[]) =>
      made({ slots: [slot(ids.map((id) => variant(id, id === "all" ? null : portugal, { arms: says(id) })))] });
    // Only where both hold does the order matter.
    expect(told(two(["all", "pt"]), two(["pt", "all"]))).toEqual(["“all” → “pt”"]);
    expect(told(base, made({ slots: [slot([])] }))).toEqual(["“pt” → nothing"]);
    expect(told(base, made({}))).toContain("“pt” → no such slot");
  });

  it("is told of an audience or place list that means something else now", () => {
    const by = (rule: unknown) =>
      made({
        audiences: [{ id: "guests", name: "Guests", rule }],
        slots: [slot([variant("v", { audience: "guests" }, { arms: says("x") })])],
      });
    expect(told(by(portugal), by(spain)).sort()).toEqual(["nothing → “v”", "“v” → nothing"]);
    const list = (places: unknown[]) =>
      made({
        placeLists: [{ id: "near", name: "Near", places }],
        slots: [slot([variant("v", when("place", "isIn", [{ list: "near" }]), { arms: says("x") })])],
      });
    expect(told(list([]), list([{ country: "PT" }]))).toEqual(["nothing → “v”"]);
  });

  it("is told of pop-ups, redirects and offers", () => {
    const popup = {
      id: "p",
      name: "P",
      opensAfter: { seconds: 1 },
      size: { width: 300, height: 200 },
      arms: says("Hello"),
    };
    expect(told(made({}), made({ popups: [popup] }))).toEqual(["no pop-up → “P” opens"]);
    const redirect = { id: "r", name: "R", rule: when("page.path", "is", "/old"), to: "/new" };
    expect(told(made({ redirects: [redirect] }), made({}))).toEqual([
      "is sent to https://shop.example/new → stays on the page",
    ]);
    const offer = (percent: number) =>
      made({ offers: [{ id: "o", name: "O", threshold: "50.00", reward: { percent }, label: "Off" }] });
    expect(told(offer(10), offer(20))).toEqual(["pays €45.00 → pays €40.00"]);
  });
});

describe("a report", () => {
  const foundIn = (of: ReturnType<typeof made>) => allFindings({ ruleset: of, from });
  it("is told of another order of pop-ups, redirects and offers, with somebody whom both concern", () => {
    const turned = (list: unknown[], key: string, more: object = {}) =>
      told(made({ ...more, [key]: list }), made({ ...more, [key]: [...list].reverse() }));
    const box = (id: string, rule: unknown) => ({
      id,
      name: id,
      rule,
      opensAfter: { seconds: 1 },
      size: { width: 300, height: 200 },
      arms: says(id),
    });
    expect(turned([box("all", null), box("pt", portugal)], "popups")).toEqual(["“all” opens → “pt” opens"]);
    // For nobody do both open: the order is all the same.
    expect(turned([box("es", spain), box("pt", portugal)], "popups")).toEqual([]);
    const to = (id: string, rule: unknown) => ({ id, name: id, rule, to: `/${id}` });
    const path = when("page.path", "startsWith", "/o");
    expect(turned([to("a", path), to("b", when("page.path", "is", "/old"))], "redirects")).toEqual([
      "is sent to https://shop.example/a → is sent to https://shop.example/b",
    ]);
    const offer = (id: string, threshold: string, reward: object) => ({ id, name: id, reward, threshold, label: id });
    // Half of 20, then 10 of the other 10; or 10 first, and then half is out of reach.
    const offers = [offer("half", "20.00", { percent: 50 }), offer("ten", "10.00", { amount: "10.00" })];
    expect(turned(offers, "offers")).toEqual(["pays €0.00 → pays €10.00"]);
  });

  it("is told of an offer by somebody with what it takes from in the cart, and of what is still to go", () => {
    const scoped = (threshold: string, scope?: object, on = true) =>
      made({ offers: [{ id: "o", on, name: "o", reward: { percent: 10 }, threshold, label: "o", scope }] });
    const ferns = { categories: ["ferns"] };
    expect(told(scoped("60.00", ferns), scoped("50.00", ferns))).toEqual(["pays €50.00 → pays €45.00"]);
    expect(told(scoped("60.00", { skus: ["a"] }), scoped("70.00", { skus: ["a"] }))).toEqual([
      "pays €54.00 → pays €60.00",
    ]);
    // Switched off it gives nothing; how much is to go is told all the same.
    expect(told(scoped("60.00", undefined, false), scoped("50.00", undefined, false))).toEqual([
      "pays €50.00, €10.00 to go → pays €50.00",
    ]);
  });

  it("blocks for a failing check and for a fault, and for nothing else", () => {
    const check = {
      id: "c",
      name: "Portugal is greeted",
      visit: visit({ place: { country: "PT" } }),
      steps: [],
      expect: { slot: "s", variant: "pt" },
    };
    const good = createEngine(made({ slots: [slot([variant("pt", portugal)])] }));
    const fine = reportOf(good, [check], foundIn(good.ruleset));
    expect([fine.checks, fine.failed, blocks(fine)]).toEqual([1, [], false]);
    const bad = createEngine(made({ slots: [slot([variant("all"), variant("pt", portugal)])] }));
    const report = reportOf(bad, [check], foundIn(bad.ruleset));
    expect(report.failed[0]?.says).toContain("Portugal is greeted. Expected: S shows “pt”. Found: shows “all”.");
    expect(report.faults.map((fault) => fault.kind)).toContain("always-beaten");
    expect(blocks(report)).toBe(true);
  });
});

describe("a pause", () => {
  it("switches off one thing of what is served, and leaves the rest as it is", () => {
    const base = made({ slots: [slot([variant("a"), variant("b")])] });
    const served = createEngine(withPauses(base, [{ kind: "variant", id: "a" }]));
    expect(served.decide(visit()).slots.s?.[0]?.variant).toBe("b");
    expect(withPauses(base, [])).toBe(base);
    expect(base.slots[0]?.variants[0]?.on).toBe(true);
    expect(pausedName(base, { kind: "variant", id: "a" })).toBe("S, a");
    expect(pausedName(base, { kind: "popup", id: "a" })).toBeUndefined();
  });
});

describe("two releases of which one lacks a marker, an offer or a field that the other's rules speak of", () => {
  const rule = (signal: string, op: string, value?: unknown) => ({
    signal,
    op,
    ...(value === undefined ? {} : { value }),
  });
  it("are compared all the same, in both directions", () => {
    const without = made({ slots: [slot([variant("v")])] });
    const withAll = made({
      markers: [{ id: "m", name: "M", gain: rule("page.path", "is", "/"), days: 1 }],
      offers: [{ id: "o", name: "O", label: "O", reward: { percent: 5 }, threshold: "10.00" }],
      dataFields: [{ signal: "data", name: "member", kind: "flag" }],
      slots: [
        slot([
          variant("marked", rule("marker.m", "isTrue")),
          variant("near", rule("cart.toGo.o", "between", ["0.01", "5.00"])),
          variant("member", rule("data.member", "isTrue")),
          variant("v"),
        ]),
      ],
    });
    for (const [before, after] of [
      [without, withAll],
      [withAll, without],
    ] as const) {
      const found = allEffects({ before, after, pages: [{ path: "/", facts: {} }], from: Date.UTC(2026, 10, 24) });
      expect(found.length).toBeGreaterThan(0);
      for (const { witness } of found)
        expect(createEngine(before).decide(witness)).not.toEqual(createEngine(after).decide(witness));
    }
  });
});
