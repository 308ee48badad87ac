/**
 * Where `next` and `back` may lead: never to another host. The payloads are of the kinds that OWASP's cheat sheet on unvalidated
 * redirects names (common practice, written from memory), and random ones; judged by two URL parsers: the WHATWG one of the
 * platform, and fast-uri (RFC 3986).
 */
import { check, constantFrom, array, property, string, oneof } from "fast-check";
import { parse, resolve } from "fast-uri";
import { describe, expect, it } from "vitest";
import { localPath } from "@/core/visit/url";

const payloads = [
  "//evil.example",
  "///evil.example",
  "////evil.example",
  "/\\evil.example",
  "\\\\evil.example",
  "\\/evil.example",
  "/\t/evil.example",
  "/\n/evil.example",
  "/%09/evil.example",
  "https://evil.example",
  "https:evil.example",
  "HTTPS://evil.example",
  "http:\\\\evil.example",
  "javascript:alert(1)",
  "JaVaScRiPt:alert(1)",
  "data:text/html,x",
  "vbscript:x",
  "/..//evil.example",
  "/./\\evil.example",
  "/.//evil.example",
  "//evil.example/%2f..",
  "/%2f/evil.example",
  "/%5cevil.example",
  "/;@evil.example",
  "/@evil.example",
  "@evil.example",
  "?next=//evil.example",
  "#//evil.example",
  "/\u2028/evil.example",
  "/\uFF0Fevil.example",
  "\u0000//evil.example",
  " //evil.example",
  "/ /evil.example",
  "http://localhost@evil.example",
  "//localhost:4300@evil.example",
  "/..\\..\\evil.example",
  "/a/../..//evil.example",
  "",
];
const own = "http://localhost:4300";
const stays = (path: string) => {
  expect([path, new URL(path, own).origin]).toEqual([path, own]);
  expect([path, parse(resolve(`${own}/`, path)).host]).toEqual([path, "localhost"]);
  expect(path.startsWith("/")).toBe(true);
  expect(path.startsWith("//")).toBe(false);
};

describe("sent on within the site", () => {
  it.each(payloads)("%j leads nowhere else", (payload) => stays(localPath(payload)));

  it("nothing that is made up leads elsewhere either", () => {
    const part = oneof(
      constantFrom("/", "\\", "//", "evil.example", "@", ":", "http", "..", ".", "%2f", "%5c", "\t", "?", "#", " "),
      string(),
    );
    check(
      property(array(part), (parts) => stays(localPath(parts.join("")))),
      { numRuns: 5000 },
    );
  });

  it("a page of the site is reached, with its query", () => {
    for (const path of ["/", "/releases?open=draft", "/ferns#shade", "/a/b%20c?d=e&f=/g"])
      expect(localPath(path)).toBe(path);
  });
});
