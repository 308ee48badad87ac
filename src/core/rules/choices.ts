import type { Op } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import { browsers, deviceKinds, systems } from "../visit/device";
import { referrerKinds } from "../visit/referrer";
import { fixedSignals, signalInfo, type SignalGroup } from "../visit/signals";
import { opsOf, type RuleNames } from "./check";
import { walkRule, isCondition, type Rule } from "../formats/rule";

/** A signal that a rule may be built from, with its words. */
export interface SignalChoice {
  signal: string;
  label: string;
  group: SignalGroup;
}

/** The groups of signals that the storefront and the visit sentence can tell. */
const offered: readonly SignalGroup[] = [
  "Time",
  "Place",
  "Campaign",
  "Link",
  "Referrer and search",
  "Device",
  "Language",
  "Page",
];

/** The signals that a rule may be built from, in the order of their groups. `query.` takes a name of its own. */
export function signalChoices(names: RuleNames): SignalChoice[] {
  const out: SignalChoice[] = Object.entries(fixedSignals).map(([signal, info]) => ({
    signal,
    label: info.label,
    group: info.group,
  }));
  out.push({ signal: "query.", label: "a parameter of the link", group: "Link" });
  for (const field of names.dataFields) {
    const signal = `${field.signal}.${field.name}`;
    const info = signalInfo(signal, names);
    if (info) out.push({ signal, label: info.label, group: info.group });
  }
  return out
    .filter((choice) => offered.includes(choice.group))
    .sort((a, b) => offered.indexOf(a.group) - offered.indexOf(b.group));
}

/** The ops that fit a signal. */
export function opChoices(signal: string, names: RuleNames): readonly Op[] {
  const info = signalInfo(signal, names);
  return info ? opsOf[info.kind] : [];
}

const closed: Record<string, readonly string[]> = {
  "device.kind": deviceKinds,
  "device.os": systems,
  "device.browser": browsers,
  "referrer.kind": referrerKinds,
};
/** All the values that a signal can have, where they are few and known. */
export const closedValues = (signal: string): readonly string[] | undefined => closed[signal];

/** Values of a text signal that are in use in rules, offered first so that nothing is spelled twice. */
export function valuesInUse(signal: string, ruleset: Pick<Ruleset, "slots" | "audiences" | "searchSources">): string[] {
  const out = new Set<string>();
  const look = (rule: Rule) =>
    walkRule(rule, (inner) => {
      if (!isCondition(inner) || inner.signal !== signal) return;
      for (const item of [inner.value].flat()) if (typeof item === "string" && item !== "") out.add(item);
    });
  for (const slot of ruleset.slots) {
    look(slot.pages);
    for (const variant of slot.variants) look(variant.rule);
  }
  for (const audience of ruleset.audiences) look(audience.rule);
  if (signal === "search.engine") for (const source of ruleset.searchSources) out.add(source.engine);
  return [...out];
}
