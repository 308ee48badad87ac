/**
 * All that broke the product once, done to it as it is built while visitors look and an editor types: on loopback, bounded, on a
 * database of its own with a standby. What is lost, doubled or late is counted.
 */
import { readFileSync } from "node:fs";
import http from "node:http";
import { followedDatabase } from "../../tests/system/followed";
import { serve, visitors } from "../../tests/system/served";
import { typist } from "../../tests/system/typing";
import { freePorts } from "./steps.mjs";
import { productPrograms, supervise } from "./supervise.mjs";

/** What came of one trial. */
export interface Trial {
  what: string;
  /** So many were sent, and so they were answered: by status, "none" where the connection was ended. */
  sent?: number;
  answered?: Record<string, number>;
  /** The slowest answer to an innocent visitor meanwhile, in milliseconds. */
  slowest: number;
  /** Innocent visitors who were answered, and who were not, or wrongly. */
  visitors: number;
  wrong: number;
  more?: Record<string, number>;
  /** What ought not to be; empty: it held. */
  faults: string[];
}

const site = "chaos";
const pause = (milliseconds: number) => new Promise((next) => setTimeout(next, milliseconds));

/** Asks once, whatever becomes of it. @returns the status, "none" where the connection was ended first */
const ask = (port: number, path: string, body?: Buffer, type = "application/json"): Promise<string> =>
  new Promise((done) => {
    const request = http.request(
      {
        ...{ host: "127.0.0.1", port, path, method: body ? "POST" : "GET" },
        headers: {
          host: `localhost:${port}`,
          ...(body ? { "content-type": type, "content-length": body.length } : {}),
        },
      },
      (response) => {
        response.on("error", () => undefined).resume();
        done(String(response.statusCode));
      },
    );
    request.on("error", () => done("none"));
    request.end(body);
  });

/** So many at a time, and how each was answered. */
async function asked(count: number, atOnce: number, one: (number: number) => Promise<string>) {
  const answered: Record<string, number> = {};
  let number = 0;
  const worker = async () => {
    while (number < count) {
      const status = await one(number++);
      answered[status] = (answered[status] ?? 0) + 1;
    }
  };
  await Promise.all(Array.from({ length: atOnce }, worker));
  return { sent: count, answered };
}

/** What children of this process run, by a part of their command line. */
function childrenOf(part: string): number[] {
  const pids = readFileSync(`/proc/${process.pid}/task/${process.pid}/children`, "utf8").trim().split(" ").map(Number);
  return pids.filter((pid) => readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(part));
}
const memoryOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]) / 1024;

