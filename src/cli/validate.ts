import { readRuleset } from "@/core/ruleset/check";
import { parseJson, readArgs, readText } from "./input";

/** Prints the problems of a ruleset as a JSON array; exit 0 if it is empty, else 2. */
export async function validate(args: string[]): Promise<number> {
  const { positionals } = readArgs(args, ["RULESET"], {});
  const file = positionals[0] as string;
  const read = readRuleset(parseJson(readText(file), file));
  const problems = read.ok ? [] : read.problems.map(({ path, problem }) => ({ path, problem }));
  process.stdout.write(`${JSON.stringify(problems)}\n`);
  return read.ok ? 0 : 2;
}
