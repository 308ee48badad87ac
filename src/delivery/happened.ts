import * as z from "zod";
import { eventSchema } from "@/core/formats/event";
import { parseAddress } from "@/core/visit/address";
import { clientAddress } from "./client-address";
import { readDeviceOnce } from "./devices";
import { clockError, completed, eventQueue } from "./events";
import { liveRulesets } from "./live";
import { now } from "@/clock";

/** What a page tells: events, and what its clock said when it sent them. */
export const toldSchema = z.strictObject({
  sent: z.iso.datetime({ offset: true }).optional(),
  events: z.array(eventSchema).min(1).max(200),
});

interface From {
  peer: string | undefined;
  forwarded: string | undefined;
  userAgent: string | undefined;
}

/** Takes events of a page: where and with what device is known from the request, and only as a group. False: there is no room. */
export async function takeEvents(site: string, told: z.output<typeof toldSchema>, from: From): Promise<boolean> {
  const live = await liveRulesets().get(site);
  if (!live) return false;
  const address = parseAddress(clientAddress(from.peer, from.forwarded, live.trustedProxies) ?? "");
  const known = {
    country: (address && live.lookup(address)?.country) ?? "",
    device: readDeviceOnce(from.userAgent, undefined)?.kind ?? "",
  };
  const at = now();
  const ahead = clockError(told.sent, at);
  return eventQueue().take(
    site,
    told.events.flatMap((event) => completed(event, known, at, ahead) ?? []),
  );
}
