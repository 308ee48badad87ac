/**
 * Answers that a site calls fresh (RFC 9111, as a browser's own cache reads it) are not asked for again at once: lens after lens
 * looks at the same page. Only for a few seconds, since whoever looks may be changing the site meanwhile. What is no longer fresh,
 * or is loaded anew, is asked for by what tells whether it has changed (ETag, Last-Modified): then the site sends it only if it has.
 */
import CachePolicy from "http-cache-semantics";
import { LRUCache } from "lru-cache";
import type { Fetched } from "@/server/fetch-page";

/** So long at most, in milliseconds. */
const longest = 5000;
const mostBytes = 40_000_000;

interface Asked {
  url: string;
  headers: Record<string, string>;
}

interface Kept {
  policy: CachePolicy;
  got: Fetched;
  until: number;
}

export class KeptAnswers {
  readonly #kept = new LRUCache<string, Kept>({
    maxSize: mostBytes,
    sizeCalculation: ({ got }) => got.bytes.length + 1000,
  });

  /** @param whose names the looker, with the cookies that go along: nobody gets another's page */
  get(whose: string, asked: Asked): Fetched | undefined {
    const kept = this.#kept.get(`${whose} ${asked.url}`);
    if (!kept || kept.until <= performance.now()) return undefined;
    return kept.policy.satisfiesWithoutRevalidation({ ...asked, method: "GET" }) ? kept.got : undefined;
  }

  /** The headers by which it is asked whether what is kept has changed; undefined: nothing is kept that could tell. */
  question(whose: string, asked: Asked): Record<string, string> | undefined {
    const kept = this.#kept.get(`${whose} ${asked.url}`);
    const headers = kept?.policy.revalidationHeaders({ ...asked, method: "GET" });
    if (!headers || !(headers["if-none-match"] ?? headers["if-modified-since"])) return undefined;
    return Object.fromEntries(
      Object.entries(headers).flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : [])),
    );
  }

  /** What is kept, as the site's answer 304 leaves it. */
  unchanged(whose: string, asked: Asked, answer: Fetched): Fetched | undefined {
    const key = `${whose} ${asked.url}`;
    const kept = this.#kept.get(key);
    if (!kept) return undefined;
    const { policy, modified } = kept.policy.revalidatedPolicy({ ...asked, method: "GET" }, answer);
    // An answer 304 that names nothing of what is kept says as much: it was asked of that alone.
    this.#kept.set(key, { policy: modified ? kept.policy : policy, got: kept.got, until: performance.now() + longest });
    return kept.got;
  }

  keep(whose: string, asked: Asked, got: Fetched): void {
    if (got.status !== 200 || got.headers["set-cookie"]) return;
    const policy = new CachePolicy({ ...asked, method: "GET" }, got, { shared: false, cacheHeuristic: 0 });
    const tells = got.headers.etag !== undefined || got.headers["last-modified"] !== undefined;
    if (policy.storable() && (policy.timeToLive() > 0 || tells))
      this.#kept.set(`${whose} ${asked.url}`, { policy, got, until: performance.now() + longest });
  }
}
