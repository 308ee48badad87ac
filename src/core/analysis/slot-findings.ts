/** Who sees a slot’s variants, who never does, and which of them meet. */
import { t } from "../messages/t";
import type { Decision } from "../decision/decision";
import { groupOf, type Rule } from "../formats/rule";
import type { Slot, Variant } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { ruleText } from "../rules/sentence";
import { fails, holds, type Clause } from "./conditions";
import { tried, type Evidence } from "./evidence";
import type { Finding } from "./findings";
import type { Space } from "./solve";
import { placeLeft } from "./subsets";

/** Overlaps beyond this many in one slot are not all told. */
const mostOverlaps = 300;

/** Findings of one slot; undefined marks a step. */
export function* slotFindings(slot: Slot, space: Space, evidence: Evidence): Generator<Finding | undefined> {
  const here = slot.pages === null ? [] : [holds(slot.pages)];
  const on = slot.variants.filter((variant) => variant.on);
  const name = (variant: Variant) => t("“{variant}” in {slot}", { variant: variant.name, slot: slot.name });
  /** A visit that meets clauses and of which something is so, as the engine decides it whole. */
  const witnessOf = (clauses: readonly Clause[], isSo: (decision: Decision) => boolean): Visit | undefined => {
    for (const all of [[...clauses, ...evidence.unredirected], clauses]) {
      const solved = space.solve(all);
      if (solved.found && isSo(evidence.decide(solved.visit))) return solved.visit;
    }
    return undefined;
  };
  const traceOf = (decision: Decision) => decision.trace?.slots.find((item) => item.id === slot.id);
  const verdictOf = (decision: Decision, variant: Variant) =>
    traceOf(decision)?.variants.find((item) => item.id === variant.id);
  const possible = new Set<Variant>();
  for (const variant of on) {
    const solved = space.solve([...here, holds(variant.rule)]);
    if (solved.found || evidence.shows(slot.id, variant.id)) possible.add(variant);
    else {
      const tries = solved.tries + evidence.tries;
      yield {
        finding: "never-shown",
        slot: slot.id,
        variant: variant.id,
        proof: solved.proof,
        says:
          solved.proof === "exact"
            ? t("{variant} is never shown: no visit can meet its rule.", { variant: name(variant) })
            : t("No visitor who sees {variant} was found {tries}.", { variant: name(variant), tries: tried(tries) }),
      };
    }
    yield undefined;
  }
  let overlaps = 0;
  for (const [index, variant] of on.entries()) {
    yield undefined;
    if (!possible.has(variant)) continue;
    const earlier = on.slice(0, index).filter((item) => possible.has(item));
    const left = placeLeft(
      earlier.map((item) => item.rule),
      slot.take,
    );
    const alone = space.solve([...here, holds(variant.rule), ...left.clauses]);
    if (!alone.found && left.exact && !evidence.shows(slot.id, variant.id)) {
      const proven = alone.proof === "exact";
      // Who beats it: one that holds whenever it does, if there is one.
      const by =
        slot.take > 1 || !proven
          ? undefined
          : earlier.find((item) => {
              if (space.apart(variant.rule, item.rule)) return false;
              const without = space.solve([...here, holds(variant.rule), fails(item.rule)]);
              return !without.found && without.proof === "exact";
            });
      const beaten = witnessOf(
        [...here, holds(variant.rule)],
        (decision) => verdictOf(decision, variant)?.verdict === "beaten",
      );
      yield {
        finding: "always-beaten",
        slot: slot.id,
        variant: variant.id,
        ...(by ? { other: by.id } : {}),
        proof: alone.proof,
        ...(beaten ? { witness: beaten } : {}),
        says: !proven
          ? t("{variant} was beaten by those above it whenever its rule held, {tries}.", {
              variant: name(variant),
              tries: tried(alone.tries + evidence.tries),
            })
          : by
            ? t("{variant} is never reached: whoever meets its rule meets that of “{by}” above it.", {
                variant: name(variant),
                by: by.name,
              })
            : slot.take > 1
              ? t(
                  "{variant} is never reached: whoever meets its rule meets those of {take} above it, and there are no more places.",
                  { variant: name(variant), take: slot.take },
                )
              : t("{variant} is never reached: whoever meets its rule meets that of one above it.", {
                  variant: name(variant),
                }),
      };
      continue;
    }
    // Where several are shown, meeting is what is meant.
    for (const other of slot.take > 1 ? [] : earlier) {
      if (overlaps >= mostOverlaps) break;
      if (space.apart(variant.rule, other.rule)) continue;
      const before = earlier.slice(0, earlier.indexOf(other));
      const beats = (decision: Decision): boolean => {
        const told = verdictOf(decision, variant);
        return told?.verdict === "beaten" && told.rule.verdict === "true" && (told.by ?? []).includes(other.id);
      };
      const met = witnessOf(
        [...here, holds(variant.rule), holds(other.rule), ...before.map((item) => fails(item.rule))],
        beats,
      );
      if (!met) continue;
      const but = remainder(variant, other, here, space);
      if (but) {
        const left = witnessOf(
          [...here, holds(variant.rule), ...earlier.map((item) => fails(item.rule))],
          (decision) => verdictOf(decision, variant)?.verdict === "shown",
        );
        yield {
          finding: "beaten-but",
          slot: slot.id,
          variant: variant.id,
          other: other.id,
          proof: "exact",
          ...(left ? { witness: left } : {}),
          says: t("{variant} is sometimes beaten by “{other}” above it: where {ruleText}.", {
            variant: name(variant),
            other: other.name,
            ruleText: ruleText(but, space.domain.ruleset),
          }),
        };
      } else if (variant.rule !== null) {
        overlaps += 1;
        yield {
          finding: "overlap",
          slot: slot.id,
          variant: variant.id,
          other: other.id,
          proof: "exact",
          witness: met,
          says: t("{variant} and “{other}” meet on some visitors: “{other}” wins there.", {
            variant: name(variant),
            other: other.name,
          }),
        };
      }
    }
  }
  // Where a slot was pointed at, the page’s own content stands for whom no variant is.
  if (slot.fallback === null && slot.at?.how !== "replace") {
    const isEmpty = ({ slots }: Decision): boolean =>
      slots[slot.id]?.every((item) => item.variant === null && item.content === null) ?? false;
    const nobody = witnessOf([...here, ...on.map((item) => fails(item.rule))], isEmpty) ?? evidence.find(isEmpty);
    if (nobody)
      yield {
        finding: "gap",
        slot: slot.id,
        proof: "exact",
        witness: nobody,
        says: t("{slot} is empty for some visitors: no variant holds for them, and there is no fallback.", {
          slot: slot.name,
        }),
      };
  }
  yield undefined;
}

/**
 * The one member of a rule above, an `all` group, that does not follow from a variant's own rule: but for it the variant would
 * always be beaten. Undefined if there is no such one, or that the others follow is not proven.
 */
function remainder(variant: Variant, other: Variant, here: readonly Clause[], space: Space): Rule | undefined {
  const members = other.rule === null ? undefined : groupOf(other.rule);
  if (members?.group !== "all" || members.rules.length < 2) return undefined;
  const solved = members.rules.map((member) => space.solve([...here, holds(variant.rule), fails(member)]));
  if (solved.some((one) => !one.found && one.proof !== "exact")) return undefined;
  const free = members.rules.filter((_, index) => solved[index]?.found);
  return free.length === 1 ? free[0] : undefined;
}
