/** What rules and texts expect of a link: which parameters, with which values, and who asks. */
import { asksState, namesValues, operators, positiveOf, type Op } from "../formats/operators";
import { groupOf, isCondition, walkRule, type Condition, type Rule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import { allContents, allRules, type Owner } from "../ruleset/uses";
import { parameterOf } from "../visit/signals";
import type { Tag } from "./link";

/** Whether an operator names whole values: what stands in it can be offered as it is spelled. */
const isNaming = (op: Op): boolean => namesValues(op) && !positiveOf(op).denied;
/** Whether a link can meet it by what it has. */
const canBeMet = (op: Op): boolean =>
  operators[op].kinds.includes("text") && !positiveOf(op).denied && (!asksState(op) || op === "isPresent");

/** A condition on a parameter of links. */
export interface Expectation {
  owner: Owner;
  condition: Condition;
  tag: string;
}

/** Parameters that the condition reads: words of a search also come from the ruleset's word parameters. */
const tagsOf = (signal: string, ruleset: Ruleset): string[] => {
  if (signal === "search.words") return ruleset.wordParameters;
  const tag = parameterOf(signal);
  return tag === undefined ? [] : [tag];
};

/** Every condition that a link can meet, in the order of the ruleset. */
export function expectations(ruleset: Ruleset): Expectation[] {
  const out: Expectation[] = [];
  for (const { owner, rule } of allRules(ruleset))
    walkRule(rule, (inner, path) => {
      if (inner === null || !isCondition(inner) || !canBeMet(inner.op)) return;
      // Within `none` a value keeps visitors out: no link is wanted for it.
      if (path.includes("none")) return;
      for (const tag of tagsOf(inner.signal, ruleset)) out.push({ owner, condition: inner, tag });
    });
  return out;
}

/** Every parameter that a rule or a text asks for: whatever else stands in a link, nobody here looks at it. */
export function askedTags(ruleset: Ruleset): Set<string> {
  const out = new Set<string>();
  const add = (signal: string) => tagsOf(signal, ruleset).forEach((tag) => out.add(tag));
  for (const { rule } of allRules(ruleset))
    walkRule(rule, (inner) => {
      if (inner !== null && isCondition(inner)) add(inner.signal);
    });
  for (const { content } of allContents(ruleset)) for (const token of Object.values(content.tokens)) add(token.signal);
  return out;
}

/** The values that rules name for a parameter, spelled as the first rule spells them. */
export function expectedValues(tag: string, ruleset: Ruleset): string[] {
  const out = new Set<string>();
  for (const { condition, tag: own } of expectations(ruleset))
    if (own === tag && isNaming(condition.op))
      for (const value of [condition.value].flat()) if (typeof value === "string") out.add(value);
  return [...out];
}

/** A value that meets a condition, as far as its op tells one. */
function valueFor({ op, value }: Condition): string | undefined {
  const first = [value].flat()[0];
  const text = typeof first === "string" ? first : undefined;
  if (op === "isPresent") return "yes";
  if (op === "hasAnyWord") return text?.trim().split(/\s+/)[0];
  if (op === "matches") return text?.replaceAll("*", "");
  return canBeMet(op) ? text : undefined;
}

/** The tags by which a link feeds a rule, as the rule spells them: of `any` the first part that a link can meet. */
export function tagsFor(rule: Rule, ruleset: Ruleset, seen: ReadonlySet<string> = new Set()): Tag[] {
  if (rule === null) return [];
  if (isCondition(rule)) {
    const tag = tagsOf(rule.signal, ruleset)[0];
    const value = valueFor(rule);
    return tag === undefined || !value ? [] : [{ name: tag, value }];
  }
  const members = groupOf(rule);
  if (!members) {
    const { audience } = rule as { audience: string };
    if (seen.has(audience)) return [];
    const found = ruleset.audiences.find((item) => item.id === audience);
    return tagsFor(found?.rule ?? null, ruleset, new Set([...seen, audience]));
  }
  if (members.group === "none") return [];
  const parts = members.rules.map((inner) => tagsFor(inner, ruleset, seen));
  const tags = members.group === "any" ? (parts.find((part) => part.length > 0) ?? []) : parts.flat();
  return tags.filter((tag, index) => tags.findIndex((item) => item.name === tag.name) === index);
}

/** Who could be fed by a link, with the tags for it: variants, pop-ups and redirects whose rule asks for a parameter. */
export function linkSources(ruleset: Ruleset): { owner: Owner; tags: Tag[] }[] {
  return allRules(ruleset)
    .filter(({ owner, part }) => part === "rule" && ["variant", "popup", "redirect"].includes(owner.kind))
    .map(({ owner, rule }) => ({ owner, tags: tagsFor(rule, ruleset) }))
    .filter(({ tags }) => tags.length > 0);
}