/** @param short a form that fits into tests */
export async function chaos(short: boolean, told: (trial: Trial) => void): Promise<Trial[]> {
  const trials: Trial[] = [];
  const many = (count: number) => (short ? Math.ceil(count / 10) : count);
  const database = await followedDatabase("chaos");
  const port = await freePorts([1, 2, 3]);
  Object.assign(process.env, { MIRADA_DATABASE_SECONDS: "3", MIRADA_PER_MINUTE: "1000000", MIRADA_LOG: "off" });
  const on = await serve(site, database.url);
  await on.putLive("first");
  const { somebody } = await import("../../tests/system/support");
  const stop = await supervise(productPrograms(port));
  const load = visitors(on, port + 1, "first");
  const editor = await typist(await somebody(site, "editor"));
  let [answers, wrong] = [0, 0];
  const took = () => {
    const found = {
      visitors: load.answers() - answers,
      wrong: load.bad.length - wrong,
      slowest: Math.round(load.slowest()),
    };
    [answers, wrong] = [load.answers(), load.bad.length];
    return found;
  };
  const trial = async (what: string, work: () => Promise<Partial<Trial>>, patience: number, mayMiss = false) => {
    took();
    const found = await work();
    const innocent = took();
    const faults = [...(found.faults ?? [])];
    if (innocent.wrong > 0 && !mayMiss) faults.push(`${innocent.wrong} visitors were not answered rightly`);
    if (innocent.slowest > patience) faults.push(`a visitor waited for ${innocent.slowest} ms`);
    if (innocent.visitors === 0) faults.push("no visitor was answered");
    const done = { what, ...innocent, ...found, faults };
    trials.push(done);
    told(done);
  };
  const only = (answered: Record<string, number>, allowed: readonly string[]) =>
    Object.keys(answered).flatMap((status) =>
      allowed.includes(status) ? [] : [`${answered[status]} were answered ${status}`],
    );
  const processes = ["application", "delivery", "mirror"] as const;

  try {
    await pause(1000);
    const targets = [`/?${"a=1&".repeat(16_000)}`, `/?${"a=1&".repeat(3000)}`, `/?${Array(501).fill("a=1").join("&")}`];
    const ports = [port, port + 1, port + 3];
    await trial(
      "long addresses, on every port",
      async () => {
        const one = (number: number) => ask(ports[number % 3]!, targets[Math.floor(number / 3) % 3]!);
        const found = await asked(many(900), 8, one);
        return { ...found, faults: only(found.answered, ["414", "431", "none"]) };
      },
      1000,
    );
    const body = Buffer.alloc((short ? 30 : 100) * 1024 * 1024, "a");
    const paths: [port: number, path: string][] = [
      ...["/enter", "/happened", "/consent", `/s/${site}/archive`].map((path): [number, string] => [port, path]),
      ...["/v1/page", "/v1/events", "/v1/decide"].map((path): [number, string] => [port + 1, path]),
    ];
    await trial(
      "bodies of many megabytes from strangers",
      async () => {
        const pids = processes.flatMap((name) => childrenOf(`${name}.mjs`));
        const before = pids.map(memoryOf);
        const one = (number: number) => ask(...paths[number % paths.length]!, body, "text/plain");
        const found = await asked(many(70), 4, one);
        const grown = Math.round(Math.max(...pids.map((pid, index) => memoryOf(pid) - before[index]!)));
        const faults = only(found.answered, ["413", "none"]);
        if (grown > 200) faults.push(`a process grew by ${grown} MB`);
        return { ...found, more: { "megabytes more in the process that grew most": grown }, faults };
      },
      2000,
    );
    await trial(
      "events that cannot be kept, beside those that can",
      async () => {
        const event = (more: object) => ({
          ...{ id: crypto.randomUUID(), kind: "click", slot: "a", variant: "a-v", arm: "x" },
          ...more,
        });
        const odd = [
          { slot: "a\0" },
          { arm: "\ud800" },
          { value: 1e300 },
          { value: -1 },
          { kind: "sale" },
          { at: "yesterday" },
        ];
        const found = await asked(many(600), 4, async (number) =>
          String(await on.tell(port + 1, [event(odd[number % odd.length]!)])),
        );
        // What only says more is cleaned: no batch is spoilt by it.
        const kept = await on.tell(port + 1, [event({ name: "a\0b", source: "\udc00" }), event({})]);
        const faults = [
          ...only(found.answered, ["400"]),
          ...(kept === 202 ? [] : [`what only says more was answered ${kept}`]),
        ];
        return { ...found, faults };
      },
      1000,
    );
    await trial(
      "the line to the database goes silent, and comes back",
      async () => {
        database.line.silence();
        await pause(short ? 4000 : 15_000);
        database.line.again();
        await pause(4000);
        return {};
      },
      1000,
    );
    for (const name of processes)
      await trial(
        `${name}: killed`,
        async () => {
          const [pid] = childrenOf(`${name}.mjs`);
          process.kill(pid!, "SIGKILL");
          const began = performance.now();
          const at = { application: "/health", delivery: "/health", mirror: "/~mirada/health" }[name];
          const there = { application: port, delivery: port + 1, mirror: port + 3 }[name];
          while ((await ask(there, at)) !== "200" && performance.now() - began < 30_000) await pause(20);
          const back = Math.round(performance.now() - began);
          return {
            more: { "milliseconds until it was back": back },
            faults: back < 20_000 ? [] : [`it was not back in ${back} ms`],
          };
        },
        5000,
        // There is one of it here: who comes while it is away is not answered.
        name === "delivery",
      );
    await trial(
      "the database's machine is lost, and its standby takes over",
      async () => {
        const typed = editor.typed();
        database.lose();
        await pause(2000);
        database.promote();
        await pause(5000);
        const faults = editor.typed() > typed ? [] : ["the editor could not go on"];
        return { more: { "the editor's longest wait, milliseconds": Math.round(editor.slowest()) }, faults };
      },
      1000,
    );
    await load.end();
    await editor.end();
    const client = on.everySite(database.standbyUrl);
    await client.connect();
    const count = async (sql: string) => Number((await client.query(sql, [site])).rows[0].n);
    const exposures = "from events where site = $1 and kind = 'exposure'";
    for (let tries = 0; tries < 40 && (await count(`select count(*) as n ${exposures}`)) < load.ids.size; tries++)
      await pause(250);
    const kept = (await client.query<{ id: string }>(`select id ${exposures}`, [site])).rows.map(({ id }) => id);
    const sums = await count(
      "select coalesce(sum(count), 0) as n from event_hours where site = $1 and kind = 'exposure'",
    );
    const lost = [...load.ids].filter((id) => !kept.includes(id)).length;
    const words = await count("select count(*) as n from audit_trail where site = $1 and says like 'typed %'");
    await client.end();
    const doubled = kept.length - new Set(kept).size;
    const faults = [
      ...(lost + doubled === 0 ? [] : [`${lost} events are lost, ${doubled} doubled`]),
      ...(sums === kept.length ? [] : [`${kept.length} events make ${sums} in their sums`]),
      ...(words === editor.typed() ? [] : [`of ${editor.typed()} saves ${words} are kept`]),
      ...editor.failures.map(String),
    ];
    const done: Trial = {
      what: "in the end",
      ...took(),
      more: {
        "events that were taken": load.ids.size,
        lost,
        doubled,
        "saves that were answered": editor.typed(),
        "of them kept": words,
      },
      faults,
    };
    trials.push(done);
    told(done);
  } finally {
    await load.end();
    await editor.end();
    await stop();
    await on.end();
    database.stop();
  }
  return trials;
}
