/** What is odd about a whole ruleset, each finding with a visit to look through where there is one. */
import type { Rule } from "../formats/rule";
import type { Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { groupOf } from "../formats/rule";
import { allRules } from "../ruleset/uses";
import { ruleText } from "../rules/sentence";
import type { Domain } from "./facet";
import { ruleNotes } from "./notes";
import { offerFindings } from "./offer-findings";
import { loops } from "./loops";
import { slips } from "./slips";
import { placeLeft } from "./subsets";
import { Space, type Clause } from "./solve";
import { clockFindings } from "./clocks";

export type FindingKind =
  | "never-shown" | "always-beaten" | "beaten-but" | "overlap" | "gap" | "idle" | "never-opens" | "clock-change" | "slip"
  | "loop" | "popup-never" | "audience-within" | "promise" | "untold-offer" | "offer-boundary" | "offers-apart" | "currency"; // prettier-ignore

export interface Finding {
  finding: FindingKind;
  slot?: string;
  variant?: string;
  /** The other thing that it is about: the id of a variant, audience, offer or redirect. */
  other?: string;
  /** Another thing that it is about, where it is no variant: what kind, and its id. */
  about?: { kind: "audience" | "offer" | "redirect" | "popup" | "marker"; id: string };
  /** `exact`: proved. `searched`: found, or not found, by trying. */
  proof: "exact" | "searched";
  witness?: Visit;
  says: string;
}

/** How grave a kind is: a fault is something that surely was not meant. */
export const isFault = (kind: FindingKind): boolean =>
  ["never-shown", "always-beaten", "never-opens", "loop", "popup-never", "promise"].includes(kind);

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

  for (const slot of ruleset.slots) {
    const space = new Space(domain);
    space.learn([slot.pages, ...slot.variants.map((variant) => variant.rule)]);
    for (const finding of slotFindings(slot, space)) {
      if (finding === undefined) done += 1;
      yield step(finding);
    }
  }
  for (const { owner, part, rule } of allRules(ruleset)) {
    done += 1;
    for (const note of ruleNotes(rule, ruleset)) {
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
  yield* each(popupFindings(ruleset, domain));
  for (const part of [loops(domain), clockFindings(domain), slips(ruleset), offerFindings(domain)]) {
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

/** Findings of one slot; undefined marks a step. */
function* slotFindings(slot: Slot, space: Space): Generator<Finding | undefined> {
  const here = slot.pages === null ? [] : [holds(slot.pages)];
  const on = slot.variants.filter((variant) => variant.on);
  const name = (variant: Variant) => `“${variant.name}” in ${slot.name}`;
  const possible = new Set<Variant>();
  for (const variant of on) {
    const solved = space.solve([...here, holds(variant.rule)]);
    if (solved.found) possible.add(variant);
    else
      yield {
        finding: "never-shown",
        slot: slot.id,
        variant: variant.id,
        proof: solved.proof,
        says: `${name(variant)} is shown to nobody: ${solved.proof === "exact" ? "no visit can meet its rule" : `no visit that meets its rule was found in ${solved.tries} tries`}.`,
      };
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
    if (!alone.found && left.exact) {
      // Who beats it: one that holds whenever it does, if there is one.
      const by =
        slot.take > 1
          ? undefined
          : earlier.find(
              (item) =>
                !space.apart(variant.rule, item.rule) &&
                !space.solve([...here, holds(variant.rule), fails(item.rule)]).found,
            );
      const met = space.solve([...here, holds(variant.rule)]);
      yield {
        finding: "always-beaten",
        slot: slot.id,
        variant: variant.id,
        ...(by ? { other: by.id } : {}),
        proof: alone.proof,
        ...(met.found ? { witness: met.visit } : {}),
        says: by
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
      const met = space.solve([...here, holds(variant.rule), holds(other.rule)]);
      if (!met.found) continue;
      const but = remainder(variant, other, here, space);
      if (but) {
        const left = space.solve([...here, holds(variant.rule), fails(other.rule)]);
        yield {
          finding: "beaten-but",
          slot: slot.id,
          variant: variant.id,
          other: other.id,
          proof: "exact",
          ...(left.found ? { witness: left.visit } : {}),
          says: `${name(variant)} is beaten by “${other.name}” for everyone but those for whom it does not hold that ${ruleText(but, space.domain.ruleset)}.`,
        };
      } else if (variant.rule !== null) {
        overlaps += 1;
        yield {
          finding: "overlap",
          slot: slot.id,
          variant: variant.id,
          other: other.id,
          proof: "exact",
          witness: met.visit,
          says: `${name(variant)} and “${other.name}” meet on some visitors: “${other.name}” wins there.`,
        };
      }
    }
  }
  if (slot.fallback === null) {
    const nobody = space.solve([...here, ...on.map((item) => fails(item.rule))]);
    if (nobody.found)
      yield {
        finding: "gap",
        slot: slot.id,
        proof: "exact",
        witness: nobody.visit,
        says: `${slot.name} is empty for some visitors: no variant holds for them, and there is no fallback.`,
      };
  }
  yield undefined;
}

/**
 * The one member of a rule above, an `all` group, that does not follow from a variant's own rule: but for it the variant would
 * always be beaten. Undefined if there is no such one.
 */
function remainder(variant: Variant, other: Variant, here: readonly Clause[], space: Space): Rule | undefined {
  const members = other.rule === null ? undefined : groupOf(other.rule);
  if (members?.group !== "all" || members.rules.length < 2) return undefined;
  const free = members.rules.filter((member) => space.solve([...here, holds(variant.rule), fails(member)]).found);
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

function* popupFindings(ruleset: Ruleset, domain: Domain): Generator<Finding | undefined> {
  const space = new Space(domain);
  for (const [index, popup] of ruleset.popups.entries()) {
    yield undefined;
    if (!popup.on) continue;
    const wanted = [holds(popup.pages), holds(popup.rule)];
    const solved = space.solve(wanted);
    if (!solved.found) {
      yield { finding: "popup-never", about: { kind: "popup", id: popup.id }, proof: solved.proof, says: `The pop-up “${popup.name}” can never open: no visit meets its rules.` }; // prettier-ignore
      continue;
    }
    // One above without a cap opens every time that it can, and only one opens on a page.
    const above = ruleset.popups.slice(0, index).filter((item) => item.on && item.cap === undefined);
    if (above.length === 0 || ruleset.site.popupGapMinutes > 0) continue;
    const free = space.solve([...wanted, ...above.map((item) => fails({ all: [item.pages, item.rule].filter((rule) => rule !== null) }))]); // prettier-ignore
    if (!free.found)
      yield {
        finding: "popup-never",
        about: { kind: "popup", id: popup.id },
        proof: free.proof,
        witness: solved.visit,
        says: `The pop-up “${popup.name}” can never open: one above it, without a cap, opens instead.`,
      };
  }
}
