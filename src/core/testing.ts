/** Small makers for tests: a ruleset and visits with only what a test is about. */
import { createEngine, type Engine } from "./decision/engine";
import type { TellerGroups, VisitGroups } from "./formats/event";
import type { Rule } from "./formats/rule";
import type { Ruleset } from "./formats/ruleset";
import { readVisit, type Visit } from "./formats/visit";
import { readRuleset } from "./ruleset/check";

export const site = {
  id: "shop",
  name: "Shop",
  zone: "Europe/Lisbon",
  currency: "EUR",
  language: "en",
  origin: "https://shop.example",
};

/** The groups of an event of whom nothing is known. */
export const ofNobody: VisitGroups & TellerGroups = {
  source: "",
  campaign: "",
  visits: "",
  country: "",
  device: "",
  language: "",
  system: "",
};

/** A ruleset from its parts. @throws Error with the problems, should it have any. */
export function ruleset(parts: Record<string, unknown> = {}): Ruleset {
  const read = readRuleset({ format: "mirada-ruleset/1", site, ...parts });
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value;
}

/** The problems of a ruleset made of parts, each as "path code". */
export function problemsOf(parts: Record<string, unknown>): string[] {
  const read = readRuleset({ format: "mirada-ruleset/1", site, ...parts });
  return read.ok ? [] : read.problems.map((item) => `${item.path} ${item.code}`);
}

export const visit = (parts: Record<string, unknown> = {}): Visit => {
  const read = readVisit({ at: "2026-11-24T10:15:00Z", url: "https://shop.example/", ...parts });
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value;
};

export const variant = (id: string, rule: unknown = null, more: Record<string, unknown> = {}) => ({
  id,
  name: id,
  rule,
  arms: [{ id: "a", weight: 100, content: null }],
  ...more,
});

/** An engine with one slot "s" whose variants have the given rules, by id. */
export const engineOf = (rules: Record<string, unknown>, parts: Record<string, unknown> = {}): Engine =>
  createEngine(
    ruleset({
      ...parts,
      slots: [{ id: "s", name: "S", variants: Object.entries(rules).map(([id, rule]) => variant(id, rule)) }],
    }),
  );

/** What one rule says of one visit: "true", "false" or "unknown". */
export function truth(rule: unknown, parts: Record<string, unknown> = {}, rules: Record<string, unknown> = {}): string {
  const engine = engineOf({ v: rule }, rules);
  const decision = engine.decide(visit(parts), { trace: true });
  const trace = decision.trace?.slots[0]?.variants[0];
  const shown = decision.slots.s?.[0]?.variant === "v";
  if (shown !== (trace?.rule.verdict === "true")) throw new Error("the compiled rule and the plain evaluator disagree");
  return trace?.rule.verdict ?? "none";
}

export type { Rule };
