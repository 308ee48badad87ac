import { describe, expect, it } from "vitest";
import { isPathUnreadable, isTargetTooLong, longestBody, longestTarget, refusalOf } from "./limits";

const refused = (url: string, headers: Record<string, string> = {}, signedIn = false) =>
  refusalOf({ url, headers }, () => Promise.resolve(signedIn));

describe("what is refused before it is read", () => {
  it("a target of more than 8 kB, or of more than 500 parameters", () => {
    expect(isTargetTooLong(`/${"a".repeat(longestTarget - 1)}`)).toBe(false);
    expect(isTargetTooLong(`/${"a".repeat(longestTarget)}`)).toBe(true);
    expect(isTargetTooLong(`/?${Array(500).fill("a=1").join("&")}`)).toBe(false);
    expect(isTargetTooLong(`/?${Array(501).fill("a=1").join("&")}`)).toBe(true);
    expect(isTargetTooLong(`/?${"&".repeat(600)}`)).toBe(true);
  });
  it("a path that is no text: RFC 3986, section 2.1, and UTF-8 (RFC 3629)", async () => {
    for (const path of ["/s/%zz", "/%", "/a%2", "/%ed%a0%80", "/%ff", "/%c0%af"]) {
      expect([path, isPathUnreadable(path)]).toEqual([path, true]);
      expect(await refused(path)).toBe(400);
    }
    // What a query says is read by whom it concerns.
    for (const path of ["/", "/caf%C3%A9", "/%2e%2e/%2F", "/?look=%zz", "/#%zz", "/%f0%9f%8c%bf"])
      expect([path, isPathUnreadable(path)]).toEqual([path, false]);
  });
  it.each<[string, string, Record<string, string>, boolean, number | undefined]>([
    ["a page", "/", {}, false, undefined],
    ["a small form", "/consent", { "content-length": String(longestBody) }, false, undefined],
    ["a form of a byte too many", "/consent", { "content-length": String(longestBody + 1) }, false, 413],
    ["the same of somebody signed in", "/consent", { "content-length": String(longestBody + 1) }, true, 413],
    ["an upload of nobody", "/s/shop/place-files?name=a", { "content-length": "1000000" }, false, 413],
    ["an upload of somebody", "/s/shop/place-files?name=a", { "content-length": "1000000" }, true, undefined],
    ["an upload of 400 MB", "/s/shop/place-files", { "content-length": "400000000" }, true, 413],
    ["a ruleset of somebody", "/s/shop/act/changeDraft", { "content-length": "1000000" }, true, undefined],
    ["a body of no told length", "/s/shop/place-files", { "transfer-encoding": "chunked" }, true, 411],
    ["a length that is none", "/consent", { "content-length": "1e9x" }, false, 413],
    ["a long query", `/?${"a".repeat(9000)}`, {}, true, 414],
  ])("%s", async (_, url, headers, signedIn, wanted) => {
    expect(await refused(url, headers, signedIn)).toBe(wanted);
  });
  it("a session that cannot be looked up is none", async () => {
    const away = () => Promise.reject(new Error("the database is away"));
    expect(await refusalOf({ url: "/s/shop/archive", headers: { "content-length": "100000" } }, away)).toBe(413);
  });
});
