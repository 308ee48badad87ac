import { findings } from "@/core/analysis/findings";
import { loadRuleset, readArgs } from "./input";
import { now } from "@/clock";

/** Prints the findings on a ruleset as JSON lines; exit 1 if there are any, else 0. */
export async function inspect(args: string[]): Promise<number> {
  const { positionals } = readArgs(args, ["RULESET"], {});
  const ruleset = loadRuleset(positionals[0] as string);
  let count = 0;
  for (const { finding } of findings({ ruleset, from: now() })) {
    if (!finding) continue;
    count += 1;
    process.stdout.write(`${JSON.stringify(finding)}\n`);
  }
  return count === 0 ? 0 : 1;
}
