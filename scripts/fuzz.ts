/**
 * npm run fuzz [-- COUNT]: decides made-up hostile requests, 1,000,000 unless told otherwise, and prints the count.
 * npm run fuzz -- --http [COUNT]: asks the built product over HTTP, on a database of its own; 200,000 requests unless told otherwise.
 */
import { fuzz } from "./lib/fuzz";
import { longestAnswer } from "./lib/fuzz-http";
import { fuzzProduct } from "./lib/fuzz-product";

const byHttp = process.argv[2] === "--http";
const count = Number(process.argv[byHttp ? 3 : 2] ?? (byHttp ? 200_000 : 1_000_000));
if (!Number.isInteger(count) || count < 1) {
  console.error("npm run fuzz -- [--http] COUNT: how many requests, a whole number");
  process.exit(2);
}
const seed = Number(process.env.SEED ?? 1);
const progress = (done: number) => console.error(`${done.toLocaleString("en")} …`);
if (byHttp) {
  const { requests, answered, failures, slow, longest } = await fuzzProduct(count, seed, progress);
  for (const failure of [...failures, ...slow]) console.error(JSON.stringify(failure));
  console.log(JSON.stringify(answered));
  console.log(
    `${requests.toLocaleString("en")} requests, ${failures.length} answered 500 or not at all, ${slow.length} in more than ${longestAnswer} ms; longest ${longest.toFixed(1)} ms`,
  );
  process.exit(failures.length + slow.length === 0 ? 0 : 1);
}
const report = fuzz(count, seed, progress);
for (const failure of report.failures) console.error(JSON.stringify(failure));
console.log(
  `${report.inputs.toLocaleString("en")} requests, ${report.failures.length} failures, longest ${report.longest.toFixed(2)} ms, 99.99 % within ${report.nearlyLongest.toFixed(2)} ms`,
);
process.exitCode = report.failures.length === 0 ? 0 : 1;
