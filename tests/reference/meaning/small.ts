/** Small rulesets and visits for the cases of what is written about the engine: one sentence, one case. */
import { readRuleset } from "@/core/ruleset/check";
import { readVisit, type Visit } from "@/core/formats/visit";
import type { Ruleset } from "@/core/formats/ruleset";

export const at = "2026-11-24T10:15:00Z";
export const url = "https://shop.example/";
export const base = {
  id: "x",
  name: "X",
  zone: "Europe/Lisbon",
  currency: "EUR",
  language: "en",
  origin: "https://shop.example",
};
const read = (more: object) => readRuleset({ format: "mirada-ruleset/1", site: base, ...more });
export function rulesetWith(more: object): Ruleset {
  const told = read(more);
  if (!told.ok) throw new Error(JSON.stringify(told.problems));
  return told.value;
}
/** Where a ruleset is refused. */
export function problemsWith(more: object): string[] {
  const told = read(more);
  return told.ok ? [] : told.problems.map(({ path, problem }) => `${path} ${problem}`);
}
export function visitWith(more: object): Visit {
  const told = readVisit({ at, url, ...more });
  if (!told.ok) throw new Error(JSON.stringify(told.problems));
  return told.value;
}
/** What is wrong with a visit; "ok": nothing. */
export function visitProblems(more: object): string {
  const told = readVisit({ at, url, ...more });
  return told.ok ? "ok" : JSON.stringify(told.problems);
}
export const condition = (signal: string, op: string, value?: unknown, more: object = {}): object => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
  ...more,
});
