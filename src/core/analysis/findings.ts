/** What is odd about a whole ruleset, each finding with a visit to look through where there is one. */
import { t } from "../messages/t";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { allRules, type Owner } from "../ruleset/uses";
import { fails, holds, type Clause } from "./conditions";
import { Evidence, tried } from "./evidence";
import type { Domain } from "./facet";
import { ruleNotes } from "./notes";
import { offerFindings } from "./offer-findings";
import { loops } from "./loops";
import { slips } from "./slips";
import { slotFindings } from "./slot-findings";
import { Space, type Solution } from "./solve";
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
        says: `${owner.name}${part === "pages" ? t(", where it is") : ""}: ${note.says}`,
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
              ? t("The audiences “{name}” and “{two}” are the same visitors.", { name: one.name, two: two.name })
              : t("Everyone in the audience “{small}” is in “{large}” too.", { small: small.name, large: large.name }),
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
          ? t("The pop-up “{popup}” can never open: {why}.", { popup: popup.name, why })
          : t("No visitor for whom the pop-up “{popup}” opens was found {tries}.", {
              popup: popup.name,
              tries: tried(solved.tries + evidence.tries),
            }),
    });
    const wanted = [holds(popup.pages), holds(popup.rule)];
    const solved = space.solve(wanted);
    if (!solved.found) {
      yield never(solved, t("no visit meets its rules"));
      continue;
    }
    // One above without a cap opens every time that it can, and only one opens on a page.
    const above = ruleset.popups.slice(0, index).filter((item) => item.on && item.cap === undefined);
    if (above.length === 0 || ruleset.site.popupGapMinutes > 0) continue;
    const free = space.solve([
      ...wanted,
      ...above.map((item) => fails({ all: [item.pages, item.rule].filter((rule) => rule !== null) })),
    ]);
    if (!free.found) yield never(free, t("one above it, without a cap, opens instead"), solved.visit);
  }
}
