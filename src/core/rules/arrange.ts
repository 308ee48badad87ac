/** Rearranging a rule: its parts are told by the way to them, as the places in their groups: [2, 0] is the first of the third. */
import { groupOf, makeGroup, type Group, type Rule } from "../formats/rule";
import { checkRule, type RuleNames } from "./check";

/** The way to a part of a rule; empty: the whole. */
export type Way = readonly number[];

/** Whether a way leads to a part, or to something inside it. */
export const isInside = (way: Way, part: Way): boolean => part.every((step, index) => way[index] === step);

/** The members of a rule; a single condition counts as a group of one. */
const membersOf = (rule: Rule): Rule[] => (rule === null ? [] : (groupOf(rule)?.rules ?? [rule]));
const kindOf = (rule: Rule): Group => (rule === null ? "all" : (groupOf(rule)?.group ?? "all"));

/** The part that a way leads to; undefined if there is none. */
export function partAt(rule: Rule, way: Way): Rule | undefined {
  let found: Rule | undefined = rule;
  for (const step of way) {
    if (found === undefined) return undefined;
    found = membersOf(found)[step];
  }
  return found;
}

/** A rule with the group at `way` holding what `change` makes of its members. */
function changeMembers(rule: Rule, way: Way, change: (members: Rule[]) => Rule[]): Rule {
  const [step, ...rest] = way;
  const members = membersOf(rule);
  return makeGroup(
    kindOf(rule),
    step === undefined
      ? change(members)
      : members.map((member, index) => (index === step ? changeMembers(member, rest, change) : member)),
  );
}

/** The way to the first condition that is not finished; undefined: all are. */
export function firstUnfinished(rule: Rule, names: RuleNames, way: Way = []): Way | undefined {
  const members = rule === null ? undefined : groupOf(rule)?.rules;
  if (!members) return checkRule(rule, names).length > 0 ? way : undefined;
  for (const [index, member] of members.entries()) {
    const found = firstUnfinished(member, names, [...way, index]);
    if (found) return found;
  }
  return undefined;
}

export function replaceAt(rule: Rule, way: Way, part: Rule): Rule {
  if (way.length === 0) return part;
  const last = way[way.length - 1] as number;
  return changeMembers(rule, way.slice(0, -1), (members) => members.map((item, i) => (i === last ? part : item)));
}
/** Takes a part out. Groups left empty stay, so that nothing is lost unseen; an empty whole is no rule. */
export function removeAt(rule: Rule, way: Way): Rule {
  if (way.length === 0) return null;
  const last = way[way.length - 1] as number;
  const next = changeMembers(rule, way.slice(0, -1), (members) => members.filter((_, i) => i !== last));
  return membersOf(next).length === 0 ? null : next;
}
/** Puts a part into the group at `way`, before its member `index`. */
export const insertAt = (rule: Rule, way: Way, index: number, part: Rule): Rule =>
  changeMembers(rule, way, (members) => [...members.slice(0, index), part, ...members.slice(index)]);

/** A part moved into the group at `to`, before what is its member `index` now; and the way to it there. */
export function moveTo(rule: Rule, from: Way, to: Way, index: number): { rule: Rule; way: Way } {
  const part = partAt(rule, from);
  if (part === undefined || from.length === 0 || isInside(to, from)) return { rule, way: from };
  const depth = from.length - 1;
  const last = from[depth] as number;
  // Taking it out shifts what stands behind it in the same group.
  const group = [...to];
  let place = index;
  if (isInside(to, from.slice(0, depth))) {
    if (to.length === depth) {
      if (last < index) place -= 1;
    } else if ((group[depth] as number) > last) group[depth] = (group[depth] as number) - 1;
  }
  const without = removeKeeping(rule, from);
  return { rule: insertAt(without, group, place, part), way: [...group, place] };
}
/** As `removeAt`, but an emptied whole stays a group of its kind. */
const removeKeeping = (rule: Rule, way: Way): Rule =>
  changeMembers(rule, way.slice(0, -1), (members) => members.filter((_, i) => i !== way[way.length - 1]));

/**
 * A part moved by one step up or down, as it is read: past a neighbour, into a group that stands there, and out of its own
 * at the end of it.
 */
export function step(rule: Rule, way: Way, by: -1 | 1): { rule: Rule; way: Way } {
  const stay = { rule, way };
  if (way.length === 0) return stay;
  const home = way.slice(0, -1);
  const at = way[way.length - 1] as number;
  const siblings = membersOf(partAt(rule, home) ?? null);
  const neighbour = siblings[at + by];
  if (neighbour !== undefined) {
    const inner = neighbour === null ? undefined : groupOf(neighbour);
    if (inner) return moveTo(rule, way, [...home, at + by], by > 0 ? 0 : inner.rules.length);
    return moveTo(rule, way, home, by > 0 ? at + 2 : at - 1);
  }
  if (home.length === 0) return stay;
  const outer = home.slice(0, -1);
  const group = home[home.length - 1] as number;
  return moveTo(rule, way, outer, by > 0 ? group + 1 : group);
}

/** A part put into a group of its own, so that others can join it there. */
export const wrap = (rule: Rule, way: Way, group: Group): Rule =>
  replaceAt(rule, way, makeGroup(group, [partAt(rule, way) ?? null]));

/** A group dissolved into the group that it stands in. */
export function unwrap(rule: Rule, way: Way): Rule {
  if (way.length === 0) return rule;
  const inner = membersOf(partAt(rule, way) ?? null);
  const last = way[way.length - 1] as number;
  return changeMembers(rule, way.slice(0, -1), (members) => [
    ...members.slice(0, last),
    ...inner,
    ...members.slice(last + 1),
  ]);
}
