import { pool } from "@/data/pool";
import { eventQueue } from "./events";
import { liveRulesets } from "./live";

/** Whether visitors can be answered: what is live was read once. From then on that is so without a database, too. */
export async function readiness() {
  const live = liveRulesets();
  const database = await pool()
    .query("select 1")
    .then(
      () => true,
      () => false,
    );
  if (database && !live.isReady) await live.begin().catch(() => undefined);
  return { ready: live.isReady, sites: live.count, database, eventsWaiting: eventQueue().waiting };
}
