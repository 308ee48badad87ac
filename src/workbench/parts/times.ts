import { shortInstantPhrase } from "@/core/rules/phrases";

/** An instant (RFC 3339) in the site's zone, short; empty for what is none. */
export const timeWords = (at: string, zone: string): string =>
  Number.isNaN(Date.parse(at)) ? "" : shortInstantPhrase(Date.parse(at), zone);
