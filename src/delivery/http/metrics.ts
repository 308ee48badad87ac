import type { FastifyInstance } from "fastify";
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from "prom-client";
import { eventQueue } from "../events";

/** The figures of a process, for Prometheus to fetch. No label ever names a visitor. */
export function makeMetrics() {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  const requests = new Counter({
    name: "mirada_requests_total",
    help: "Requests by route and status",
    labelNames: ["route", "status"],
    registers,
  });
  const seconds = new Histogram({
    name: "mirada_request_seconds",
    help: "How long requests took",
    labelNames: ["route"],
    buckets: [0.0005, 0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1],
    registers,
  });
  const event = (name: "taken" | "written" | "twice" | "refused" | "dropped" | "failures", help: string) =>
    new Gauge({
      name: `mirada_events_${name}`,
      help,
      registers,
      collect() {
        this.set(eventQueue().counts[name]);
      },
    });
  event("taken", "Events taken since the start");
  event("written", "Events written to the database since the start");
  event("twice", "Events that were known already");
  event("refused", "Events refused, because too many were waiting");
  event("dropped", "Events that could never be written");
  event("failures", "Writes to the database that failed");
  new Gauge({
    name: "mirada_events_waiting",
    help: "Events waiting to be written",
    registers,
    collect() {
      this.set(eventQueue().waiting);
    },
  });
  return { registry, requests, seconds };
}
export type Metrics = ReturnType<typeof makeMetrics>;

/** Counts and times every answer, and logs a line for each that failed. */
export function measure(app: FastifyInstance, metrics: Metrics, log: boolean): void {
  app.addHook("onResponse", async (request, reply) => {
    const route = request.routeOptions.url ?? "none";
    metrics.requests.inc({ route, status: reply.statusCode });
    metrics.seconds.observe({ route }, reply.elapsedTime / 1000);
    if (log && reply.statusCode >= 500)
      app.log.warn({ route, status: reply.statusCode, milliseconds: reply.elapsedTime });
  });
}
