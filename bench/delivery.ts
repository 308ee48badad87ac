/** Decisions over HTTP beside an empty route of the same server, in the same run. Needs PostgreSQL, which it starts by itself. */
import { nowText } from "@/clock";
import autocannon from "autocannon";
import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { rulesetOf } from "@/core/draft/picks";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { withDatabase } from "./database";
import { line, median, random } from "./measure";

const site = "bench";

/** A site with one slot of so many variants, each for a source, a device and two countries. */
const draftWith = (variants: number) =>
  siteDraftSchema.parse({
    format: "mirada-ruleset/1",
    site: {
      id: site,
      name: "Bench",
      zone: "Europe/Lisbon",
      currency: "EUR",
      language: "en",
      origin: "https://shop.example",
    },
    slots: [
      {
        id: "s",
        name: "S",
        variants: Array.from({ length: variants }, (_, number) => ({
          id: `v${number}`,
          name: `V ${number}`,
          rule: {
            all: [
              { signal: "campaign.source", op: "is", value: `source-${number}` },
              { signal: "device.kind", op: "is", value: ["phone", "desktop"][random(2)] },
              { signal: "place", op: "isIn", value: [{ country: "PT" }, { country: "ES" }] },
            ],
          },
          arms: [{ id: "a", weight: 100, content: null }],
        })),
      },
    ],
  });

const agent =
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
const bodies = Array.from({ length: 200 }, (_, number) =>
  JSON.stringify({
    visit: {
      at: "2026-11-24T10:15:00Z",
      url: `https://shop.example/ferns?utm_source=source-${number % 60}`,
      userAgent: agent,
      acceptLanguage: "pt-PT,pt;q=0.9",
      place: { country: ["PT", "ES", "DE"][number % 3] },
    },
  }),
);

/** CPU seconds of a process so far, as Linux tells them (proc(5): ticks of a hundredth); NaN elsewhere. */
function cpuOf(pid: number | undefined): number {
  try {
    const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]?.split(" ") ?? [];
    return (Number(fields[11]) + Number(fields[12])) / 100;
  } catch {
    return NaN;
  }
}

/**
 * Requests a second and latencies of one route: the same bodies for both, over the same number of connections; and what the server
 * spent on each, since whoever asks takes its share of the machine.
 */
async function measure(url: string, key: string, seconds: number, server?: number) {
  const before = cpuOf(server);
  const result = await autocannon({
    url,
    connections: 20,
    duration: seconds,
    method: "POST",
    headers: { "content-type": "application/json", authorization: `Bearer ${key}` },
    requests: bodies.map((body) => ({ body })),
  });
  if (result.non2xx > 0 || result.errors > 0) throw new Error(`${result.non2xx + result.errors} requests failed`);
  return {
    rate: result.requests.average,
    p50: result.latency.p50,
    p99: result.latency.p99,
    cpu: ((cpuOf(server) - before) / result.requests.total) * 1e6,
  };
}

