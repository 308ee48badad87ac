/** Reading visits: instants by RFC 3339, addresses by WHATWG URL, null as left out, and every problem at its path. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { queryOf } from "../visit/url";
import { parseInstant, parseWebUrl, readVisit } from "./visit";

const good = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };
const problems = (input: unknown) => {
  const read = readVisit(input);
  return read.ok ? [] : read.problems.map((item) => item.path);
};

describe("an instant", () => {
  // RFC 3339, section 5.8, its examples.
  it.each([
    ["1985-04-12T23:20:50.52Z", Date.UTC(1985, 3, 12, 23, 20, 50, 520)],
    ["1996-12-19T16:39:57-08:00", Date.UTC(1996, 11, 20, 0, 39, 57)],
    ["1990-12-31T23:59:60Z", Date.UTC(1990, 11, 31, 23, 59, 59)],
    ["1990-12-31T15:59:60-08:00", Date.UTC(1990, 11, 31, 23, 59, 59)],
    ["1937-01-01T12:00:27.87+00:20", Date.UTC(1937, 0, 1, 11, 40, 27, 870)],
  ])("%s is read", (text, at) => expect(parseInstant(text)).toBe(at));

  it("is what ECMAScript's own dates make of it, from the year 0 to 9999", () => {
    const date = fc.date({
      min: new Date("0000-01-01T00:00:00Z"),
      max: new Date("9999-12-31T23:59:59.999Z"),
      noInvalidDate: true,
    });
    const offset = fc.integer({ min: -1439, max: 1439 });
    const two = (n: number) => String(n).padStart(2, "0");
    fc.assert(
      fc.property(date, offset, fc.boolean(), (at, minutes, lower) => {
        const iso = at.toISOString();
        expect(parseInstant(lower ? iso.toLowerCase() : iso)).toBe(at.getTime());
        const sign = minutes < 0 ? "-" : "+";
        const zone = `${sign}${two(Math.floor(Math.abs(minutes) / 60))}:${two(Math.abs(minutes) % 60)}`;
        expect(parseInstant(iso.replace("Z", zone))).toBe(at.getTime() - minutes * 60_000);
      }),
    );
  });

  it("has thousandths, and no more of a fraction than that", () => {
    const at = Date.UTC(2026, 0, 1);
    for (const [fraction, more] of [
      [".1", 100],
      [".12", 120],
      [".123", 123],
      [".1239", 123],
      [".000999999", 0],
      [".0", 0],
    ] as const)
      expect(parseInstant(`2026-01-01T00:00:00${fraction}Z`)).toBe(at + more);
  });

  it.each([
    "2026-02-29T00:00:00Z",
    "2100-02-29T00:00:00Z",
    "2026-04-31T00:00:00Z",
    "2026-13-01T00:00:00Z",
    "2026-00-10T00:00:00Z",
    "2026-01-00T00:00:00Z",
    "2026-01-01T24:00:00Z",
    "2026-01-01T00:60:00Z",
    "2026-01-01T00:00:61Z",
    "2026-01-01T00:00:00",
    "2026-01-01T00:00Z",
    "2026-01-01",
    "2026-01-01T00:00:00.Z",
    "2026-01-01T00:00:00+24:00",
    "2026-01-01T00:00:00+00:60",
    "2026-01-01T00:00:00+0100",
    "2026-01-01 00:00:00Z",
    " 2026-01-01T00:00:00Z",
    "2026-01-01T00:00:00Z\n",
    "٢٠٢٦-01-01T00:00:00Z",
  ])("%j is none", (text) => expect(parseInstant(text)).toBeUndefined());
});

describe("an address", () => {
  it("is judged as the URL parser judges it, however it begins", () => {
    const begin = fc.constantFrom(
      "http://",
      "https://",
      "HTTPS://",
      "https:",
      " https://",
      "ht\ntp://",
      "ftp://",
      "javascript:",
      "//",
      "http:///",
      "",
    );
    fc.assert(
      fc.property(begin, fc.string({ unit: "binary", maxLength: 20 }), (scheme, rest) => {
        const url = `${scheme}${rest}`;
        expect(readVisit({ ...good, url }).ok).toBe(parseWebUrl(url) !== undefined);
      }),
      { numRuns: 1000 },
    );
  });

  it("has the query values that URLSearchParams reads, encoded or not", () => {
    const sign = fc.constantFrom(..."ab=&&%+;?/#é 2", "%20", "%C3%A9", "%zz");
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 14 }), (signs) => {
        const url = new URL(`https://shop.example/?${signs.join("")}`);
        const expected = new Map<string, string[]>();
        for (const name of url.searchParams.keys()) expected.set(name, url.searchParams.getAll(name));
        expect([...queryOf(url.search.slice(1))]).toEqual([...expected]);
      }),
      { numRuns: 1000 },
    );
  });
});

describe("a visit", () => {
  it("takes null as left out, but in memory, which is opaque", () => {
    const read = readVisit({
      ...good,
      referrer: null,
      place: { country: "PT", region: null },
      page: null,
      memory: { v: null },
    });
    expect(read.ok && read.value).toEqual({ ...good, place: { country: "PT" }, memory: { v: null } });
  });
  it("is not changed by being read", () => {
    const input = Object.freeze({
      ...good,
      place: Object.freeze({ country: "PT", city: null }),
      cookies: Object.freeze({ a: "1" }),
    });
    expect(readVisit(input).ok).toBe(true);
    expect(input.place).toEqual({ country: "PT", city: null });
  });
  it("is refused with the path of whatever is wrong", () => {
    expect(problems({ ...good, at: "today" })).toEqual(["/at"]);
    expect(problems({ ...good, url: "/ferns" })).toEqual(["/url"]);
    expect(problems({ ...good, surprise: 1 })).toEqual(["/surprise"]);
    expect(problems({ ...good, place: { country: 7 }, hints: { width: "wide" } })).toEqual([
      "/place/country",
      "/hints/width",
    ]);
    expect(problems({ ...good, cart: { lines: [{ sku: "a", quantity: -1, unitPrice: 1.5 }] } })).toEqual([
      "/cart/lines/0/quantity",
      "/cart/lines/0/unitPrice",
    ]);
    expect(problems(null).length).toBe(1);
    expect(problems([good]).length).toBe(1);
    // A key that would reach an object's prototype is a key like any other: not a known one.
    expect(problems(JSON.parse(`{"at":"${good.at}","url":"${good.url}","__proto__":{"at":1}}`)).length).toBe(1);
    let deep: unknown = 1;
    for (let level = 0; level < 200; level++) deep = { a: deep };
    expect(readVisit({ ...good, data: { deep } })).toEqual({
      ok: false,
      problems: [{ path: "", code: "size", problem: "is nested too deeply" }],
    });
  });
});
