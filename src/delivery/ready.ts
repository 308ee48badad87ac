import { pool } from "@/data/pool";
import { eventQueue } from "./events";
import { liveRulesets } from "./live";

/** Whether visitors of a site can be answered. Once something is live here that is so without a database, too. */
export async function readiness(site: string) {
  const live = await liveRulesets()
    .get(site)
    .catch(() => undefined);
  const database = await pool()
    .query("select 1")
    .then(
      () => true,
      () => false,
    );
  return { ready: live !== undefined, release: live?.release ?? null, database, eventsWaiting: eventQueue().waiting };
}
