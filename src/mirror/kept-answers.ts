/**
 * Answers that a site calls fresh (RFC 9111, as a browser's own cache reads it) are not asked for again at once: lens after lens
 * looks at the same page. Only for a few seconds, since whoever looks may be changing the site meanwhile.
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

export class KeptAnswers {
  readonly #kept = new LRUCache<string, { policy: CachePolicy; got: Fetched; until: number }>({
    maxSize: mostBytes,
    sizeCalculation: ({ got }) => got.bytes.length + 1000,
  });

  /** @param whose names the looker, with the cookies that go along: nobody gets another's page */
  get(whose: string, asked: Asked): Fetched | undefined {
    const kept = this.#kept.get(`${whose} ${asked.url}`);
    if (!kept || kept.until <= performance.now()) return undefined;
    return kept.policy.satisfiesWithoutRevalidation({ ...asked, method: "GET" }) ? kept.got : undefined;
  }

  keep(whose: string, asked: Asked, got: Fetched): void {
    if (got.status !== 200 || got.headers["set-cookie"]) return;
    const policy = new CachePolicy({ ...asked, method: "GET" }, got, { shared: false, cacheHeuristic: 0 });
    if (policy.storable() && policy.timeToLive() > 0)
      this.#kept.set(`${whose} ${asked.url}`, { policy, got, until: performance.now() + longest });
  }
}
