/** npm run fuzz [-- COUNT]: decides made-up hostile requests, 1,000,000 unless told otherwise, and prints the count. */
import { fuzz } from "./lib/fuzz";

const count = Number(process.argv[2] ?? 1_000_000);
if (!Number.isInteger(count) || count < 1) {
  console.error("npm run fuzz -- COUNT: how many requests, a whole number");
  process.exit(2);
}
const report = fuzz(count, Number(process.env.SEED ?? 1), (done) => console.error(`${done.toLocaleString("en")} …`));
for (const failure of report.failures) console.error(JSON.stringify(failure));
console.log(
  `${report.inputs.toLocaleString("en")} requests, ${report.failures.length} failures, longest ${report.longest.toFixed(2)} ms, 99.99 % within ${report.nearlyLongest.toFixed(2)} ms`,
);
process.exitCode = report.failures.length === 0 ? 0 : 1;
