/** The visit sentence: what is said of a visitor, part by part, and what a pasted text is taken for. */
import { describe, expect, it } from "vitest";
import { makeMemory, noPast } from "../memory/made";
import { ruleset, visit } from "../testing";
import { takePaste, visitPhrases } from "./phrases";

const rules = ruleset({
  searchSources: [{ host: "finder.example", engine: "finder", parameter: "q" }],
  markers: [{ id: "fan", name: "Fern friend", gain: { signal: "query.never", op: "isPresent" }, days: 30 }],
});
const titles = new Map([["/", "the home page"]]);
const say = (parts: Record<string, unknown> = {}) => visitPhrases(visit(parts), rules, titles);
const at = Date.UTC(2026, 10, 24, 10, 15);
const phone =
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1";

describe("the visit sentence", () => {
  it("says what is known, and what is not", () => {
    expect(say()).toEqual({
      page: "the home page",
      visitor: "a visitor without consent",
      device: "an unknown device",
      place: "an unknown place",
      language: "an unknown language",
      arrival: "directly",
      link: "a plain link",
      time: "Tue 24 Nov 2026, 10:15 Lisbon time",
      cart: "an unknown cart",
      told: "no other data",
    });
    expect(
      say({
        url: "https://shop.example/f%C3%A9rn?utm_source=postbox&utm_campaign=winter",
        userAgent: phone,
        place: { country: "PT", city: "Porto" },
        acceptLanguage: "pt-PT",
        referrer: "https://www.finder.example/search?q=shade+fern",
        cart: { lines: [{ sku: "a", quantity: 3, unitPrice: 950 }] },
        data: { member: true, points: 7, gone: false, list: ["a", "b"] },
        cookies: { a: "1", b: "2" },
        zone: "Asia/Tokyo",
      }),
    ).toMatchObject({
      page: "/férn",
      device: "a phone with iOS",
      place: "Porto, Portugal",
      language: "Portuguese",
      arrival: "from a search for “shade fern”",
      link: "a link tagged postbox · winter",
      cart: "€28.50 in the cart",
      told: "member, points 7, list a, b, 2 cookies, a clock in Tokyo time",
    });
  });
  it.each([
    [{ referrer: "https://shop.example/other" }, "arrival", "from another page of the site"],
    [{ referrer: "https://finder.example/" }, "arrival", "from finder.example"],
    [{ referrer: "https://partner-blog.example/a" }, "arrival", "from partner-blog.example"],
    [{ referrer: "no address" }, "arrival", "directly"],
    [{ url: "https://shop.example/?a=1" }, "link", "a link with a parameter"],
    [{ url: "https://shop.example/?a=1&b=2" }, "link", "a link with 2 parameters"],
    [{ ip: "192.0.2.7" }, "place", "the place of 192.0.2.7"],
    [{ cart: { lines: [] } }, "cart", "an empty cart"],
    [{ cookies: { seen: "1" } }, "told", "the cookie seen"],
  ] as const)("%j, %s: %s", (parts, part, text) => expect(say(parts)[part]).toBe(text));

  const past = (more: object) =>
    say({ consent: true, memory: makeMemory({ ...noPast, ...more }, at, new Map([["fan", 30]])) }).visitor;
  it("tells a past as one would say it", () => {
    expect(past({})).toBe("a first-time visitor");
    expect(past({ visits: 1, views: 2 })).toBe("a first-time visitor, on page 3 of the visit");
    expect(past({ visits: 2 })).toBe("a visitor here for the third time");
    expect(past({ visits: 1, categories: { ferns: 1, tools: 2, moss: 3 } })).toBe(
      "a visitor here for the second time, who has seen ferns once, tools twice …",
    );
    expect(past({ visits: 1, views: 1, markers: { fan: { held: true, count: 1 } } })).toBe(
      "a first-time visitor, on page 2 of the visit, marked “Fern friend”",
    );
    expect([5, 10, 11, 12, 20, 21, 22, 100, 110].map((visits) => /the (\S+) time/.exec(past({ visits }))?.[1])).toEqual(
      ["6th", "11th", "12th", "13th", "21st", "22nd", "23rd", "101st", "111th"],
    );
  });
});

describe("a pasted text", () => {
  const taken = (text: string) => takePaste(text, visit({ hints: { width: 300 } }), "https://shop.example");
  it.each([
    ["https://shop.example/ferns?utm_source=a#top", "the link", { url: "https://shop.example/ferns?utm_source=a" }],
    ["www.shop.example/ferns", "the link", { url: "https://shop.example/ferns" }],
    ["http://shop.localhost:4300/tools", "the link", { url: "https://shop.example/tools" }],
    ["https://other.example/x?utm_source=a", "the link", { url: "https://shop.example/?utm_source=a" }],
    ["?utm_source=b&x=1", "the link", { url: "https://shop.example/?utm_source=b&x=1" }],
    ["Referer: https://partner-blog.example/a", "the referrer", { referrer: "https://partner-blog.example/a" }],
    ["partner-blog.example", "the referrer", { referrer: "https://partner-blog.example" }],
    [`User-Agent: ${phone}`, "the device", { userAgent: phone }],
    ["Accept-Language: pt-PT,pt;q=0.9, *;q=0.1", "the languages", { acceptLanguage: "pt-PT,pt;q=0.9, *;q=0.1" }],
  ])("%s is %s", (text, as, parts) => {
    const read = taken(text);
    expect(read).toMatchObject({ as, visit: parts });
    // Whoever changes the device has not told its width.
    if ("visit" in read && as === "the device") expect(read.visit.hints).toBeUndefined();
  });
  it.each(["", "   ", "nothing at all", "?", "fern", "http://", "://"])(
    "%j is nothing that could be taken up",
    (text) => expect(taken(text)).toEqual({ problem: "This is no address, no User-Agent and no Accept-Language." }),
  );
});
