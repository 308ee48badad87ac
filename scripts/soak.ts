/**
 * npm run soak -- inspect [rulesets] [first seed]: holds what the analysis says of made-up rulesets against 2,000 random visits
 * each, and every witness against the engine, on all processors. Says what was judged, and ends with exit 1 if anything is not so.
 */
import { fork } from "node:child_process";
import { availableParallelism } from "node:os";
import { emptyReport, soakOne, type SoakReport } from "../tests/generated/soak";

const VISITS = 2000;
const [what, count = "10000", first = "1"] = process.argv.slice(2);
if (what !== "inspect" || !/^\d+$/.test(count) || !/^\d+$/.test(first)) {
  console.error("npm run soak -- inspect [rulesets] [first seed]");
  process.exit(2);
}

/** A helper is asked for one seed after another, and tells what it found of each. */
if (process.send)
  process.on("message", (seed: number) => {
    const report = emptyReport();
    soakOne(seed, VISITS, report);
    process.send?.(report);
  });
else lead(Number(first), Number(count));

function lead(from: number, rulesets: number): void {
  const all = emptyReport();
  let next = from;
  let running = 0;
  for (let helper = Math.min(availableParallelism(), rulesets); helper > 0; helper--) {
    const child = fork(process.argv[1] ?? "", process.argv.slice(2));
    running += 1;
    let asked: number | undefined;
    const ask = () => {
      asked = next < from + rulesets ? next++ : undefined;
      if (asked === undefined) child.disconnect();
      else child.send(asked);
    };
    child.on("message", (report: SoakReport) => {
      for (const item of report.wrong) console.log(JSON.stringify(item));
      add(all, report);
      if (all.rulesets % 500 === 0) console.log(`${all.rulesets} of ${rulesets} rulesets`);
      ask();
    });
    child.on("exit", (code) => {
      // What ended in the middle of a ruleset has not held.
      if (asked !== undefined) {
        console.error(`Seed ${asked}: its process ended with ${code ?? "a signal"}`);
        process.exit(1);
      }
      if (--running === 0) conclude(all);
    });
    ask();
  }
  if (running === 0) conclude(all);
}

function add(all: SoakReport, one: SoakReport): void {
  all.rulesets += one.rulesets;
  all.wrong.push(...one.wrong);
  all.notFoundButThere += one.notFoundButThere;
  for (const [name, times] of Object.entries(one.judgements))
    all.judgements[name] = (all.judgements[name] ?? 0) + times;
}

function conclude(all: SoakReport): void {
  console.log(JSON.stringify(all.judgements, null, 2));
  const judged = Object.values(all.judgements).reduce((sum, one) => sum + one, 0);
  console.log(
    `${all.rulesets} rulesets, ${judged} judgements, ${all.wrong.length} not so; ${all.notFoundButThere} not found but there`,
  );
  process.exit(all.wrong.length === 0 ? 0 : 1);
}
