/** Which requests are alike to the rules of rulesets, so that they are decided once. */
import { isCondition, walkRule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import type { Place, Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { RuleContext, type ReadyCondition } from "../rules/condition";
import { allContents, allRules } from "../ruleset/uses";
import type { Device } from "../visit/device";
import { Reading, readingRules } from "../visit/reading";

export interface Alike {
  /** Whether requests can be alike at all: not where history, the visitor's own clock or another draw of arms matters. */
  keeps: boolean;
  /** Whether the very address matters. */
  byAddress: boolean;
  /** Whether it matters on which page of the site a visitor was before. */
  byReferrer: boolean;
  deviceParts: readonly (keyof Device)[];
  /** A text that is the same for places which the rules cannot tell apart. */
  placeMark: (place: Place | undefined) => string;
}

type Leans = (test: (signal: string, value: unknown) => boolean) => boolean;

/** What rulesets tell apart. @param consent whether everybody is judged as though they had agreed to be remembered */
export function alikeFor(all: readonly Ruleset[], consent: boolean): Alike {
  const leans: Leans = (test) => {
    let found = all.some((of) => allContents(of).some(({ content }) => Object.values(content.tokens).some((token) => test(token.signal, undefined)))); // prettier-ignore
    for (const { rule } of all.flatMap(allRules))
      walkRule(rule, (inner) => {
        if (inner !== null && isCondition(inner) && test(inner.signal, inner.value)) found = true;
      });
    return found;
  };
  const zoned = leans((signal, value) => signal === "time" && (value as { zone?: string } | undefined)?.zone === "visitor"); // prettier-ignore
  const [first, second] = all;
  return {
    // Without consent requests between two changes of a schedule come out alike, but for arms, which go by visitor.
    keeps: !consent && !zoned && !(first && second && armsDiffer(first, second)),
    byAddress: leans((signal) => signal === "ip") || all.some((of) => of.redirects.some((item) => item.on && item.exemptAddresses.length > 0)), // prettier-ignore
    byReferrer: leans((signal) => signal === "referrer.url"),
    deviceParts: (["kind", "os", "browser", "version"] as const).filter((part) => leans((signal) => signal === (part === "version" ? "device.browserVersion" : `device.${part}`))), // prettier-ignore
    placeMark: placeMarkOf(all),
  };
}

/** A mark of a place, by what its conditions say of it; where a text or an address of a redirect tells the place, the place itself. */
function placeMarkOf(all: readonly Ruleset[]): Alike["placeMark"] {
  const told = all.some(
    (of) =>
      allContents(of).some(({ content }) => Object.values(content.tokens).some((token) => token.signal === "place")) ||
      of.redirects.some((item) => item.on && /country|region|city/.test(item.to)),
  );
  const judges = all.flatMap((of) => {
    const compiler = new RuleCompiler(new RuleContext(of));
    const rules = readingRules(of);
    const found = new Set<ReadyCondition>();
    for (const { rule } of allRules(of))
      walkRule(rule, (inner) => {
        if (inner !== null && isCondition(inner) && inner.signal === "place") found.add(compiler.condition(inner));
      });
    return [...found].map((ready) => (visit: Visit) => ready.judge(new Reading(visit, rules)));
  });
  const known = new Map<string, string>();
  return (place) => {
    const text = place ? JSON.stringify(place) : "";
    if (told) return text;
    let mark = known.get(text);
    if (mark === undefined) {
      const visit: Visit = { at: "2026-01-01T00:00:00Z", url: "https://any.invalid/", ...(place ? { place } : {}) };
      known.set(text, (mark = judges.map((judge) => judge(visit)).join("")));
    }
    return mark;
  };
}

/** Whether a variant or pop-up of both rulesets has other arms in one than in the other: then what changes goes by visitor. */
function armsDiffer(a: Ruleset, b: Ruleset): boolean {
  const arms = (of: Ruleset) =>
    new Map([...of.slots.flatMap((slot) => slot.variants), ...of.popups].map((item) => [item.id, item.arms]));
  const [left, right] = [arms(a), arms(b)];
  return [...left].some(([id, items]) => {
    const others = right.get(id) ?? items;
    return (items.length > 1 || others.length > 1) && JSON.stringify(items) !== JSON.stringify(others);
  });
}
