import { readFileSync } from "node:fs";
import { gunzipSync } from "node:zlib";
import { describe, expect, it } from "vitest";
import { parseAddress } from "@/core/visit/address";
import { readPlaceFile } from "@/data/places";
import { clientAddress, readBlocks } from "./client-address";
import { newVisitorId, readMemoryCookie, readOpenNote, writeMemoryCookie, writeOpenNote } from "./memory-cookie";
import { visitOf } from "./visit";

describe("the address of a visitor", () => {
  const trusted = readBlocks(["10.0.0.0/8", "2001:db8::/32", "nonsense"]);
  it.each<[string, string | undefined, string | undefined, string | undefined]>([
    ["is the peer's", "192.0.2.1", undefined, "192.0.2.1"],
    ["is the peer's, whatever it says, unless it is trusted", "192.0.2.1", "203.0.113.9", "192.0.2.1"],
    ["is what a trusted proxy says", "10.0.0.1", "203.0.113.9", "203.0.113.9"],
    [
      "is the last that is no proxy: what stands left was made up",
      "10.0.0.1",
      "1.1.1.1, 203.0.113.9, 10.2.2.2",
      "203.0.113.9",
    ],
    ["may have a port", "10.0.0.1", "203.0.113.9:8080", "203.0.113.9"],
    ["may be IPv6, in brackets", "2001:db8::1", "[2001:4860::8888]:443", "2001:4860::8888"],
    ["is unknown if a proxy tells nonsense", "10.0.0.1", "unknown", undefined],
    ["is the peer's if all are proxies", "10.0.0.1", "10.0.0.2, 10.0.0.3", "10.0.0.1"],
    ["is not told without a peer", undefined, "203.0.113.9", undefined],
  ])("%s", (_, peer, forwarded, wanted) => {
    expect(clientAddress(peer, forwarded, trusted)).toBe(wanted);
  });
});

describe("the memory cookie", () => {
  const secret = Buffer.alloc(32, 1);
  it("takes the note of a pop-up back from its visitor alone, unchanged, for a day", () => {
    const decided = Date.UTC(2026, 1, 28, 23, 59);
    const note = writeOpenNote("winter-letter", "v-AAAAAAAAAAAAAAAA", decided, secret);
    const read = (text: string, visitor = "v-AAAAAAAAAAAAAAAA", after = 1000) =>
      readOpenNote(text, visitor, decided + after, secret);
    expect(read(note)).toEqual({ popup: "winter-letter", decided });
    expect(read(note, "v-AAAAAAAAAAAAAAAB")).toBeUndefined();
    expect(read(note, undefined, 25 * 3_600_000)).toBeUndefined();
    for (const bad of ["", ".", "..", "a.b.c", note.replace("winter", "spring"), `${note}x`, note.slice(0, -1)])
      expect(read(bad)).toBeUndefined();
    expect(readOpenNote(note, "v-AAAAAAAAAAAAAAAA", decided, Buffer.alloc(32, 2))).toBeUndefined();
  });
  const cookie = writeMemoryCookie("v-AAAAAAAAAAAAAAAA", { v: 1, h: [1, 2, 3, 4, 5, 6], l: "/" }, secret);
  it("is read back, by whom it was signed", () => {
    expect(readMemoryCookie(cookie, secret)).toEqual({
      visitorId: "v-AAAAAAAAAAAAAAAA",
      memory: { v: 1, h: [1, 2, 3, 4, 5, 6], l: "/" },
    });
    expect(readMemoryCookie(cookie, Buffer.alloc(32, 2))).toBeUndefined();
  });
  it("counts for nothing if anything about it was changed, or it is too long", () => {
    for (let i = 0; i < cookie.length; i++)
      expect(
        readMemoryCookie(cookie.slice(0, i) + (cookie[i] === "x" ? "y" : "x") + cookie.slice(i + 1), secret),
      ).toBeUndefined();
    for (const bad of [undefined, "", "a.b.c", `${cookie}.x`, "v".repeat(5000)])
      expect(readMemoryCookie(bad, secret)).toBeUndefined();
  });
  it("names visitors at random", () => {
    expect(new Set(Array.from({ length: 100 }, newVisitorId)).size).toBe(100);
    expect(newVisitorId()).toMatch(/^v-[A-Za-z0-9_-]{16}$/);
  });
});

describe("place data", () => {
  const read = (text: string | Uint8Array) => readPlaceFile(typeof text === "string" ? Buffer.from(text) : text);
  it("is a CSV with the right columns, or an MMDB file, or refused in words", () => {
    expect(read("network,country\n192.0.2.0/24,PT\n")).toMatchObject({ ok: true, format: "csv", says: "1 networks" });
    for (const bad of [
      "a,b\n1,2",
      "network,country\n192.0.2.0/99,PT",
      "network,country\n192.0.2.1/24,PT",
      "network,country\n192.0.2.0/24,Portugal",
      "",
      Uint8Array.of(0, 255, 254),
    ])
      expect(read(bad)).toMatchObject({ ok: false, problem: expect.stringMatching(/xpected|damaged/) as unknown });
  });
  it("reads an uploaded MMDB file, which comes as plain bytes, and refuses a damaged one", () => {
    const file = gunzipSync(readFileSync("node_modules/maxmind-testdata/test/databases/GeoIP2-City-Test.mmdb.gz"));
    const taken = read(new Uint8Array(file));
    expect(taken).toMatchObject({ ok: true, format: "mmdb" });
    expect(taken.ok && taken.lookup(parseAddress("81.2.69.160")!)).toMatchObject({ country: "GB", city: "London" });
    const end = Buffer.from("\xab\xcd\xefMaxMind.com", "latin1");
    expect(read(new Uint8Array([1, 2, 3, ...end]))).toMatchObject({
      ok: false,
      problem: expect.stringContaining("damaged") as unknown,
    });
  });
});

describe("the visit of a request", () => {
  const known = { address: "192.0.2.1", consent: false, visitorId: undefined, memory: undefined };
  const make = (target: string, headers: Record<string, string> = {}) =>
    visitOf(
      {
        site: "s",
        target,
        headers: { get: (name) => headers[name] ?? null },
        cookies: {},
        page: undefined,
        cart: undefined,
      },
      "https://shop.example",
      known,
    );
  it("has the site's own origin, whatever host it is served on, also in the referrer", () => {
    const visit = make("/ferns?a=1", { host: "shop.localhost:4300", referer: "http://shop.localhost:4300/tools" });
    expect(visit).toMatchObject({ url: "https://shop.example/ferns?a=1", referrer: "https://shop.example/tools" });
  });
  it("takes client hints, and headers beyond all bounds for not told", () => {
    expect(
      make("/", { "sec-ch-ua-mobile": "?1", "sec-ch-ua-platform": '"Android"', "sec-ch-viewport-width": "390" }).hints,
    ).toEqual({ mobile: true, platform: "Android", width: 390 });
    expect(make("/", { "user-agent": "x".repeat(20_000), "sec-ch-viewport-width": "1e999" })).not.toHaveProperty(
      "userAgent",
    );
    expect(make("//elsewhere.example/x").url).toMatch(/^https:\/\/shop\.example\//);
  });
});
