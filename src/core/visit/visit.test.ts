import { describe, expect, it } from "vitest";
import { ruleset, visit } from "../testing";
import { inBlock, parseAddress, parseBlock, type Block } from "./address";
import { readDevice } from "./device";
import { languageChoices, matchesRange } from "./language";
import { takePaste, visitPhrases } from "../lens/phrases";
import { readPlaceCsv } from "./places";
import { readReferrer, referrerKind, sourceTable } from "./referrer";
import { plainHost, readablePath } from "./url";

describe("paths", () => {
  it.each([
    ["/caf%C3%A9", "/café"],
    ["/100%/caf%C3%A9", "/100%/café"],
    ["/%FF", "/%FF"],
    ["/plain", "/plain"],
  ])("%s reads %s", (path, expected) => expect(readablePath(path)).toBe(expected));
});

describe("addresses", () => {
  it("read IPv4, IPv6 and mapped ones, and refuse the rest", () => {
    expect(parseAddress("192.0.2.1")).toEqual({ family: 4, bits: 0xc0000201n });
    expect(parseAddress("::ffff:192.0.2.1")).toEqual({ family: 4, bits: 0xc0000201n });
    expect(parseAddress("2001:db8::1")).toEqual({ family: 6, bits: 0x20010db8000000000000000000000001n });
    for (const wrong of [
      "",
      "1.2.3",
      "1.2.3.256",
      "01.2.3.4",
      "1:2:3",
      "::1::",
      "2001:db8::12345",
      "1.2.3.4:80",
      "1::2:3:4:5:6:7:8",
    ])
      expect(parseAddress(wrong)).toBeUndefined();
  });
  it("lie in blocks of their family", () => {
    const block = parseBlock("2001:db8::/32") as Block;
    expect(inBlock(parseAddress("2001:db8:ffff::1")!, block)).toBe(true);
    expect(inBlock(parseAddress("2001:db9::1")!, block)).toBe(false);
    expect(inBlock(parseAddress("192.0.2.1")!, parseBlock("::ffff:192.0.2.0/120") as Block)).toBe(true);
    expect(parseBlock("192.0.2.1/24")).toEqual({ problem: "has bits set beyond its prefix of 24" });
  });
});

describe("place data", () => {
  it("answers by the longest prefix, with headings in any order", () => {
    const read = readPlaceCsv(
      "country,network,city\nPT,203.0.113.0/24,\nPT,203.0.113.0/28,Lisbon\nES,2001:db8::/32,Madrid\n",
    );
    if ("problems" in read) throw new Error("refused");
    expect(read.lookup(parseAddress("203.0.113.5")!)?.city).toBe("Lisbon");
    expect(read.lookup(parseAddress("203.0.113.99")!)).toEqual({ country: "PT" });
    expect(read.lookup(parseAddress("2001:db8::5")!)?.country).toBe("ES");
    expect(read.lookup(parseAddress("198.51.100.1")!)).toBeUndefined();
  });
  it("names the lines that are wrong", () => {
    const read = readPlaceCsv("network,country\n203.0.113.0/24,PT\nnonsense,PT\n198.51.100.0/24,Portugal\n");
    expect("problems" in read && read.problems.map((item) => item.path)).toEqual(["/3", "/4"]);
  });
});

describe("languages", () => {
  it("are the choices of the header in order of weight (RFC 9110, section 12.5.4)", () => {
    expect(languageChoices("da, en-gb;q=0.8, en;q=0.7")).toEqual(["da", "en-gb", "en"]);
    expect(languageChoices("en;q=0.5, pt;q=0, *, de;q=0.5, fr;q=1.5, x_y, es ; q=0.9")).toEqual(["es", "en", "de"]);
  });
  it("match by basic filtering (RFC 4647, section 3.3.1)", () => {
    expect(matchesRange("de-de-1996", "de-de")).toBe(true);
    expect(matchesRange("de-deva", "de-de")).toBe(false);
    expect(matchesRange("de", "de-de")).toBe(false);
    expect(matchesRange("anything", "*")).toBe(true);
  });
});

describe("referrers", () => {
  const sources = sourceTable([
    { host: "finder.example", engine: "finder", parameter: "q" },
    { host: "images.finder.example", engine: "pictures", parameter: "p" },
  ]);
  const page = new URL("https://www.shop.example:8443/");
  it.each([
    [undefined, "direct"],
    ["https://shop.example/x", "internal"],
    ["https://www.finder.example/", "search"],
    ["https://mail.google.com/", "mail"],
    ["https://m.facebook.com/", "social"],
    ["https://notfacebook.com/", "other"],
    ["about:blank", "other"],
    ["nonsense", "direct"],
  ])("%s is %s", (referrer, kind) =>
    expect(referrerKind(readReferrer(referrer, sources), plainHost(page.hostname))).toBe(kind),
  );
  it("take the longest search source", () => {
    expect(readReferrer("https://images.finder.example/?p=x", sources)?.source?.engine).toBe("pictures");
  });
});

describe("devices", () => {
  it("let client hints win where they name something", () => {
    const ua = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
    expect(readDevice(ua)).toEqual({ kind: "desktop", os: "linux", browser: "chrome", version: 142 });
    expect(readDevice(ua, { mobile: true, platform: "Android" })).toMatchObject({ kind: "phone", os: "android" });
    expect(readDevice(undefined, { mobile: true })).toBeUndefined();
    expect(readDevice("Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)")).toEqual({
      kind: "bot",
      os: undefined,
      browser: undefined,
      version: undefined,
    });
  });
});

describe("the visit sentence", () => {
  const rules = ruleset({ searchSources: [{ host: "finder.example", engine: "finder", parameter: "q" }] });
  const origin = rules.site.origin;
  it("says a visit in words", () => {
    const looked = visit({
      url: "https://shop.example/ferns?utm_source=finder",
      referrer: "https://finder.example/search?q=shade+fern",
      place: { country: "PT", city: "Lisbon" },
      acceptLanguage: "pt-PT",
    });
    expect(visitPhrases(looked, rules, new Map([["/ferns", "Ferns"]]))).toMatchObject({
      page: "Ferns",
      place: "Lisbon, Portugal",
      language: "Portuguese",
      arrival: "from a search for “shade fern”",
      link: "a link tagged finder",
      time: "Tue 24 Nov 2026, 10:15 Lisbon time",
    });
  });
  it.each([
    ["https://shop.example/ferns?utm_source=x", "the link"],
    ["shop.example/ferns", "the link"],
    ["?utm_source=x&utm_medium=y", "the link"],
    ["https://elsewhere.example/page", "the referrer"],
    ["pt-PT,pt;q=0.9,en;q=0.5", "the languages"],
    ["User-Agent: Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X)", "the device"],
  ])("takes %s as %s", (pasted, as) => expect(takePaste(pasted, visit(), origin)).toMatchObject({ as }));
  it("says what it does not understand", () => {
    expect(takePaste("nothing at all", visit(), origin)).toHaveProperty("problem");
  });
});
