import type { SiteEvent } from "@/core/formats/event";
import { parseAddress } from "@/core/visit/address";
import { clientAddress } from "./client-address";
import { readDeviceOnce } from "./devices";
import { completed, eventQueue } from "./events";
import { liveRulesets } from "./live";
import { now } from "@/clock";

interface From {
  peer: string | undefined;
  forwarded: string | undefined;
  userAgent: string | undefined;
}

/** Takes events of a page: where and with what device is known from the request, and only as a group. False: there is no room. */
export async function takeEvents(site: string, events: readonly SiteEvent[], from: From): Promise<boolean> {
  const live = await liveRulesets().get(site);
  if (!live) return false;
  const address = parseAddress(clientAddress(from.peer, from.forwarded, live.trustedProxies) ?? "");
  const known = {
    country: (address && live.lookup(address)?.country) ?? "",
    device: readDeviceOnce(from.userAgent, undefined)?.kind ?? "",
  };
  return eventQueue().take(
    site,
    events.flatMap((event) => completed(event, known, now()) ?? []),
  );
}
