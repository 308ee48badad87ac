import { describe, expect, it } from "vitest";
import { ruleset, variant } from "../testing";
import { cacheAdvice, cacheHeaders, withScript } from "./cache";

const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const pages = [
  { path: "/", facts: { id: "home" } },
  { path: "/ferns", facts: { id: "ferns", category: "ferns" } },
];
/** The advice for the home page of a site with one slot. */
const home = (rule: unknown, more: Record<string, unknown> = {}, parts: Record<string, unknown> = {}) => {
  const made = ruleset({ slots: [{ id: "s", name: "S", variants: [variant("v", rule, more)] }], ...parts });
  return { made, advice: cacheAdvice(made, pages)[0]! };
};
const portugal = when("place", "isIn", [{ country: "PT" }]);
const clinic = when("time", "within", { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] });

describe("cache advice", () => {
  it.each([
    ["nothing", null, [], [], true],
    ["the link alone", when("campaign.source", "is", "x"), ["link"], [], true],
    ["the language", when("language", "accepts", ["pt"]), ["language"], ["Accept-Language"], true],
    [
      "the device",
      when("device.kind", "is", "phone"),
      ["device"],
      ["User-Agent", "Sec-CH-UA-Mobile", "Sec-CH-UA-Platform"],
      true,
    ],
    ["what is remembered", when("history.returning", "isTrue"), ["visitor"], ["Cookie"], true],
    ["the place", portugal, ["place"], [], false],
    ["the referrer", when("referrer.kind", "is", "search"), ["arrival"], [], false],
    ["what was measured", when("device.width", "lt", 600), ["measured"], [], false],
  ] as const)("tells that a page depends on %s", (_name, rule, leans, vary, shared) => {
    const { advice } = home(rule);
    expect(advice).toMatchObject({ leans, vary, shared });
    expect(advice.byScript).toEqual(shared ? [] : ["s"]);
  });

  it("looks at each page by itself: what the page decides, no visitor does", () => {
    const made = ruleset({
      slots: [
        { id: "a", name: "A", pages: when("page.id", "is", "home"), variants: [variant("v", portugal)] },
        { id: "b", name: "B", variants: [variant("w", { all: [when("page.category", "is", "ferns"), clinic] })] },
      ],
    });
    const [first, second] = cacheAdvice(made, pages);
    expect(first?.parts.map((part) => [part.id, part.leans])).toEqual([
      ["a", ["place"]],
      ["b", []],
    ]);
    expect(second?.parts.map((part) => [part.id, part.leans])).toEqual([["b", ["time"]]]);
    expect([first?.shared, second?.shared]).toEqual([false, true]);
    expect(first?.edgeKey).toHaveLength(1);
  });

  it("tells what is left once the script fills what keeps a page from being shared", () => {
    const made = ruleset({
      slots: [
        { id: "a", name: "A", variants: [variant("v", portugal)] },
        { id: "b", name: "B", variants: [variant("w", clinic)] },
      ],
    });
    const [advice] = cacheAdvice(made, pages);
    expect(withScript(made, pages[0]!, advice!)).toMatchObject({ leans: ["time"], shared: true, byScript: [] });
    const easy = home(clinic);
    expect(withScript(easy.made, pages[0]!, easy.advice)).toBeUndefined();
  });

  it("goes through audiences, markers, tokens, arms and what stands below a variant for everyone", () => {
    const parts = {
      audiences: [{ id: "near", name: "Near", rule: portugal }],
      markers: [{ id: "m", name: "M", gain: portugal, days: 3 }],
    };
    expect(home({ audience: "near" }, {}, parts).advice.leans).toEqual(["place"]);
    expect(home(when("marker.m", "isTrue"), {}, parts).advice.leans).toEqual(["visitor", "place"]);
    const two = [
      { id: "a", weight: 50, content: null },
      { id: "b", weight: 50, content: null },
    ];
    expect(home(null, { arms: two }).advice.leans).toEqual(["visitor"]);
    const below = ruleset({ slots: [{ id: "s", name: "S", variants: [variant("all"), variant("pt", portugal)] }] });
    expect(cacheAdvice(below, pages)[0]?.leans).toEqual([]);
    const told = { blockTypes: [{ id: "n", name: "N", fields: [{ id: "t", name: "T", kind: "text" }] }] };
    const content = { type: "n", fields: { t: "From {city}" }, tokens: { city: { signal: "place" } } };
    const from = ruleset({
      ...told,
      slots: [
        { id: "s", name: "S", variants: [], fallback: { ...content, tokens: { city: { signal: "query.city" } } } },
      ],
    });
    expect(cacheAdvice(from, pages)[0]?.leans).toEqual(["link"]);
  });

  it("gives headers by RFC 9111: kept until the next edge of a schedule, and never beyond the longest", () => {
    const { made, advice } = home(clinic);
    // Tuesday 24 November 2026, two minutes before the clinic opens in Lisbon (UTC+0 in winter).
    const at = Date.UTC(2026, 10, 24, 9, 58);
    expect(cacheHeaders(made, advice, at)).toEqual({ "cache-control": "public, max-age=0, s-maxage=120" });
    expect(cacheHeaders(made, advice, at - 3_600_000)["cache-control"]).toBe("public, max-age=0, s-maxage=300");
    const placed = home(portugal);
    expect(cacheHeaders(placed.made, placed.advice, at)).toEqual({ "cache-control": "private, no-store" });
    const spoken = home(when("language", "accepts", ["pt"]));
    expect(cacheHeaders(spoken.made, spoken.advice, at).vary).toBe("Accept-Language");
  });

  it("never shares what differs: two visitors with the same key get the same", () => {
    const made = ruleset({
      redirects: [{ id: "r", name: "R", rule: portugal, to: "/pt" }],
      popups: [
        {
          id: "p",
          name: "P",
          opensAfter: { seconds: 1 },
          size: { width: 300, height: 200 },
          arms: [{ id: "a", weight: 100, content: null }],
          cap: { times: 1, per: "visit" },
        },
      ],
    });
    expect(cacheAdvice(made, pages)[0]).toMatchObject({ leans: ["visitor", "place"], shared: false, byScript: [] });
  });

  it("says of each page among others what it says of it alone: what one page settles, no other takes over", () => {
    const many = ["/", "/ferns", "/tools", "/ferns/maidenhair", "/advice"].map((path) => ({
      path,
      facts: { category: path.startsWith("/ferns") ? "ferns" : "other" },
    }));
    const ferns = when("page.category", "is", "ferns");
    const tools = when("page.path", "is", "/tools");
    const made = ruleset({
      audiences: [{ id: "near", name: "Near", rule: { any: [portugal, ferns] } }],
      markers: [{ id: "fern", name: "Fern", gain: { all: [ferns, clinic] }, days: 3 }],
      slots: [
        { id: "s", name: "S", variants: [variant("a", { all: [ferns, portugal] }), variant("b", clinic)] },
        { id: "t", name: "T", pages: { none: [tools] }, variants: [variant("c", { audience: "near" })] },
        { id: "u", name: "U", variants: [variant("d", when("marker.fern", "isTrue", undefined)), variant("e", null)] },
      ],
    });
    const together = cacheAdvice(made, many);
    expect(together).toEqual(many.map((page) => cacheAdvice(made, [page])[0]));
    // They do differ.
    expect(new Set(together.map((page) => JSON.stringify(page.parts))).size).toBeGreaterThan(2);
  });
});
