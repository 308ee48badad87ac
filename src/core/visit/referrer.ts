import type { SearchSource } from "../formats/ruleset";
import { mailHosts, socialHosts } from "./hosts";
import { longestDomain, plainHost } from "./url";
import { WebAddress } from "./web-address";

export type ReferrerKind = "direct" | "internal" | "search" | "mail" | "social" | "other";
export const referrerKinds: readonly ReferrerKind[] = ["direct", "internal", "search", "mail", "social", "other"];

/** A referrer, read. `host` is undefined if its URL has none. */
export interface Referrer {
  address: WebAddress;
  host: string | undefined;
  source: SearchSource | undefined;
}

/** Search sources by their plain host, so that the longest match is found by steps of a name. */
export function sourceTable(sources: readonly SearchSource[]): Map<string, SearchSource> {
  const out = new Map<string, SearchSource>();
  for (const source of sources) {
    const host = plainHost(source.host);
    if (!out.has(host)) out.set(host, source);
  }
  return out;
}

/** Reads a referrer; undefined if nothing was told or it is no URL: both are as if not told. */
export function readReferrer(
  text: string | undefined,
  sources: ReadonlyMap<string, SearchSource>,
): Referrer | undefined {
  const address = text ? WebAddress.read(text) : undefined;
  if (!address) return undefined;
  const host = address.host || undefined;
  return { address, host, source: host === undefined ? undefined : longestDomain(host, sources) };
}

/** What kind of page a visitor came from: the first that fits. `pageHost`: that of the page, as `plainHost` has it. */
export function referrerKind(referrer: Referrer | undefined, pageHost: string): ReferrerKind {
  if (!referrer) return "direct";
  const { host, source } = referrer;
  if (host === undefined) return "other";
  if (host === pageHost) return "internal";
  if (source) return "search";
  if (longestDomain(host, mailHosts)) return "mail";
  if (longestDomain(host, socialHosts)) return "social";
  return "other";
}
