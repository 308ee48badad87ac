/** What is odd about a whole ruleset, each finding with a visit to look through where there is one. */
import type { Rule } from "../formats/rule";
import type { Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import type { Decision } from "../decision/decision";
import { groupOf } from "../formats/rule";
import { allRules, type Owner } from "../ruleset/uses";
import { ruleText } from "../rules/sentence";
import { Evidence } from "./evidence";
import type { Domain } from "./facet";
import { ruleNotes } from "./notes";
import { offerFindings } from "./offer-findings";
import { loops } from "./loops";
import { slips } from "./slips";
import { placeLeft } from "./subsets";
import { Space, type Clause, type Solution } from "./solve";
import { clockFindings } from "./clocks";

export type FindingKind =
  | "never-shown"
  | "always-beaten"
  | "beaten-but"
  | "overlap"
  | "gap"
  | "idle"
  | "never-opens"
  | "clock-change"
  | "slip"
  | "loop"
  | "popup-never"
  | "audience-within"
  | "promise"
  | "untold-offer"
  | "offer-boundary"
  | "offers-apart"
  | "currency"
  | "drift"
  | "dead-end"
  | "tag-gone";

export interface Finding {
  finding: FindingKind;
  slot?: string;
  variant?: string;
  /** The other thing that it is about: the id of a variant, audience, offer or redirect. */
  other?: string;
  /** Another thing that it is about, where it is no variant: what kind, and its id. */
  about?: { kind: Exclude<Owner["kind"], "slot" | "variant">; id: string };
  /** `exact`: proved. `searched`: found, or not found, by trying. */
  proof: "exact" | "searched";
  witness?: Visit;
  says: string;
}

/** Kinds of which a finding is a fault: something that surely was not meant. */
const faults: readonly FindingKind[] = [
  "never-shown",
  "always-beaten",
  "never-opens",
  "loop",
  "popup-never",
  "promise",
  "drift",
  "dead-end",
];

/**
 * Whether a finding is a fault, which keeps a release back. Only what is proven, or shown by a visit, is one: that something was
 * not found is a remark.
 */
export const isFault = ({ finding, proof }: Pick<Finding, "finding" | "proof">): boolean =>
  faults.includes(finding) && (proof === "exact" || finding === "loop");

/** What a finding may be called: proven, found (there is a visit that shows it), or something that was not found. */
export type Standing = "proven" | "found" | "not found";
const absences: readonly FindingKind[] = ["never-shown", "always-beaten", "popup-never", "offers-apart"];
export const standingOf = ({ finding, proof, witness }: Pick<Finding, "finding" | "proof" | "witness">): Standing =>
  absences.includes(finding)
    ? proof === "exact"
      ? "proven"
      : "not found"
    : witness
      ? "found"
      : proof === "exact"
        ? "proven"
        : "found";

export type Step = { done: number; of: number; finding?: Finding };

/** Overlaps beyond this many in one slot are not all told. */
const mostOverlaps = 300;

/**
 * Looks through a whole ruleset, a step at a time: each step tells how far it is and perhaps a finding, so that whoever asks
 * can show progress and stop. The ruleset must have passed `readRuleset`.
 */
export function* findings(domain: Domain): Generator<Step> {
  const { ruleset } = domain;
  const of =
    ruleset.slots.reduce((sum, slot) => sum + 2 * slot.variants.length + 1, 0) +
    allRules(ruleset).length +
    ruleset.audiences.length +
    ruleset.popups.length +
    4;
  let done = 0;
  const step = (finding?: Finding): Step => ({ done, of, ...(finding ? { finding } : {}) });

  const evidence = new Evidence(domain);
  for (const slot of ruleset.slots) {
    const space = new Space(domain);
    space.learn([slot.pages, ...slot.variants.map((variant) => variant.rule)]);
    for (const finding of slotFindings(slot, space, evidence)) {
      if (finding === undefined) done += 1;
      yield step(finding);
    }
  }
  for (const { owner, part, rule } of allRules(ruleset)) {
    done += 1;
    for (const note of ruleNotes(rule, ruleset, (part, holds) => evidence.meets(part, holds))) {
      // A rule that can never hold is told as such by what it belongs to.
      if (note.kind === "never" && part === "rule" && owner.kind === "variant" && note.way.length === 0) continue;
      yield step({
        finding: note.kind === "never" ? "never-opens" : "idle",
        ...(owner.kind === "variant" ? { slot: owner.slot as string, variant: owner.id } : {}),
        ...(owner.kind === "slot" ? { slot: owner.id } : {}),
        ...(owner.kind !== "variant" && owner.kind !== "slot" ? { about: { kind: owner.kind, id: owner.id } } : {}),
        proof: "exact",
        says: `${owner.name}${part === "pages" ? ", where it is" : ""}: ${note.says}`,
      });
    }
    yield step();
  }
  yield* each(audienceFindings(ruleset, domain));
  yield* each(popupFindings(ruleset, domain, evidence));
  for (const part of [loops(domain), clockFindings(domain), slips(ruleset), offerFindings(domain, evidence)]) {
    yield* each(part);
    done += 1;
  }

  function* each(part: Iterable<Finding | undefined>): Generator<Step> {
    for (const finding of part) {
      if (finding === undefined) done += 1;
      yield step(finding);
    }
  }
}

/** All findings at once. */
export function allFindings(domain: Domain): Finding[] {
  const out: Finding[] = [];
  for (const { finding } of findings(domain)) if (finding) out.push(finding);
  return out;
}

const holds = (rule: Rule): Clause => [{ rule, holds: true }];
const fails = (rule: Rule): Clause => [{ rule, holds: false }];

/** "in 1,500 tries": behind every absence that is not proven. */
const tried = (tries: number): string => `in ${tries.toLocaleString("en")} tries`;

/** Findings of one slot; undefined marks a step. */
function* slotFindings(slot: Slot, space: Space, evidence: Evidence): Generator<Finding | undefined> {
  const here = slot.pages === null ? [] : [holds(slot.pages)];
  const on = slot.variants.filter((variant) => variant.on);
  const name = (variant: Variant) => `“${variant.name}” in ${slot.name}`;
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
            ? `${name(variant)} is shown to nobody: no visit can meet its rule.`
            : `No visitor who sees ${name(variant)} was found ${tried(tries)}.`,
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
          ? `${name(variant)} was beaten by those above it whenever its rule held, ${tried(alone.tries + evidence.tries)}.`
          : by
            ? `${name(variant)} is never reached: whoever meets its rule meets that of “${by.name}” above it.`
            : slot.take > 1
              ? `${name(variant)} is never reached: whoever meets its rule meets those of ${slot.take} above it, and there are no more places.`
              : `${name(variant)} is never reached: whoever meets its rule meets that of one above it.`,
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
          says: `${name(variant)} is sometimes beaten by “${other.name}” above it: where ${ruleText(but, space.domain.ruleset)}.`,
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
          says: `${name(variant)} and “${other.name}” meet on some visitors: “${other.name}” wins there.`,
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
        says: `${slot.name} is empty for some visitors: no variant holds for them, and there is no fallback.`,
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

function* audienceFindings(ruleset: Ruleset, domain: Domain): Generator<Finding | undefined> {
  const space = new Space(domain);
  const proved = (clauses: Clause[]): boolean => {
    const solved = space.solve(clauses);
    return !solved.found && solved.proof === "exact";
  };
  for (const [index, one] of ruleset.audiences.entries()) {
    if (one.rule !== null)
      for (const two of ruleset.audiences.slice(index + 1)) {
        if (two.rule === null) continue;
        const within = proved([holds(one.rule), fails(two.rule)]);
        const around = proved([holds(two.rule), fails(one.rule)]);
        if (!within && !around) continue;
        const [small, large] = within ? [one, two] : [two, one];
        yield {
          finding: "audience-within",
          about: { kind: "audience", id: small.id },
          other: large.id,
          proof: "exact",
          says:
            within && around
              ? `The audiences “${one.name}” and “${two.name}” are the same visitors.`
              : `Everyone in the audience “${small.name}” is in “${large.name}” too.`,
        };
      }
    yield undefined;
  }
}

function* popupFindings(ruleset: Ruleset, domain: Domain, evidence: Evidence): Generator<Finding | undefined> {
  const space = new Space(domain);
  for (const [index, popup] of ruleset.popups.entries()) {
    yield undefined;
    if (!popup.on || evidence.find((decision) => decision.popup?.id === popup.id)) continue;
    const never = (solved: Extract<Solution, { found: false }>, why: string, witness?: Visit): Finding => ({
      finding: "popup-never",
      about: { kind: "popup", id: popup.id },
      proof: solved.proof,
      ...(witness ? { witness } : {}),
      says:
        solved.proof === "exact"
          ? `The pop-up “${popup.name}” can never open: ${why}.`
          : `No visitor for whom the pop-up “${popup.name}” opens was found ${tried(solved.tries + evidence.tries)}.`,
    });
    const wanted = [holds(popup.pages), holds(popup.rule)];
    const solved = space.solve(wanted);
    if (!solved.found) {
      yield never(solved, "no visit meets its rules");
      continue;
    }
    // One above without a cap opens every time that it can, and only one opens on a page.
    const above = ruleset.popups.slice(0, index).filter((item) => item.on && item.cap === undefined);
    if (above.length === 0 || ruleset.site.popupGapMinutes > 0) continue;
    const free = space.solve([
      ...wanted,
      ...above.map((item) => fails({ all: [item.pages, item.rule].filter((rule) => rule !== null) })),
    ]);
    if (!free.found) yield never(free, "one above it, without a cap, opens instead", solved.visit);
  }
}
