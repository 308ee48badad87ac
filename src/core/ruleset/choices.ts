import { t } from "../messages/t";
import { asksState, namesValues, operators, opsOf, type Op } from "../formats/operators";
import { allRules } from "./uses";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import {
  fixedSignals,
  groupNames,
  namedSignals,
  parameterOf,
  signalGroups,
  signalInfo,
  signalName,
  traitsOf,
  type SignalGroup,
} from "../visit/signals";
import type { RuleNames } from "../rules/check";
import { walkRule, isCondition } from "../formats/rule";

/** A signal that a rule may be built from, with its words. */
export interface SignalChoice {
  signal: string;
  /** As it stands in a sentence: "the campaign name". */
  label: string;
  /** As it stands in a list: "Campaign name". */
  name: string;
  /** What its value is, in a sentence. */
  means: string;
  group: SignalGroup;
}

/** Signals that take a free name, by what stands before it. */
export const freeSignals = (): (SignalChoice & { example: string; what: string })[] =>
  Object.entries(namedSignals).flatMap(([signal, { offered, group, means }]) =>
    offered
      ? [
          {
            signal,
            group,
            means: t(means),
            name: signalName(signal, t(offered.label)),
            label: t(offered.label),
            what: t(offered.what),
            example: t(offered.example),
          },
        ]
      : [],
  );

/** The text by which a signal is found: what it is called here, and what else. */
export function searchText({ signal, label, name, group }: SignalChoice): string {
  const also = traitsOf(isBare(signal) ? `${signal}x` : signal)?.also;
  return `${name} ${label} ${groupNames[group]} ${also ? t(also) : ""} ${parameterOf(signal) ?? ""} ${signal}`;
}
const isBare = (signal: string): boolean => signal.endsWith(".");

/** The signals that a rule may be built from, in the order of their groups. `without` leaves out what its owner may not use. */
export function signalChoices(names: RuleNames, without?: (signal: string) => boolean): SignalChoice[] {
  const out: SignalChoice[] = Object.entries(fixedSignals).map(([signal, info]) => ({
    signal,
    label: t(info.label),
    name: signalName(signal, t(info.label)),
    means: t(info.means),
    group: info.group,
  }));
  for (const { signal, label, name, means, group } of freeSignals()) out.push({ signal, label, name, means, group });
  const declared = [
    ...names.markers.map((marker) => `marker.${marker.id}`),
    ...names.offers.map((offer) => `cart.toGo.${offer.id}`),
    ...names.dataFields.map((field) => `${field.signal}.${field.name}`),
  ];
  for (const signal of declared) {
    const info = signalInfo(signal, names);
    const means = traitsOf(signal)?.means;
    if (info && means)
      out.push({
        signal,
        label: info.label,
        name: signalName(signal, info.label),
        means: t(means),
        group: info.group,
      });
  }
  return out
    .filter((choice) => !without?.(choice.signal))
    .sort((a, b) => signalGroups.indexOf(a.group) - signalGroups.indexOf(b.group));
}

/** The ops that fit a signal: of those that its kind has, where its values are few and known, those that name values. */
export function opChoices(signal: string, names: RuleNames): readonly Op[] {
  const info = signalInfo(signal, names);
  if (!info) return [];
  const ops = opsOf(info.kind);
  return closedValues(signal) ? ops.filter((op) => namesValues(op) || asksState(op)) : ops;
}

/** An operator as it is offered for a signal: a visitor has a marker or not. */
export const opWords = (op: Op, signal: string): string =>
  traitsOf(signal)?.group !== "Markers"
    ? t(operators[op].words)
    : op === "isTrue"
      ? t("has it")
      : op === "isFalse"
        ? t("does not have it")
        : t(operators[op].words);

/** Why a signal may not be known of a visitor (docs/engine.md, section 2), in a sentence; undefined where it always is. */
export const whyUnknown = (signal: string): string | undefined => {
  const why = traitsOf(signal)?.unknown?.why;
  return why && t(why);
};

/** All the values that a signal can have, where they are few and known. */
export const closedValues = (signal: string): readonly string[] | undefined => traitsOf(signal)?.values ?? undefined;

/** What a site has that rules may speak of: its pages and what it sells. */
export interface SiteFacts {
  pages: readonly { path: string; facts: NonNullable<Visit["page"]> }[];
  products: readonly { sku: string; name: string; category: string }[];
}

const factOf: Record<string, (facts: SiteFacts) => (string | undefined)[]> = {
  "page.path": ({ pages }) => pages.map((page) => page.path),
  "page.id": ({ pages }) => pages.map((page) => page.facts.id),
  "page.category": ({ pages }) => pages.map((page) => page.facts.category),
  "page.language": ({ pages }) => pages.map((page) => page.facts.language),
  "page.tags": ({ pages }) => pages.flatMap((page) => page.facts.tags ?? []),
  "history.landing": ({ pages }) => pages.map((page) => page.path),
  "history.category.": ({ pages }) => pages.map((page) => page.facts.category),
  "cart.skus": ({ products }) => products.map((item) => item.sku),
  "cart.categories": ({ products }) => products.map((item) => item.category),
};

/** Values of a text signal that the site has or rules use already, offered first so that nothing is spelled twice. */
export function valuesInUse(signal: string, ruleset: Ruleset, facts?: SiteFacts): string[] {
  const out = new Set<string>();
  if (facts) for (const value of factOf[signal]?.(facts) ?? []) if (value) out.add(value);
  for (const { rule } of allRules(ruleset))
    walkRule(rule, (inner) => {
      if (inner === null || !isCondition(inner) || inner.signal !== signal) return;
      for (const item of [inner.value].flat()) if (typeof item === "string" && item !== "") out.add(item);
    });
  if (signal === "search.engine") for (const source of ruleset.searchSources) out.add(source.engine);
  return [...out];
}

/** Names after `prefix` (`query.`, `cookie.` …) that rules use already, or that the site has. */
export function namesInUse(prefix: string, ruleset: Ruleset, facts?: SiteFacts): string[] {
  const out = new Set<string>();
  if (facts) for (const value of factOf[prefix]?.(facts) ?? []) if (value) out.add(value);
  for (const { rule } of allRules(ruleset))
    walkRule(rule, (inner) => {
      if (inner !== null && isCondition(inner) && inner.signal.startsWith(prefix) && inner.signal !== prefix)
        out.add(inner.signal.slice(prefix.length));
    });
  return [...out];
}
