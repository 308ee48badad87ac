import { describe, expect, it, vi } from "vitest";
import type { Fetched } from "@/server/fetch-page";
import { KeptAnswers } from "./kept-answers";

const asked = (headers: Record<string, string> = {}) => ({ url: "https://site.example/", headers });
const answer = (headers: Record<string, string | string[]>, status = 200): Fetched => ({
  ok: true,
  status,
  headers: headers as Fetched["headers"],
  bytes: Buffer.from("a page"),
  body: "a page",
  url: "https://site.example/",
});
/** Whether an answer is handed out again so many milliseconds later. */
function again(headers: Record<string, string | string[]>, later = 0, next = asked(), status = 200): boolean {
  vi.useFakeTimers();
  try {
    const kept = new KeptAnswers();
    kept.keep("looker", asked({ "accept-language": "pt" }), answer(headers, status));
    vi.advanceTimersByTime(later);
    return kept.get("looker", next) !== undefined;
  } finally {
    vi.useRealTimers();
  }
}

describe("answers of a site", () => {
  it("are kept while the site calls them fresh, and never for long", () => {
    const fresh = { "cache-control": "max-age=600" };
    expect([again(fresh), again(fresh, 4900), again(fresh, 5100)]).toEqual([true, true, false]);
    expect([
      again({ "cache-control": "private, max-age=2" }, 1500),
      again({ "cache-control": "max-age=2" }, 2500),
    ]).toEqual([true, false]);
  });
  it.each([
    ["nothing is said of it", {}],
    ["it may not be kept", { "cache-control": "no-store, max-age=600" }],
    ["it is to be asked for each time", { "cache-control": "no-cache, max-age=600" }],
    ["it is stale already", { "cache-control": "max-age=60", age: "90" }],
    ["only shared caches may keep it", { "cache-control": "s-maxage=600, max-age=0" }],
    ["it sets a cookie", { "cache-control": "max-age=600", "set-cookie": ["a=b"] }],
    ["it depends on everything", { "cache-control": "max-age=600", vary: "*" }],
  ])("are asked for anew where %s", (_, headers) => expect(again(headers as Record<string, string>)).toBe(false));
  it("are for the same looker and the same request alone", () => {
    const vary = { "cache-control": "max-age=600", vary: "Accept-Language" };
    expect(again(vary, 0, asked({ "accept-language": "pt" }))).toBe(true);
    expect(again(vary, 0, asked({ "accept-language": "en" }))).toBe(false);
    expect(again({ "cache-control": "max-age=600" }, 0, asked({ "cache-control": "no-cache" }))).toBe(false);
    expect(again({ "cache-control": "max-age=600" }, 0, asked(), 404)).toBe(false);
    const kept = new KeptAnswers();
    kept.keep("one", asked(), answer({ "cache-control": "max-age=600" }));
    expect([kept.get("one", asked()) !== undefined, kept.get("two", asked())]).toEqual([true, undefined]);
  });
});

describe("answers that are no longer fresh", () => {
  const keeping = (headers: Record<string, string>, more: Record<string, string> = {}) => {
    const kept = new KeptAnswers();
    kept.keep("looker", asked(more), answer(headers));
    return kept;
  };
  it("are asked for by their ETag or date, with the request’s own headers", () => {
    const kept = keeping({ etag: '"one"', "last-modified": "Mon, 02 Nov 2026 10:00:00 GMT" });
    expect(kept.get("looker", asked())).toBeUndefined();
    expect(kept.question("looker", asked({ accept: "text/html" }))).toEqual({
      accept: "text/html",
      "if-none-match": '"one"',
      "if-modified-since": "Mon, 02 Nov 2026 10:00:00 GMT",
    });
    // Nobody else’s, nothing that may not be kept, and nothing that could not tell.
    expect(kept.question("another", asked())).toBeUndefined();
    expect(keeping({ etag: '"one"', "cache-control": "no-store" }).question("looker", asked())).toBeUndefined();
    expect(keeping({ "cache-control": "max-age=1" }).question("looker", asked())).toBeUndefined();
    const vary = keeping({ etag: '"one"', vary: "accept-language" }, { "accept-language": "pt" });
    expect(vary.question("looker", asked({ "accept-language": "en" }))).toBeUndefined();
  });
  it("are what they were once the site says so, and fresh again if it says that", () => {
    const kept = keeping({ etag: '"one"', "cache-control": "no-cache" });
    expect(kept.unchanged("looker", asked(), answer({ etag: '"one"', "cache-control": "max-age=60" }, 304))?.body).toBe(
      "a page",
    );
    expect(kept.get("looker", asked())?.body).toBe("a page");
    // A bare 304 says as much, and nothing of freshness.
    const bare = keeping({ etag: '"one"', "cache-control": "no-cache" });
    expect(bare.unchanged("looker", asked(), answer({}, 304))?.body).toBe("a page");
    expect(bare.get("looker", asked())).toBeUndefined();
    expect(new KeptAnswers().unchanged("looker", asked(), answer({}, 304))).toBeUndefined();
  });
});
