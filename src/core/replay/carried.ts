/** What an access log cannot carry: named, never guessed. */
import { t } from "../messages/t";
import { isCondition, walkRule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import { traitsOf, type NotCarried, type SignalTraits } from "../visit/signals";
import { allContents, allRules, type Owner } from "../ruleset/uses";

/** Something that rules ask and a log does not tell, and who asks it. */
export interface Missing {
  what: NotCarried;
  signals: string[];
  owners: Owner[];
  /** How it is judged then (docs/engine.md, section 2): nothing is shown by an unknown; an absent value is one that is not there. */
  judged: "unknown" | "absent";
}

function whatOf(signal: string, consent: boolean): SignalTraits["log"] {
  const lacks = traitsOf(signal)?.log ?? null;
  return consent && lacks?.what === "consent" ? null : lacks;
}

/**
 * What the rules and texts of rulesets ask that a log does not carry.
 * @param consent whether the replay judges as though everybody had agreed to be remembered
 */
export function notCarried(rulesets: readonly Ruleset[], consent: boolean): Missing[] {
  const out = new Map<NotCarried, { judged: Missing["judged"]; signals: Set<string>; owners: Map<string, Owner> }>();
  const add = (signal: string, owner: Owner, found = whatOf(signal, consent)) => {
    if (!found) return;
    let entry = out.get(found.what);
    if (!entry) out.set(found.what, (entry = { judged: found.judged, signals: new Set(), owners: new Map() }));
    entry.signals.add(signal);
    entry.owners.set(`${owner.kind} ${owner.id}`, owner);
  };
  for (const ruleset of rulesets) {
    for (const { owner, rule } of allRules(ruleset))
      walkRule(rule, (inner) => {
        if (inner === null || !isCondition(inner)) return;
        const visitors = inner.signal === "time" && (inner.value as { zone?: string }).zone === "visitor";
        if (visitors) add("time", owner, { what: "visitor's clock", judged: "unknown" });
        else add(inner.signal, owner);
      });
    for (const { owner, content } of allContents(ruleset))
      for (const token of Object.values(content.tokens)) add(token.signal, owner);
    if (!consent)
      for (const popup of ruleset.popups)
        if (popup.cap)
          add("history.visits", { kind: "popup", id: popup.id, name: t("Pop-up {popup}", { popup: popup.name }) });
  }
  return [...out].map(([what, { judged, signals, owners }]) => ({
    what,
    judged,
    signals: [...signals],
    owners: [...owners.values()],
  }));
}
