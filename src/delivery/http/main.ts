/** The delivery server as a process: one of any number beside each other. PORT, HOST and DATABASE_URL come from the environment. */
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { announce } from "@/data/processes";
import { eventQueue } from "../events";
import { flush as writeHeard } from "../heard";
import { liveRulesets } from "../live";
import { ownState } from "../ready";
import { deliveryServer } from "./server";

const port = Number(process.env.PORT ?? 4301);
const host = process.env.HOST ?? "127.0.0.1";
const address = process.env.MIRADA_DELIVERY ?? `http://localhost:${port}`;
const perMinute = Number(process.env.MIRADA_PER_MINUTE ?? 1200);

const app = await deliveryServer({
  address,
  perMinute,
  log: process.env.MIRADA_LOG !== "off",
  // What runs in visitors' pages is built beside this program.
  script: join(import.meta.dirname, "page.js"),
  collect: join(import.meta.dirname, "collect.js"),
  goals: join(import.meta.dirname, "goals.js"),
  look: join(import.meta.dirname, "look.js"),
  // The application's port is the one before, unless its address is told.
  workbench: process.env.MIRADA_ORIGIN ?? `http://localhost:${port - 1}`,
});
// What is served is read before the first visitor asks.
await liveRulesets()
  .begin()
  .catch(() => undefined);
await app.listen({ port, host });
console.log(`delivery ready on ${port}`);
// What a process left that was killed is taken up.
eventQueue();
const leave = announce("delivery", port, ownState);

let stopping = false;
/** No new requests; those that are under way are answered, events that wait are written; then it ends, within ten seconds. */
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  await Promise.race([app.close(), wait(2000)]);
  await Promise.race([writeHeard(), wait(1000)]);
  await eventQueue().drain(5000);
  await leave();
  process.exit(0);
}
for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => void stop());
// Whoever started it is gone: nobody could stop it later.
process.once("disconnect", () => void stop());
