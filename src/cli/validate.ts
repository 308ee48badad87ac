import { readRuleset } from "@/core/ruleset/check";
import { parseJson, readArgs, readText } from "./input";

/** Prints the problems of a ruleset as a JSON array; exit 0 if it is empty, else 2. */
export async function validate(args: string[]): Promise<number> {
  const { positionals } = readArgs(args, ["RULESET"], {});
  const file = positionals[0] as string;
  const read = readRuleset(parseJson(readText(file), file));
  process.stdout.write(`${JSON.stringify(read.ok ? [] : read.problems)}\n`);
  return read.ok ? 0 : 2;
}
