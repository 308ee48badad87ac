import { forgetOldEvents, tendPartitions } from "@/data/events";
import { allSites, longTransaction } from "@/data/pool";
import { lookAtAll } from "./drift";
import { releaseDue } from "./reviews";

/** Does something again and again; one failure (the database is away, say) is no reason to stop. */
function every(milliseconds: number, work: () => Promise<unknown>): void {
  let busy = false;
  const go = () => {
    if (busy) return;
    busy = true;
    work()
      .catch(() => undefined)
      .finally(() => {
        busy = false;
      });
  };
  go();
  setInterval(go, milliseconds).unref();
}

/** Several processes may do the same beside each other: each of these takes care that only one of them does it. */
export function startTimers(): void {
  every(1000, releaseDue);
  every(3_600_000, async () => {
    await longTransaction(allSites, tendPartitions);
    await longTransaction(allSites, forgetOldEvents);
  });
  every(600_000, lookAtAll);
}
