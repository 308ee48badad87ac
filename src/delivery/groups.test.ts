import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { partsOfSource, sourceText, type VisitGroups } from "@/core/formats/event";
import { createEngine } from "@/core/decision/engine";
import { ruleset, visit } from "@/core/testing";
import { groupsOf, tellerGroups } from "./groups";

describe("a visit", () => {
  const run = createEngine(ruleset());
  const arrival = (url: string, more: object = {}) => visit({ url, ...more });
  it("has the source and name of its campaign, folded; else the kind of referrer", () => {
    const letter = "https://shop.example/?utm_source=Letterbox&utm_campaign=Winter%20light";
    expect(groupsOf(run, arrival(letter), null)).toEqual({ source: "letterbox", campaign: "winter light", visits: "" });
    expect(groupsOf(run, arrival("https://shop.example/"), null).source).toBe("direct");
    expect(groupsOf(run, arrival("https://shop.example/a", { referrer: "https://shop.example/" }), null).source).toBe(
      "",
    );
  });
  it("is a first one or not where the visitor is remembered", () => {
    const one = arrival("https://shop.example/", { consent: true, visitorId: "v-1" });
    const first = run.decide(one).memory;
    expect(groupsOf(run, one, first).visits).toBe("new");
    const later = { ...one, at: new Date(Date.parse(one.at) + 86_400_000).toISOString(), memory: first as never };
    expect(groupsOf(run, later, run.decide(later).memory).visits).toBe("back");
    expect(groupsOf(run, arrival("https://shop.example/"), first).visits).toBe("");
    for (const damaged of [null, undefined, "x", 3, [], { h: "x" }, { h: [-1] }])
      expect(groupsOf(run, one, damaged).visits).toBe("");
  });
  it("is told in one text, and read back", () => {
    const text = fc.string({ maxLength: 80 });
    const visits = fc.constantFrom<VisitGroups["visits"]>("", "new", "back");
    fc.assert(
      fc.property(text, text, visits, (source, campaign, back) => {
        const kept = (of: string) => of.replaceAll("|", " ").slice(0, 60);
        const wanted = { source: kept(source), campaign: kept(campaign), visits: back };
        const told = sourceText({ source, campaign, visits: back });
        expect(told.length).toBeLessThanOrEqual(130);
        expect(partsOfSource(told)).toEqual(wanted);
      }),
    );
    expect(sourceText({ source: "direct", campaign: "", visits: "" })).toBe("direct");
    expect(partsOfSource("a|b|c|d|e")).toEqual({ source: "a", campaign: "b", visits: "" });
  });
});

describe("whoever tells", () => {
  const teller = (acceptLanguage: string | undefined, userAgent?: string) =>
    tellerGroups({ address: "192.0.2.1", userAgent, acceptLanguage }, () => ({ country: "PT" }) as never);
  it("has a place, a device and its system, and the language that is wanted most", () => {
    const phone =
      "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36";
    expect(teller("en;q=0.5, PT-br;q=0.9", phone)).toEqual({
      country: "PT",
      device: "phone",
      language: "pt",
      system: "android",
    });
  });
  it("has none that is no language", () => {
    for (const odd of [undefined, "", "*", "x", "abcdefgh", "1", "i-klingon"])
      expect([odd, teller(odd).language]).toEqual([odd, ""]);
  });
});
