import { createEngine, type Engine } from "@/core/decision/engine";
import { withPauses } from "@/core/release/pause";
import { readRuleset } from "@/core/ruleset/check";
import { listen } from "@/data/listen";
import { listPauses } from "@/data/pauses";
import { liveChannel, liveMark, liveRelease } from "@/data/releases";
import type { Block } from "@/core/visit/address";
import type { PlaceLookup } from "@/core/visit/places";
import { deliverySettings } from "@/data/delivery";
import { siteLookup } from "@/data/places";
import { listSites, readSite } from "@/data/sites";
import { cacheAdvice, type PageAdvice } from "@/core/analysis/cache";
import type { Leaning } from "@/core/visit/signals";
import { goodKeys } from "@/data/keys";
import { listPages } from "@/data/pages";
import { createHash } from "node:crypto";
import { setTimeout as wait } from "node:timers/promises";
import { readBlocks } from "./client-address";
import { logFailure } from "@/data/failures";
import { readDeviceOnce } from "./devices";

/** What is live of one site, ready to decide. */
export interface Live {
  engine: Engine;
  release: number;
  /** Changes with everything that is kept here. */
  mark: string;
  lookup: PlaceLookup;
  trustedProxies: readonly Block[];
  /** A strong mark of the ruleset as it is served: for ETag. */
  etag: string;
  /** Keys that are good, by the key itself (public) or its digest (secret). */
  keys: ReadonlyMap<string, "public" | "secret">;
  /** Origins whose pages may ask by script. */
  origins: ReadonlySet<string>;
  /** How a page may be cached, beside what its own part leans on; worked out once, when it is first asked for. */
  advice: (path: string, own: readonly Leaning[]) => PageAdvice | undefined;
  /** Hosts, with their ports, whose pages may stand in a frame here. */
  otherHosts: readonly string[];
  /** Signs what is kept in visitors' browsers. */
  secret: Uint8Array;
  /** For so many days events are kept. */
  eventDays: number;
}

/** Of so many sites at most what is live is read at the start; the others' is read when their first visitor comes. */
const mostAtStart = 500;
/** How often it is asked what is live, in case a notice was lost. */
const pollEvery = 2000;
/** So long whoever asks for what was never read waits for the database, in milliseconds. */
const longestWait = 3000;
const tooLate = async (): Promise<never> => {
  await wait(longestWait, undefined, { ref: false });
  throw Object.assign(new Error("The database does not answer"), { code: "ETIMEDOUT" });
};

/**
 * Keeps what is live of each site compiled in memory. A release is told by NOTIFY and, should that be lost, found by
 * polling. Visitors are answered from memory even while the database is away.
 */
class LiveRulesets {
  readonly #sites = new Map<string, Live>();
  /** Sites of which nothing was found, and when: they are not asked for again at once. */
  readonly #missing = new Map<string, number>();
  /** Releases of which it was said that they are damaged: once, however often they are looked at. */
  readonly #damaged = new Set<string>();
  readonly #loading = new Map<string, Promise<Live | undefined>>();
  #listening = false;

  /** The engine of a site's live release; undefined if nothing is live. */
  async get(site: string): Promise<Live | undefined> {
    if (!this.#listening) this.#start();
    const live = this.#sites.get(site);
    if (live) return live;
    if ((this.#missing.get(site) ?? -Infinity) > performance.now() - pollEvery) return undefined;
    return Promise.race([this.#load(site), tooLate()]);
  }

  /** Reads what is live of every site, so that the first visitor of each need not wait; and hears of changes from here on. */
  async begin(): Promise<void> {
    if (!this.#listening) this.#start();
    const sites = await listSites();
    for (const site of sites.filter((row) => row.release !== null && !row.archivedAt).slice(0, mostAtStart))
      await this.#load(site.id).catch(() => undefined);
    this.isReady = true;
  }

  /** Whether what is live was read once. */
  isReady = false;
  /** Of how many sites something is kept here. */
  get count(): number {
    return this.#sites.size;
  }

  /** What is kept already, without asking anybody; undefined: nothing of it yet. */
  peek(site: string): Live | undefined {
    return this.#sites.get(site);
  }

  #load(site: string): Promise<Live | undefined> {
    let loading = this.#loading.get(site);
    if (!loading) {
      loading = this.#read(site).finally(() => this.#loading.delete(site));
      this.#loading.set(site, loading);
    }
    return loading;
  }

  async #read(site: string): Promise<Live | undefined> {
    // Asked first: should something change while the rest is read, the next poll finds another mark.
    const mark = await liveMark(site);
    const release = await liveRelease(site);
    if (!release) {
      if (this.#missing.size > 1000) this.#missing.clear();
      this.#missing.set(site, performance.now());
      // What was live and is not any more (the site is archived, or gone) is not served on.
      this.#sites.delete(site);
      return undefined;
    }
    const read = readRuleset(release.ruleset, false);
    if (!read.ok) {
      const { path, problem } = read.problems[0] ?? { path: "", problem: "" };
      const damaged = new Error(`release ${release.number} of ${site} is damaged`);
      if (!this.#damaged.has(damaged.message))
        logFailure("what is live cannot be read", { site, release: release.number, path, problem }, damaged);
      this.#damaged.add(damaged.message);
      throw damaged;
    }
    const lookup = await siteLookup(site);
    const { trustedProxies, otherHosts, origins, secret, eventDays } = await deliverySettings(site);
    const [keys, pages, row] = await Promise.all([goodKeys(site), listPages(site), readSite(site)]);
    const advice = new Map<string, PageAdvice | undefined>();
    const live: Live = {
      engine: createEngine(withPauses(read.value, await listPauses(site)), {
        device: readDeviceOnce,
        lookup,
        mayLeadTo: (host) => otherHosts.includes(host),
      }),
      otherHosts,
      eventDays,
      keys,
      origins: new Set([...origins, ...(row?.origins ?? [])]),
      etag: `"${createHash("sha256").update(`${release.sha256} ${mark}`).digest("base64url").slice(0, 27)}"`,
      advice(path, own) {
        if (!advice.has(path)) {
          const page = pages.find((item) => item.path === path);
          // A path that is no page is not kept: anybody may ask for any number of those.
          if (!page) return undefined;
          advice.set(path, cacheAdvice(live.engine.ruleset, [page], own)[0]);
        }
        return advice.get(path);
      },
      release: release.number,
      mark,
      lookup,
      trustedProxies: readBlocks(trustedProxies),
      secret,
    };
    this.#sites.set(site, live);
    return live;
  }

  #start(): void {
    this.#listening = true;
    void listen(liveChannel, (site) => this.#heard(site));
    const poll = setInterval(() => {
      for (const [site, live] of this.#sites)
        liveMark(site)
          .then(
            (mark) => (mark !== live.mark ? this.#load(site) : undefined),
            () => undefined,
          )
          .catch(() => undefined);
    }, pollEvery);
    poll.unref();
  }

  /** A load that began before the notice may have read the release before it: always read once more. */
  #heard(site: string): void {
    void (this.#loading.get(site) ?? Promise.resolve())
      .catch(() => undefined)
      .then(() => this.#load(site))
      .catch(() => undefined);
  }
}

const shared = globalThis as { miradaLive?: LiveRulesets };
/** The live rulesets of this process. */
export const liveRulesets = (): LiveRulesets => (shared.miradaLive ??= new LiveRulesets());
