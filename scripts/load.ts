/**
 * npm run load -- [seconds] [per second]: asks a running demo's delivery server at a set rate, and says what became of it. Only
 * on loopback, and it ends by itself. PORT is the workbench's; a secret key is made for the run and ended after it.
 */
import { endKey, listKeys, makeKey } from "@/data/keys";
import { pool, transaction } from "@/data/pool";
import { nowText } from "@/clock";

const [seconds = 300, rate = 500] = process.argv.slice(2).map(Number);
const port = Number(process.env.PORT ?? 4300) + 1;
const site = "brackenfold";
const key = await transaction(site, (db) => makeKey(site, "secret", "load", "mirada", db));
await new Promise((next) => setTimeout(next, 1000));
const sources = ["mossmail", "quarry", "", "stone-and-moss"];
const places = ["PT", "ES", "DE", "US"];
let asked = 0;
let good = 0;
const failures = new Map<string, number>();
const times: number[] = [];
const ask = async (number: number): Promise<void> => {
  const began = performance.now();
  const source = sources[number % sources.length];
  const visit = {
    at: nowText(),
    url: `https://brackenfold.example/${source ? `?utm_source=${source}` : ""}`,
    place: { country: places[number % places.length] },
  };
  try {
    const answer = await fetch(`http://127.0.0.1:${port}/v1/decide`, {
      method: "POST",
      headers: { authorization: `Bearer ${key}`, "content-type": "application/json" },
      body: JSON.stringify({ visit }),
    });
    const { decision } = (await answer.json()) as { decision?: { slots: object } };
    if (answer.status === 200 && decision && Object.keys(decision.slots).length > 0) good += 1;
    else failures.set(String(answer.status), (failures.get(String(answer.status)) ?? 0) + 1);
  } catch (error) {
    failures.set(String(error), (failures.get(String(error)) ?? 0) + 1);
  }
  times.push(performance.now() - began);
};
const began = performance.now();
const open = new Set<Promise<void>>();
while (performance.now() - began < seconds * 1000) {
  const due = Math.floor(((performance.now() - began) / 1000) * rate);
  for (; asked < due; asked++) {
    const one: Promise<void> = ask(asked).finally(() => open.delete(one));
    open.add(one);
  }
  await new Promise((next) => setTimeout(next, 5));
}
await Promise.all(open);
times.sort((a, b) => a - b);
const at = (share: number) => Math.round((times[Math.floor(times.length * share)] ?? 0) * 10) / 10;
console.log(
  JSON.stringify({
    seconds,
    rate,
    asked,
    good,
    failures: Object.fromEntries(failures),
    milliseconds: { p50: at(0.5), p99: at(0.99), most: at(0.9999) },
  }),
);
const made = (await listKeys(site)).find((item) => item.name === "load" && !item.endedAt);
if (made) await transaction(site, (db) => endKey(site, made.id, db));
await pool().end();
process.exitCode = good === asked ? 0 : 1;
