import { parseInstant, type Visit } from "../formats/visit";
import { shiftMemory } from "../memory/made";

/** A made-up visit at another instant: its past moves along, so that "three days ago" stays three days ago. */
export function visitAt(visit: Visit, at: number): Visit {
  const next: Visit = { ...visit, at: new Date(at).toISOString() };
  const memory = shiftMemory(visit.memory, at - (parseInstant(visit.at) as number));
  if (memory) next.memory = memory;
  return next;
}
