import { LRUCache } from "lru-cache";
import * as z from "zod";
import { eventSchema } from "@/core/formats/event";
import { clientAddress } from "./client-address";
import { completed, completingOf, eventQueue } from "./events";
import { tellerGroups } from "./groups";
import { liveRulesets } from "./live";

/** What a page tells: events, and what its clock said when it sent them. */
export const toldSchema = z.strictObject({
  sent: z.iso.datetime({ offset: true }).optional(),
  events: z.array(eventSchema).min(1).max(200),
});

interface From {
  peer: string | undefined;
  forwarded: string | undefined;
  userAgent: string | undefined;
  acceptLanguage: string | undefined;
}

/** So often one address may tell something in a minute, as at the delivery server. */
const perMinute = 1200;
const asked = new LRUCache<string, { count: number }>({ max: 20_000, ttl: 60_000 });

/** Whether an address has told too often lately; each call counts. */
function isTooOften(address: string): boolean {
  const known = asked.get(address);
  if (known) known.count += 1;
  else asked.set(address, { count: 1 });
  return (known?.count ?? 1) > perMinute;
}

/** The status of HTTP for what a page told: taken, too often from one address, or no room for more. */
export type Taken = 202 | 429 | 503;

/** Takes events of a page: where and with what device is known from the request, and only as a group. */
export async function takeEvents(site: string, told: z.output<typeof toldSchema>, from: From): Promise<Taken> {
  const live = await liveRulesets().get(site);
  if (!live) return 503;
  const address = clientAddress(from.peer, from.forwarded, live.trustedProxies);
  if (isTooOften(`${site} ${address ?? ""}`)) return 429;
  const known = tellerGroups({ ...from, address }, live.lookup);
  const completing = completingOf(live, told.sent, true);
  const events = told.events.flatMap((event) => completed(event, known, completing) ?? []);
  return eventQueue().take(site, events) ? 202 : 503;
}
