import pg from "pg";
import { createEngine, type Engine } from "@/core/decision/engine";
import { readRuleset } from "@/core/ruleset/check";
import { liveChannel, liveNumber, liveRelease } from "@/data/releases";
import type { Block } from "@/core/visit/address";
import type { PlaceLookup } from "@/core/visit/places";
import { deliverySettings } from "@/data/delivery";
import { siteLookup } from "@/data/places";
import { readBlocks } from "./client-address";
import { readDeviceOnce } from "./devices";

/** What is live of one site, ready to decide. */
export interface Live {
  engine: Engine;
  release: number;
  lookup: PlaceLookup;
  trustedProxies: readonly Block[];
  /** Hosts, with their ports, whose pages may stand in a frame here. */
  otherHosts: readonly string[];
  /** Signs what is kept in visitors' browsers. */
  secret: Uint8Array;
}

/** How often it is asked what is live, in case a notice was lost. */
const pollEvery = 2000;

/**
 * Keeps what is live of each site compiled in memory. A release is told by NOTIFY and, should that be lost, found by
 * polling. Visitors are answered from memory even while the database is away.
 */
class LiveRulesets {
  readonly #sites = new Map<string, Live>();
  readonly #loading = new Map<string, Promise<Live | undefined>>();
  #listening = false;

  /** The engine of a site's live release; undefined if nothing is live. */
  async get(site: string): Promise<Live | undefined> {
    if (!this.#listening) this.#start();
    return this.#sites.get(site) ?? this.#load(site);
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
    const release = await liveRelease(site);
    if (!release) return undefined;
    const read = readRuleset(release.ruleset);
    if (!read.ok) throw new Error(`release ${release.number} of ${site} is damaged`);
    const lookup = await siteLookup(site);
    const { trustedProxies, otherHosts, secret } = await deliverySettings(site);
    const live: Live = {
      engine: createEngine(read.value, {
        device: readDeviceOnce,
        lookup,
        mayLeadTo: (host) => otherHosts.includes(host),
      }),
      otherHosts,
      release: release.number,
      lookup,
      trustedProxies: readBlocks(trustedProxies),
      secret,
    };
    this.#sites.set(site, live);
    return live;
  }

  #start(): void {
    this.#listening = true;
    void this.#listen();
    const poll = setInterval(() => {
      for (const [site, live] of this.#sites)
        liveNumber(site)
          .then(
            (number) => (number !== undefined && number !== live.release ? this.#load(site) : undefined),
            () => undefined,
          )
          .catch(() => undefined);
    }, pollEvery);
    poll.unref();
  }

  async #listen(): Promise<void> {
    const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
    const again = (): void => void setTimeout(() => void this.#listen(), pollEvery).unref();
    let ended = false;
    const end = (): void => {
      if (ended) return;
      ended = true;
      client.end().catch(() => undefined);
      again();
    };
    client.on("error", end);
    client.on("end", end);
    client.on("notification", ({ payload }) => {
      // A load that began before the notice may have read the release before it: always read once more.
      if (payload)
        void (this.#loading.get(payload) ?? Promise.resolve())
          .catch(() => undefined)
          .then(() => this.#load(payload))
          .catch(() => undefined);
    });
    try {
      await client.connect();
      await client.query(`listen ${liveChannel}`);
    } catch {
      end();
    }
  }
}

const shared = globalThis as { miradaLive?: LiveRulesets };
/** The live rulesets of this process. */
export const liveRulesets = (): LiveRulesets => (shared.miradaLive ??= new LiveRulesets());
