import { describe, expect, it } from "vitest";
import { keptOut, type TagOnPage } from "./policy";

const tag: TagOnPage = {
  page: "https://shop.example",
  script: "https://delivery.example.com/v1/page.js",
  asks: "https://delivery.example.com/v1/page",
  inline: "abc=",
  nonce: undefined,
};
const bare = { ...tag, inline: undefined };

// Source: Content Security Policy Level 3. That browsers do the same is tried in tests/browser/tag-policy.spec.ts.
describe("what a page’s policy keeps out of its tag", () => {
  it.each([
    [[]],
    [[""]],
    [["img-src 'none'; frame-ancestors 'none'"]],
    [["script-src 'sha256-abc=' https://delivery.example.com; connect-src delivery.example.com"]],
    [["default-src https: 'unsafe-inline'"]],
    [["script-src 'unsafe-inline' *.example.com", "connect-src https://delivery.example.com/v1/"]],
    [["script-src-elem 'sha256-abc=' 'strict-dynamic'; script-src 'none'; connect-src *"]],
  ])("%j: nothing", (policies) => expect(keptOut(policies, tag)).toEqual([]));

  it.each([
    [
      ["default-src 'self'"],
      [
        // As it would be without what 'self' lets in, the page's own scripts would stop.
        "script-src 'self' 'sha256-abc='",
        "script-src 'self' https://delivery.example.com",
        "connect-src 'self' https://delivery.example.com",
      ],
    ],
    [["script-src 'unsafe-inline' 'nonce-x' https:"], ["script-src 'sha256-abc='"]],
    [["script-src-elem 'unsafe-inline'; script-src *"], ["script-src-elem https://delivery.example.com"]],
    [
      ["script-src * 'unsafe-inline', script-src 'none'"],
      ["script-src 'sha256-abc='", "script-src https://delivery.example.com"],
    ],
    [["connect-src 'self' https://delivery.example.com/v2/"], ["connect-src https://delivery.example.com"]],
    [
      ["SCRIPT-SRC 'Unsafe-Inline' HTTPS:; script-src 'none'; Connect-Src 'none'"],
      ["connect-src https://delivery.example.com"],
    ],
  ])("%j: %j", (policies, missing) => expect(keptOut(policies, tag)).toEqual(missing));

  it("knows a tag that carries the page’s nonce, and one that is no inline script", () => {
    expect(keptOut(["script-src 'nonce-x' https:"], { ...tag, nonce: "x" })).toEqual([]);
    expect(keptOut(["script-src 'nonce-x'"], { ...tag, nonce: "x" })).toEqual([
      "script-src https://delivery.example.com",
    ]);
    expect(keptOut(["script-src 'nonce-x'"], { ...bare, nonce: "x" })).toEqual([]);
    expect(keptOut(["script-src https://delivery.example.com"], bare)).toEqual([]);
    expect(keptOut(["script-src https: 'strict-dynamic'"], bare)).toEqual(["script-src 'nonce-…'"]);
  });
});
