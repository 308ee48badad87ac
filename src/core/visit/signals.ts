import type { SignalKind } from "../formats/operators";
import type { DataField } from "../formats/ruleset";

export interface SignalInfo {
  kind: SignalKind;
  /** The words people read for it, as they stand in a sentence: "the source". */
  label: string;
  /** Where it belongs when signals are listed. */
  group: SignalGroup;
}

export const signalGroups = [
  "Time", "Place", "Campaign", "Link", "Referrer and search", "Device", "Language", "Page", "History", "Markers", "Cart", "Site data",
] as const; // prettier-ignore
export type SignalGroup = (typeof signalGroups)[number];

const entry = (kind: SignalKind, group: SignalGroup, label: string): SignalInfo => ({ kind, group, label });

/** Signals with a fixed name. */
export const fixedSignals: Readonly<Record<string, SignalInfo>> = {
  time: entry("schedule", "Time", "the time"),
  place: entry("place", "Place", "the place"),
  "campaign.source": entry("text", "Campaign", "the campaign source"),
  "campaign.medium": entry("text", "Campaign", "the campaign medium"),
  "campaign.name": entry("text", "Campaign", "the campaign name"),
  "campaign.term": entry("text", "Campaign", "the campaign term"),
  "campaign.content": entry("text", "Campaign", "the campaign content"),
  "campaign.id": entry("text", "Campaign", "the campaign id"),
  "referrer.kind": entry("text", "Referrer and search", "the kind of referrer"),
  "referrer.host": entry("text", "Referrer and search", "the referring site"),
  "referrer.url": entry("text", "Referrer and search", "the referring page"),
  "search.engine": entry("text", "Referrer and search", "the search engine"),
  "search.words": entry("text", "Referrer and search", "the search"),
  "device.kind": entry("text", "Device", "the device"),
  "device.os": entry("text", "Device", "the system"),
  "device.browser": entry("text", "Device", "the browser"),
  "device.browserVersion": entry("number", "Device", "the browser version"),
  "device.width": entry("number", "Device", "the window width"),
  language: entry("language", "Language", "the language"),
  "page.path": entry("text", "Page", "the path"),
  "page.id": entry("text", "Page", "the page"),
  "page.category": entry("text", "Page", "the page category"),
  "page.language": entry("text", "Page", "the page language"),
  "page.tags": entry("texts", "Page", "the page tags"),
  "page.text": entry("text", "Page", "the page text"),
  "history.views": entry("number", "History", "the pages seen in this visit"),
  "history.visits": entry("number", "History", "the number of visits"),
  "history.minutes": entry("number", "History", "the minutes since this visit began"),
  "history.daysSinceLast": entry("number", "History", "the days since the last visit"),
  "history.returning": entry("flag", "History", "returning"),
  "history.landing": entry("text", "History", "the landing page"),
  "cart.subtotal": entry("money", "Cart", "the cart value"),
  "cart.total": entry("money", "Cart", "the cart total after offers"),
  "cart.count": entry("number", "Cart", "the number of items in the cart"),
  "cart.skus": entry("texts", "Cart", "the items in the cart"),
  "cart.categories": entry("texts", "Cart", "the categories in the cart"),
  ip: entry("address", "Site data", "the IP address"),
};

/** What a ruleset declares that makes further signals. */
export interface SignalNames {
  dataFields: readonly DataField[];
  markers: readonly { id: string; name: string }[];
  offers: readonly { id: string; name: string }[];
}

const prefixes = ["query.", "cookie.", "history.category.", "marker.", "cart.toGo.", "page.data.", "data."] as const;

/** A signal parted into what comes before its free name, and the name: `query.`, `x`. */
export function splitSignal(signal: string): { prefix: (typeof prefixes)[number]; name: string } | undefined {
  const prefix = prefixes.find((text) => signal.startsWith(text) && signal.length > text.length);
  return prefix && { prefix, name: signal.slice(prefix.length) };
}

/** What a signal is; undefined if there is no such signal in a ruleset that declares `names`. */
export function signalInfo(signal: string, names: SignalNames): SignalInfo | undefined {
  if (Object.hasOwn(fixedSignals, signal)) return fixedSignals[signal];
  const split = splitSignal(signal);
  if (!split) return undefined;
  const { prefix, name } = split;
  switch (prefix) {
    case "query.":
      return entry("texts", "Link", `the parameter “${name}”`);
    case "cookie.":
      return entry("text", "Site data", `the cookie “${name}”`);
    case "history.category.":
      return entry("number", "History", `the views of ${name}`);
    case "marker.": {
      const marker = names.markers.find((item) => item.id === name);
      return marker && entry("flag", "Markers", `the marker “${marker.name}”`);
    }
    case "cart.toGo.": {
      const offer = names.offers.find((item) => item.id === name);
      return offer && entry("money", "Cart", `what is missing to “${offer.name}”`);
    }
    default: {
      const source = prefix === "data." ? "data" : "page.data";
      const field = names.dataFields.find((item) => item.signal === source && item.name === name);
      return (
        field &&
        entry(
          field.kind,
          source === "data" ? "Site data" : "Page",
          `“${name}”${source === "data" ? "" : " of the page"}`,
        )
      );
    }
  }
}
