/** Which requests are alike to the rules of rulesets, so that they are decided once. */
import { isCondition, walkRule } from "../formats/rule";
import { drawArm } from "../decision/arms";
import type { Ruleset, Variant } from "../formats/ruleset";
import type { Place, Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { RuleContext, type ReadyCondition } from "../rules/condition";
import { allContents, allRules } from "../ruleset/uses";
import type { Device } from "../visit/device";
import { Reading, readingRules } from "../visit/reading";
import { sourceTable } from "../visit/referrer";
import type { FixedSignal } from "../visit/signals";
import { longestDomain, plainHost } from "../visit/url";

export interface Alike {
  /** Whether requests can be alike at all: not where history or the visitor's own clock matters. */
  keeps: boolean;
  /** Whether the very address matters. */
  byAddress: boolean;
  /** Whether it matters on which page of the site a visitor was before. */
  byReferrer: boolean;
  deviceParts: readonly (keyof Device)[];
  /** A text that is the same for visitors who draw the same arms, where that can make a difference. */
  armMark: (visitorId: string) => string;
  /** A text that is the same for places which the rules cannot tell apart. */
  placeMark: (place: Place | undefined) => string;
}

type Leans = (test: (signal: string, value: unknown) => boolean) => boolean;

/** The part of a device that each signal of it is read from; null: no log tells it. */
const devicePartOf: Readonly<Record<Extract<FixedSignal, `device.${string}`>, Alike["deviceParts"][number] | null>> = {
  "device.kind": "kind",
  "device.os": "os",
  "device.browser": "browser",
  "device.browserVersion": "version",
  "device.width": null,
};

/** What rulesets tell apart. @param consent whether everybody is judged as though they had agreed to be remembered */
export function alikeFor(all: readonly Ruleset[], consent: boolean): Alike {
  const leans: Leans = (test) => {
    let found = all.some((of) =>
      allContents(of).some(({ content }) =>
        Object.values(content.tokens).some((token) => test(token.signal, undefined)),
      ),
    );
    for (const { rule } of all.flatMap(allRules))
      walkRule(rule, (inner) => {
        if (inner !== null && isCondition(inner) && test(inner.signal, inner.value)) found = true;
      });
    return found;
  };
  const zoned = leans(
    (signal, value) => signal === "time" && (value as { zone?: string } | undefined)?.zone === "visitor",
  );
  return {
    // Without consent requests between two changes of a schedule come out alike, but for arms, which go by visitor.
    keeps: !consent && !zoned,
    armMark: all.length > 1 ? armMarkOf(all) : () => "",
    byAddress:
      leans((signal) => signal === "ip") ||
      all.some((of) => of.redirects.some((item) => item.on && item.exemptAddresses.length > 0)),
    // Pages of the site are told apart also where its own host is a search source: each has words of its own.
    byReferrer:
      leans((signal) => signal === "referrer.url") ||
      all.some(
        (of) => longestDomain(plainHost(new URL(of.site.origin).hostname), sourceTable(of.searchSources)) !== undefined,
      ),
    deviceParts: [
      ...new Set(
        Object.entries(devicePartOf).flatMap(([signal, part]) =>
          part && leans((asked) => asked === signal) ? [part] : [],
        ),
      ),
    ],
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

/** A mark of a visitor by the arms drawn: of two rulesets what changes goes by them, whatever else differs. */
function armMarkOf(all: readonly Ruleset[]): Alike["armMark"] {
  const owners = new Map<string, Pick<Variant, "id" | "arms">>();
  for (const of of all)
    for (const item of [...of.slots.flatMap((slot) => slot.variants), ...of.popups])
      if (item.arms.length > 1) owners.set(`${item.id} ${JSON.stringify(item.arms)}`, item);
  const list = [...owners.values()];
  return (visitorId) => list.map(({ id, arms }) => drawArm(id, arms, visitorId).id).join(" ");
}
