/**
 * npm run bench: one JSON line a figure. Slot decisions per CPU second on the same rules and the same visits, round by
 * round in one process, beside json-logic-engine (compiled) and json-rules-engine, with the winners compared.
 */
import { LogicEngine } from "json-logic-engine";
import { Engine } from "json-rules-engine";
import { createEngine } from "@/core/decision/engine";
import { readySlot } from "@/core/decision/slots";
import type { Rule } from "@/core/formats/rule";
import { readVisit, type Visit } from "@/core/formats/visit";
import { readRuleset } from "@/core/ruleset/check";
import { RuleCompiler } from "@/core/rules/compile";
import { RuleContext } from "@/core/rules/condition";
import { readDeviceOnce } from "@/delivery/devices";

let state = 42;
const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 12) % n;
const countries = ["PT", "ES", "DE", "FR", "NL", "NO", "US", "BR"];
const agents = {
  phone:
    "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36",
  desktop:
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
};
const kinds = ["phone", "desktop"] as const;

interface Facts {
  source: string;
  country: string;
  device: string;
  name: string;
}
interface Row {
  source: string;
  device: string;
  pair: [string, string];
}

function rows(count: number): Row[] {
  return Array.from({ length: count }, (_, i) => ({
    source: `source-${i % Math.max(4, count)}`,
    device: kinds[random(2)]!,
    pair: [countries[random(8)]!, countries[random(8)]!],
  }));
}
const ours = (row: Row): Rule => ({
  all: [
    { signal: "campaign.source", op: "is", value: row.source },
    { signal: "device.kind", op: "is", value: row.device },
    { signal: "place", op: "isIn", value: row.pair.map((country) => ({ country })) },
  ],
});
const logic = (row: Row) => ({
  and: [
    { "==": [{ var: "source" }, row.source] },
    { "==": [{ var: "device" }, row.device] },
    { in: [{ var: "country" }, row.pair] },
  ],
});
const rule = (row: Row, index: number, count: number) => ({
  conditions: {
    all: [
      { fact: "source", operator: "equal", value: row.source },
      { fact: "device", operator: "equal", value: row.device },
      { fact: "country", operator: "in", value: row.pair },
    ],
  },
  event: { type: String(index) },
  priority: count - index,
});

/** CPU seconds that `work` takes. */
async function cpu(work: () => unknown): Promise<number> {
  const start = process.cpuUsage();
  await work();
  const used = process.cpuUsage(start);
  return (used.user + used.system) / 1e6;
}
const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
const line = (figure: object) => console.log(JSON.stringify(figure));

for (const count of [5, 50, 500]) {
  const variants = rows(count);
  const facts: Facts[] = Array.from({ length: 1000 }, () => ({
    source: `source-${random(Math.max(4, count) + 2)}`,
    country: countries[random(8)]!,
    device: kinds[random(2)]!,
    name: "",
  }));
  const visits: Visit[] = facts.map((fact) => {
    const read = readVisit({
      at: "2026-11-24T10:15:00Z",
      url: `https://shop.example/?utm_source=${fact.source}`,
      userAgent: agents[fact.device as keyof typeof agents],
      place: { country: fact.country },
    });
    if (!read.ok) throw new Error("a visit of the benchmark is wrong");
    return read.value;
  });
  const read = readRuleset({
    format: "mirada-ruleset/1",
    site: {
      id: "s",
      name: "S",
      zone: "Europe/Lisbon",
      currency: "EUR",
      language: "en",
      origin: "https://shop.example",
    },
    slots: [
      {
        id: "s",
        name: "S",
        variants: variants.map((row, i) => ({
          id: `v${i}`,
          name: "v",
          rule: ours(row),
          arms: [{ id: "a", weight: 100, content: null }],
        })),
      },
    ],
  });
  if (!read.ok) throw new Error("the ruleset of the benchmark is wrong");
  const engine = createEngine(read.value, { device: readDeviceOnce });
  const slot = readySlot(read.value.slots[0]!, new RuleCompiler(new RuleContext(read.value)));
  const readings = visits.map((visit) => engine.read(visit));

  const jsonLogic = new LogicEngine();
  const compiled = variants.map((row) => jsonLogic.build(logic(row)) as (data: Facts) => boolean);
  const other = new Engine(variants.map((row, i) => rule(row, i, count)) as never);

  const mirada = () => readings.map((reading) => slot.choose(reading, undefined, reading.at)[0]?.id ?? null);
  const whole = () => visits.map((visit) => engine.decide(visit).slots.s?.[0]?.variant ?? null);
  const byLogic = () =>
    facts.map((fact) => {
      const index = compiled.findIndex((holds) => holds(fact));
      return index < 0 ? null : `v${index}`;
    });
  const few = Math.max(10, Math.floor(2000 / count));
  const byRules = async () => {
    const out: (string | null)[] = [];
    for (const fact of facts.slice(0, few)) {
      const { events } = await other.run(fact);
      out.push(events.length === 0 ? null : `v${Math.min(...events.map((event) => Number(event.type)))}`);
    }
    return out;
  };

  const winners = mirada();
  const equal =
    JSON.stringify(winners) === JSON.stringify(byLogic()) &&
    JSON.stringify(winners) === JSON.stringify(whole()) &&
    JSON.stringify(winners.slice(0, few)) === JSON.stringify(await byRules());
  const times: Record<"mirada" | "whole" | "logic" | "rules", number[]> = {
    mirada: [],
    whole: [],
    logic: [],
    rules: [],
  };
  for (let round = 0; round < 7; round++) {
    const repeat = count > 100 ? 5 : 40;
    times.mirada.push(
      (await cpu(() => {
        for (let i = 0; i < repeat * 5; i++) mirada();
      })) /
        (repeat * 5 * visits.length),
    );
    times.whole.push(
      (await cpu(() => {
        for (let i = 0; i < 5; i++) whole();
      })) /
        (5 * visits.length),
    );
    times.logic.push(
      (await cpu(() => {
        for (let i = 0; i < repeat; i++) byLogic();
      })) /
        (repeat * visits.length),
    );
    times.rules.push((await cpu(byRules)) / few);
  }
  const perSecond = (list: number[]) => Math.round(1 / median(list));
  line({
    figure: "slot decisions per CPU second",
    variants: count,
    mirada: perSecond(times.mirada),
    "mirada, from a raw visit": perSecond(times.whole),
    "json-logic-engine, compiled": perSecond(times.logic),
    "json-rules-engine": perSecond(times.rules),
    "times json-logic-engine": Number((median(times.logic) / median(times.mirada)).toFixed(2)),
    "times json-rules-engine": Number((median(times.rules) / median(times.mirada)).toFixed(1)),
    "winners equal": equal,
    shown: winners.filter((id) => id !== null).length,
  });
}
