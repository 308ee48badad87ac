import { runCheck } from "@/core/checks/run";
import { createEngine } from "@/core/decision/engine";
import { readChecks } from "@/core/formats/check";
import { BadInput, loadPlaces, loadRuleset, parseJson, readArgs, readText } from "./input";

/** Runs saved checks: a line each, and a closing count. Exit 0 if all passed, else 1. */
export async function check(args: string[]): Promise<number> {
  const { positionals, values } = readArgs(args, ["RULESET", "CHECKS"], {
    places: { type: "string", multiple: true, default: [] },
  });
  const lookup = loadPlaces(values.places);
  const engine = createEngine(loadRuleset(positionals[0] as string), lookup ? { lookup } : {});
  const file = positionals[1] as string;
  const read = readChecks(parseJson(readText(file), file));
  if (!read.ok) throw new BadInput(`${file}: ${read.problems[0]?.path || "(whole)"}: ${read.problems[0]?.problem}`);
  let failed = 0;
  for (const item of read.value) {
    const { passed, found } = runCheck(item, engine);
    if (!passed) failed += 1;
    process.stdout.write(`${passed ? "passed" : "failed"}  ${item.name}${passed ? "" : `: ${found}`}\n`);
  }
  process.stdout.write(`${read.value.length - failed} passed, ${failed} failed\n`);
  return failed === 0 ? 0 : 1;
}
