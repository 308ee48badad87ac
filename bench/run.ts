/**
 * npm run bench: one JSON line a figure. Slot decisions per CPU second on the same rules and the same visits, round by
 * round in one process, beside json-logic-engine (compiled), json-logic-js and json-rules-engine, with the winners compared.
 */
import { LogicEngine } from "json-logic-engine";
import jsonLogic from "json-logic-js";
import { Engine } from "json-rules-engine";
import { createEngine } from "@/core/decision/engine";
import { readySlot } from "@/core/decision/slots";
import type { Rule } from "@/core/formats/rule";
import { readVisit, type Visit } from "@/core/formats/visit";
import { readRuleset } from "@/core/ruleset/check";
import { RuleCompiler } from "@/core/rules/compile";
import { RuleContext } from "@/core/rules/condition";
import { readDevice } from "@/core/visit/device";
import { languageChoices } from "@/core/visit/language";
import { Reading, readingRules } from "@/core/visit/reading";
import { readDeviceOnce } from "@/delivery/devices";
import { analysisFigures } from "./analysis";
import { cpu, line, median, random } from "./measure";
import { deliveryFigures } from "./delivery";
import { pageFigures } from "./pages";
import { replayFigures } from "./replay";
import { resultFigures } from "./results";

const only = (part: string): boolean => process.argv.includes(part);
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
  cookies: Record<string, string>;
}
interface Row {
  /** Every fourth rule hinges on one of eight cookies, the others on the campaign source. */
  cookie: string | undefined;
  source: string;
  device: string;
  pair: [string, string];
}

function rows(count: number): Row[] {
  return Array.from({ length: count }, (_, i) => ({
    cookie: i % 4 === 3 ? `c${random(8)}` : undefined,
    source: `source-${i % Math.max(4, count)}`,
    device: kinds[random(2)]!,
    pair: [countries[random(8)]!, countries[random(8)]!],
  }));
}
const ours = (row: Row): Rule => ({
  all: [
    { signal: row.cookie ? `cookie.${row.cookie}` : "campaign.source", op: "is", value: row.source },
    { signal: "device.kind", op: "is", value: row.device },
    { signal: "place", op: "isIn", value: row.pair.map((country) => ({ country })) },
  ],
});
const logic = (row: Row) => ({
  and: [
    { "==": [{ var: row.cookie ? `cookies.${row.cookie}` : "source" }, row.source] },
    { "==": [{ var: "device" }, row.device] },
    { in: [{ var: "country" }, row.pair] },
  ],
});
const rule = (row: Row, index: number, count: number) => ({
  conditions: {
    all: [
      row.cookie
        ? { fact: "cookies", path: `$.${row.cookie}`, operator: "equal", value: row.source }
        : { fact: "source", operator: "equal", value: row.source },
      { fact: "device", operator: "equal", value: row.device },
      { fact: "country", operator: "in", value: row.pair },
    ],
  },
  event: { type: String(index) },
  priority: count - index,
});

const spent = new Map<number, number>();
const parts = ["--decisions", "--analysis", "--replay", "--delivery", "--results", "--pages"];
/** Whether a part is run: all are, unless some are named. */
const wanted = (part?: string): boolean => (part && only(part)) || !parts.some(only);

