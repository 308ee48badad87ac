/**
 * npm run chaos [-- --short]: breaks the built product in every way that broke it once, while visitors look and an editor types, and
 * prints a line for each: what was sent, how it was answered, what was lost or doubled, the slowest answer to an innocent visitor.
 * On loopback, on a database of its own, for about a minute.
 */
import { chaos } from "./lib/chaos";

const trials = await chaos(process.argv.includes("--short"), (trial) => console.log(JSON.stringify(trial)));
const faults = trials.flatMap((trial) => trial.faults);
console.log(`${trials.length} trials, ${faults.length} faults`);
process.exit(faults.length === 0 ? 0 : 1);
