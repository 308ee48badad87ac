/**
 * npm run soak -- inspect [rulesets] [first seed]: holds what the analysis says of made-up rulesets against 2,000 random visits
 * each, and every witness against the engine. Says what was judged, and ends with exit 1 if anything is not so.
 */
import { soak } from "../tests/generated/soak";

const [what, count = "10000", first = "1"] = process.argv.slice(2);
if (what !== "inspect" || !/^\d+$/.test(count) || !/^\d+$/.test(first)) {
  console.error("npm run soak -- inspect [rulesets] [first seed]");
  process.exit(2);
}
let told = 0;
const report = soak(Number(first), Number(count), 2000, (done, { wrong }) => {
  for (const item of wrong.slice(told, (told = wrong.length))) console.log(JSON.stringify(item));
  if (done % 500 === 0) console.log(`${done} of ${count} rulesets`);
});
console.log(JSON.stringify(report.judgements, null, 2));
const judged = Object.values(report.judgements).reduce((sum, one) => sum + one, 0);
console.log(
  `${report.rulesets} rulesets, ${judged} judgements, ${report.wrong.length} not so; ${report.notFoundButThere} not found but there`,
);
process.exit(report.wrong.length === 0 ? 0 : 1);
