import { createEngine } from "@/core/decision/engine";
import type { Decision } from "@/core/decision/decision";
import { cachedDevices } from "@/core/visit/device";
import { loadPlaces, loadRuleset, loadVisits, readArgs } from "./input";

const withoutContent = (decision: Decision): object => ({
  ...decision,
  slots: Object.fromEntries(
    Object.entries(decision.slots).map(([id, shown]) => [id, shown.map(({ variant, arm }) => ({ variant, arm }))]),
  ),
  popup: decision.popup && { ...decision.popup, content: undefined },
});

/** Prints one decision a line, in the order of the visits. */
export async function decide(args: string[]): Promise<number> {
  const flag = { type: "boolean", default: false } as const;
  const { positionals, values } = readArgs(args, ["RULESET", "VISITS"], {
    trace: flag,
    content: flag,
    carry: flag,
    places: { type: "string", multiple: true, default: [] },
  });
  const ruleset = loadRuleset(positionals[0] as string);
  const visits = loadVisits(positionals[1] as string);
  const lookup = loadPlaces(values.places);
  const engine = createEngine(ruleset, {
    ...(lookup ? { lookup } : {}),
    device: cachedDevices(),
  });
  const memories = new Map<string, unknown>();
  const lines: string[] = [];
  for (const visit of visits) {
    const id = visit.visitorId;
    const carried = values.carry && id !== undefined && visit.memory === undefined ? memories.get(id) : undefined;
    const decision = engine.decide(carried === undefined ? visit : { ...visit, memory: carried }, {
      trace: values.trace,
    });
    if (values.carry && id !== undefined) memories.set(id, decision.memory ?? undefined);
    lines.push(JSON.stringify(values.content ? decision : withoutContent(decision)));
  }
  if (lines.length > 0) process.stdout.write(`${lines.join("\n")}\n`);
  return 0;
}