for (const count of wanted("--decisions") ? [5, 50, 500, 5000] : []) {
  const variants = rows(count);
  const facts: Facts[] = Array.from({ length: 1000 }, () => ({
    source: `source-${random(Math.max(4, count) + 2)}`,
    country: countries[random(8)]!,
    device: kinds[random(2)]!,
    cookies: random(4) === 0 ? { [`c${random(8)}`]: `source-${random(Math.max(4, count))}` } : {},
  }));
  const visits: Visit[] = facts.map((fact) => {
    const read = readVisit({
      at: "2026-11-24T10:15:00Z",
      url: `https://shop.example/?utm_source=${fact.source}`,
      userAgent: agents[fact.device as keyof typeof agents],
      place: { country: fact.country },
      cookies: fact.cookies,
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

  const logicEngine = new LogicEngine();
  const written = variants.map(logic);
  const compiled = written.map((item) => logicEngine.build(item) as (data: Facts) => boolean);
  // Slow beyond measure at this size.
  const other = count > 500 ? undefined : new Engine(variants.map((row, i) => rule(row, i, count)) as never);

  const mirada = () => readings.map((reading) => slot.choose(reading, undefined, reading.at)[0]?.id ?? null);
  const whole = () => visits.map((visit) => engine.decide(visit).slots.s?.[0]?.variant ?? null);
  const byLogic = () =>
    facts.map((fact) => {
      const index = compiled.findIndex((holds) => holds(fact));
      return index < 0 ? null : `v${index}`;
    });
  const few = Math.max(10, Math.floor(2000 / count));
  const someFacts = facts.slice(0, Math.max(50, Math.floor(100_000 / count)));
  const byPlainLogic = () =>
    someFacts.map((fact) => {
      const index = written.findIndex((item) => jsonLogic.apply(item as never, fact));
      return index < 0 ? null : `v${index}`;
    });
  const byRules = async () => {
    const out: (string | null)[] = [];
    if (!other) return out;
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
    JSON.stringify(winners.slice(0, someFacts.length)) === JSON.stringify(byPlainLogic()) &&
    (!other || JSON.stringify(winners.slice(0, few)) === JSON.stringify(await byRules()));
  const times: Record<"mirada" | "whole" | "logic" | "plain" | "rules", number[]> = {
    mirada: [],
    whole: [],
    logic: [],
    plain: [],
    rules: [],
  };
  for (let round = 0; round < 7; round++) {
    const repeat = count > 1000 ? 1 : count > 100 ? 5 : 40;
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
    times.plain.push((await cpu(byPlainLogic)) / someFacts.length);
    if (other) times.rules.push((await cpu(byRules)) / few);
  }
  const perSecond = (list: number[]) => Math.round(1 / median(list));
  line({
    figure: "slot decisions per CPU second",
    variants: count,
    mirada: perSecond(times.mirada),
    "mirada, from a raw visit": perSecond(times.whole),
    "json-logic-engine, compiled": perSecond(times.logic),
    "json-logic-js": perSecond(times.plain),
    ...(other ? { "json-rules-engine": perSecond(times.rules) } : {}),
    "times json-logic-engine": Number((median(times.logic) / median(times.mirada)).toFixed(2)),
    "times json-logic-js": Number((median(times.plain) / median(times.mirada)).toFixed(1)),
    ...(other ? { "times json-rules-engine": Number((median(times.rules) / median(times.mirada)).toFixed(1)) } : {}),
    "winners equal": equal,
    shown: winners.filter((id) => id !== null).length,
  });
  spent.set(count, median(times.mirada));

  if (count === 50) {
    // A whole decision from a raw visit, and the share of its steps.
    const rules = readingRules(read.value);
    const step = async (work: (visit: Visit) => unknown) => {
      const rounds: number[] = [];
      for (let round = 0; round < 7; round++)
        rounds.push(
          (await cpu(() => {
            for (let i = 0; i < 20; i++) for (const visit of visits) work(visit);
          })) /
            (20 * visits.length),
        );
      return median(rounds);
    };
    const all = await step((visit) => engine.decide(visit));
    const url = await step((visit) => new Reading(visit, rules).query);
    const device = await step((visit) => readDeviceOnce(visit.userAgent));
    const fresh = await step((visit) => readDevice(visit.userAgent));
    const language = await step(() => languageChoices("pt-PT,pt;q=0.9,en;q=0.5"));
    line({
      figure: "whole decision from a raw visit, 50 variants, and the share of its steps",
      "decisions per CPU second": Math.round(1 / all),
      "URL and query": Number((url / all).toFixed(2)),
      "user agent, met before": Number((device / all).toFixed(2)),
      "user agent, new (beside the whole)": Number((fresh / all).toFixed(2)),
      "languages (beside the whole)": Number((language / all).toFixed(2)),
      "choosing among 50 variants": Number((median(times.mirada) / all).toFixed(2)),
    });
  }
}
if (wanted("--decisions"))
  line({
    figure: "growth: time of a slot decision at 5,000 variants beside 50",
    times: Number(((spent.get(5000) as number) / (spent.get(50) as number)).toFixed(2)),
  });
if (wanted("--analysis")) await analysisFigures();
if (wanted("--replay")) await replayFigures();
if (wanted("--delivery")) await deliveryFigures();
if (only("--results")) await resultFigures();
// Against a demo that is running.
if (only("--pages")) await pageFigures();