/** How fast events are written with their hourly sums, and what a row takes; how much memory a site's ruleset takes. */
async function eventFigures(): Promise<void> {
  const { keepEvents, tendPartitions } = await import("@/data/events");
  const { allSites, of } = await import("@/data/pool");
  const { createEngine } = await import("@/core/decision/engine");
  await tendPartitions(of(allSites));
  const batch = () =>
    Array.from({ length: 2000 }, () => ({
      site,
      id: crypto.randomUUID(),
      at: nowText(),
      kind: (["exposure", "exposure", "exposure", "click"] as const)[random(4)]!,
      slot: "s",
      variant: `v${random(50)}`,
      arm: "a",
      first: random(2) === 0,
      name: "",
      value: 0,
      country: ["PT", "ES", "DE", "FR"][random(4)]!,
      source: ["direct", "search", "mossmail"][random(3)]!,
      device: ["phone", "desktop"][random(2)]!,
      campaign: ["", "winter", "spring"][random(3)]!,
      language: ["pt", "de", "en"][random(3)]!,
      system: ["android", "ios", "windows"][random(3)]!,
      visits: (["", "new", "back"] as const)[random(3)]!,
    }));
  const rounds: number[] = [];
  for (let round = 0; round < 30; round++) {
    const events = batch();
    const began = performance.now();
    await keepEvents(events);
    rounds.push((events.length / (performance.now() - began)) * 1000);
  }
  const { rows } = await of(allSites).query<{ bytes: number }>(
    "select (sum(pg_total_relation_size(c.oid)) / 60000)::int as bytes from pg_inherits i join pg_class c on c.oid = i.inhrelid where i.inhparent = 'events'::regclass",
  );
  const perSecond = Math.round(median(rounds));
  line({
    figure: "events written by one process, with their hourly sums, in batches of 2,000",
    perSecond,
    aDayInMillions: Math.round((perSecond * 86_400) / 1e6),
    bytesARowWithIndex: rows[0]?.bytes,
  });
  global.gc?.();
  const before = process.memoryUsage().heapUsed;
  const engines = Array.from({ length: 100 }, () => createEngine(rulesetOf(draftWith(200))));
  global.gc?.();
  line({
    figure: "memory of a compiled ruleset of 200 variants",
    kilobytes: Math.round((process.memoryUsage().heapUsed - before) / engines.length / 1024),
    collected: global.gc !== undefined,
  });
}

export const deliveryFigures = (): Promise<void> => withDatabase(figures);

async function figures(): Promise<void> {
  const { createSite } = await import("@/data/draft");
  const { makeKey } = await import("@/data/keys");
  const { transaction } = await import("@/data/pool");
  const { putLive } = await import("@/data/releases");
  const { freePort } = (await import(`${process.cwd()}/scripts/lib/steps.mjs`)) as { freePort: () => Promise<number> };
  const port = await freePort();
  let server: ReturnType<typeof spawn> | undefined;
  try {
    const draft = draftWith(50);
    let key = "";
    await transaction(site, async (db) => {
      await createSite(draft, db);
      key = await makeKey(site, "secret", "bench", "bench", db);
      const ruleset = rulesetOf(draft);
      await putLive({ site, person: "bench", note: "", ruleset, sha256: "bench", draftVersion: 1 }, db);
    });
    server = spawn("node", [".next/mirada/delivery.mjs"], {
      env: { ...process.env, PORT: String(port), MIRADA_LOG: "off", MIRADA_BENCH: "1" },
      stdio: ["ignore", "pipe", "inherit"],
    });
    await new Promise<void>((resolve) =>
      server?.stdout?.on("data", (text) => String(text).includes("ready") && resolve()),
    );
    const base = `http://127.0.0.1:${port}`;
    await measure(`${base}/v1/decide`, key, 2);
    await measure(`${base}/empty`, key, 2);
    const rounds = [];
    for (let round = 0; round < 5; round++)
      rounds.push({
        decide: await measure(`${base}/v1/decide`, key, 4, server.pid),
        empty: await measure(`${base}/empty`, key, 4, server.pid),
      });
    line({
      figure: "decisions over HTTP beside an empty route of the same server, 50 variants",
      ratio: +median(rounds.map(({ decide, empty }) => decide.rate / empty.rate)).toFixed(3),
      wanted: 0.85,
      "ratio of the server's CPU time": +median(rounds.map(({ decide, empty }) => empty.cpu / decide.cpu)).toFixed(3),
      cpuMicroseconds: {
        decide: Math.round(median(rounds.map(({ decide }) => decide.cpu))),
        empty: Math.round(median(rounds.map(({ empty }) => empty.cpu))),
      },
      decisionsPerSecond: Math.round(median(rounds.map(({ decide }) => decide.rate))),
      emptyPerSecond: Math.round(median(rounds.map(({ empty }) => empty.rate))),
      decideMilliseconds: {
        p50: median(rounds.map(({ decide }) => decide.p50)),
        p99: median(rounds.map(({ decide }) => decide.p99)),
      },
      emptyMilliseconds: {
        p50: median(rounds.map(({ empty }) => empty.p50)),
        p99: median(rounds.map(({ empty }) => empty.p99)),
      },
    });
    await eventFigures();
  } finally {
    server?.kill("SIGTERM");
  }
}
