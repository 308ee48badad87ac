import { setTimeout as wait } from "node:timers/promises";
import { pool } from "@/data/pool";
import { otherProcesses, type ProcessState } from "@/data/processes";
import { eventQueue } from "./events";
import { liveRulesets } from "./live";

/** So long the database may take to be called there, in milliseconds: whoever asks is to have an answer soon. */
const soon = 200;

let asking: Promise<boolean> | undefined;
/** Whether the database answers. One question at a time is under way: one that is not answered keeps no more connections busy. */
export function isDatabaseThere(): Promise<boolean> {
  asking ??= pool()
    .query("select 1")
    .then(
      () => true,
      () => false,
    )
    .finally(() => (asking = undefined));
  return Promise.race([asking, wait(soon).then(() => false)]);
}

/** Whether visitors can be answered: what is live was read once. From then on that is so without a database, too. */
export async function readiness() {
  const live = liveRulesets();
  const database = await isDatabaseThere();
  // What is live is read for the next who asks; this one does not wait for it.
  if (database && !live.isReady) await Promise.race([live.begin().catch(() => undefined), wait(soon)]);
  return {
    ready: live.isReady,
    sites: live.count,
    database,
    eventsWaiting: eventQueue().waiting,
    others: otherProcesses(),
  };
}

/** What a process that serves visitors tells of itself to the others. */
export async function ownState(): Promise<ProcessState> {
  const { waiting, counts } = eventQueue();
  return { ready: (await readiness()).ready, waiting, refused: counts.refused, dropped: counts.dropped };
}
