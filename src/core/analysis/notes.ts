import { t } from "../messages/t";
import { groupOf, isCondition, makeGroup, type Rule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import type { Way } from "../rules/arrange";
import { checkRule } from "../rules/check";
import { joinParts } from "../rules/phrases";
import { ruleSentence } from "../rules/sentence";
import { Space } from "./solve";
import { fails, holds } from "./conditions";

/** Something about a part of a rule that its author should know while building it. */
export interface RuleNote {
  way: Way;
  kind: "never" | "idle";
  says: string;
}

/** Any instant will do: what a rule can never be does not hang on today. */
const from = Date.UTC(2026, 0, 1);

/** The parts of a rule that are finished, with the way to each in the whole. */
const finished = (rule: Rule, ruleset: Ruleset): boolean => checkRule(rule, ruleset).length === 0;

/**
 * What is odd about a rule: parts that can never hold (together), and parts that change nothing. Only what is proved over
 * everything a visit can be is told; unfinished parts are passed over.
 * @param seen whether some known visit meets a rule (or does not): nothing that was seen is called impossible
 */
export function ruleNotes(
  rule: Rule,
  ruleset: Ruleset,
  seen: (part: Rule, holds: boolean) => boolean = () => false,
): RuleNote[] {
  if (rule === null) return [];
  const notes: RuleNote[] = [];
  const space = new Space({ ruleset, from });
  const never = (part: Rule): boolean => {
    const solved = space.solve([holds(part)]);
    return !solved.found && solved.proof === "exact" && !seen(part, true);
  };
  const always = (part: Rule): boolean => {
    const solved = space.solve([fails(part)]);
    return !solved.found && solved.proof === "exact" && !seen(part, false);
  };
  /** Whether two rules are true for the same visits. */
  const equal = (a: Rule, b: Rule): boolean => {
    const one = space.solve([holds(a), fails(b)]);
    if (one.found || one.proof !== "exact") return false;
    const two = space.solve([holds(b), fails(a)]);
    return !two.found && two.proof === "exact";
  };
  const text = (part: Rule): string => joinParts(ruleSentence(part, ruleset));

  const walk = (part: Rule, way: Way): void => {
    const members = part === null ? undefined : groupOf(part);
    if (!members) {
      if (!finished(part, ruleset)) return;
      if (never(part)) notes.push({ way, kind: "never", says: t("This can never hold.") });
      else if (part !== null && isCondition(part) && always(part))
        notes.push({ way, kind: "idle", says: t("This always holds: it says nothing.") });
      return;
    }
    const before = notes.length;
    members.rules.forEach((inner, index) => walk(inner, [...way, index]));
    if (notes.length > before || members.rules.length < 2) return;
    const good = members.rules.map((inner) => finished(inner, ruleset));
    const kept = members.rules.filter((_, index) => good[index]);
    if (kept.length < 2) return;
    const whole = makeGroup(members.group, kept);
    if (members.group === "all" && never(whole)) {
      const pair = clash(kept, never);
      notes.push({
        way,
        kind: "never",
        says: pair
          ? t("These can never hold together: {pair}, and {pair2}.", { pair: text(pair[0]), pair2: text(pair[1]) })
          : t("These can never all hold together."),
      });
      return;
    }
    if (always(whole)) {
      notes.push({ way, kind: "idle", says: t("This always holds, for everyone: it says nothing.") });
      return;
    }
    // A member is idle if the group says the same without it.
    for (let index = 0; index < members.rules.length; index++) {
      if (!good[index]) continue;
      const rest = members.rules.filter((_, i) => i !== index && good[i]);
      if (rest.length === 0) continue;
      if (equal(makeGroup(members.group, rest), whole)) {
        notes.push({ way: [...way, index], kind: "idle", says: t("This changes nothing: the rest says it already.") });
        return;
      }
    }
  };
  walk(rule, []);
  return notes;
}

/** The first two parts that exclude each other, if two alone do. */
function clash(parts: readonly Rule[], never: (rule: Rule) => boolean): [Rule, Rule] | undefined {
  for (let i = 0; i < parts.length; i++)
    for (let j = i + 1; j < parts.length; j++)
      if (never({ all: [parts[i] as Rule, parts[j] as Rule] })) return [parts[i] as Rule, parts[j] as Rule];
  return undefined;
}
