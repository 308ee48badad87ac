import { forgetOldEvents, tendPartitions } from "@/data/events";
import { forgetFailures, logFailure } from "@/data/failures";
import { allSites, isDatabaseAway, longTransaction } from "@/data/pool";
import { lookAtAll } from "./drift";
import { releaseDue } from "./reviews";

/** Does something again and again; one failure (the database is away, say) is no reason to stop. @param what in words, for the log */
function every(milliseconds: number, what: string, work: () => Promise<unknown>): void {
  let busy = false;
  /** The failure that was logged last: each second's is not said again. */
  let said = "";
  const go = () => {
    if (busy) return;
    busy = true;
    work()
      .catch((error: unknown) => {
        if (isDatabaseAway(error)) return;
        const text = String(error);
        if (text !== said) logFailure(`${what}: failed`, {}, error);
        said = text;
      })
      .finally(() => {
        busy = false;
      });
  };
  go();
  setInterval(go, milliseconds).unref();
}

/** Several processes may do the same beside each other: each of these takes care that only one of them does it. */
export function startTimers(): void {
  every(1000, "putting live what is due", releaseDue);
  every(3_600_000, "tending events", async () => {
    await longTransaction(allSites, tendPartitions);
    await longTransaction(allSites, forgetOldEvents);
    await forgetFailures();
  });
  every(600_000, "looking for parts that are gone", lookAtAll);
}
