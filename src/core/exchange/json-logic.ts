/**
 * Rules as JsonLogic (jsonlogic.com), for other programs. JsonLogic knows true and false only; rules know a third, unknown. So
 * every rule is written as *it is true*, and where it is denied as *it is false*: then whatever is unknown shows nothing, as here.
 *
 * The data that the expressions read is a document of signals (`signalDocument`): each is `{ "state": "known", "value": … }`,
 * `{ "state": "absent" }` or `{ "state": "unknown" }`. Text is folded (NFC, full case folding), money is in minor units, dates are
 * numbers such as 20261224, words are one text with a space around each. What JsonLogic has no words for (schedules, circles,
 * blocks of addresses, patterns with a star inside, anniversaries) is asked of the caller: `conditions.N` is true, false or null.
 */
import { t } from "../messages/t";
import type { Engine } from "../decision/engine";
import { firstDate, lastDate, positiveOf, type Meaning } from "../formats/operators";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { evaluate } from "../rules/evaluate";
import { RuleCompiler } from "../rules/compile";
import { conditionMeaning, RuleContext } from "../rules/condition";
import { ruleText } from "../rules/sentence";
import { allRules } from "../ruleset/uses";
import { comparable } from "../text/fold";
import type { Text } from "../text/text";
import { continentOf } from "../visit/countries";
import { getterOf, signalInfo, splitSignal } from "../visit/signals";

export type Logic = string | number | boolean | null | Logic[] | { [op: string]: Logic };

export interface LogicExport {
  format: "mirada-jsonlogic/1";
  /** Audiences and slots by id. A slot answers the id of its variant, "fallback", or null where it is not on the page; one that shows several answers a list. */
  audiences: Record<string, Logic>;
  slots: Record<string, Logic>;
  /** Conditions that the caller answers: what they say, and the condition itself. */
  conditions: { name: string; says: string; condition: Condition }[];
  /** What this export leaves out, in words. */
  leftOut: string[];
}

const yes: Logic = true;
const no: Logic = false;
const and = (...parts: Logic[]): Logic => (parts.length === 1 ? (parts[0] as Logic) : { and: parts });
const or = (...parts: Logic[]): Logic => (parts.length === 1 ? (parts[0] as Logic) : { or: parts });
const at = (path: string): Logic => ({ var: path });
const equal = (a: Logic, b: Logic): Logic => ({ "===": [a, b] });
const denied = (part: Logic): Logic => ({ "!": [part] });

/** A name as it may stand in a path of JsonLogic, where dots part: other signs become `_` and their number. */
const step = (name: string): string =>
  name.replace(/[^A-Za-z0-9-]/g, (sign) => `_${sign.codePointAt(0)?.toString(16)}_`);
/** The path of a signal in the document: the free name after its prefix is one step. */
export function pathOf(signal: string): string {
  const named = splitSignal(signal);
  return named ? `${named.prefix.slice(0, -1).replace(".", "-")}-${step(named.name)}` : signal.replace(".", "-");
}

/** Words of a text, each with a space around it: " shade fern ". */
const spaced = (words: readonly string[]): string => (words.length === 0 ? "" : ` ${words.join(" ")} `);

/** A condition as two expressions: it is true, it is false. Undefined where JsonLogic cannot say it. */
function conditionLogic(condition: Condition, ruleset: Ruleset): { yes: Logic; no: Logic } | undefined {
  const { signal, exact } = condition;
  const kind = signalInfo(signal, ruleset)?.kind;
  const path = pathOf(signal);
  const state = (name: string): Logic => equal(at(`${path}.state`), name);
  const meaning = conditionMeaning(condition, ruleset);
  if (meaning?.is === "state")
    return {
      known: { yes: denied(state("unknown")), no: state("unknown") },
      present: { yes: state("known"), no: state("absent") },
      absent: { yes: state("absent"), no: state("known") },
    }[meaning.of];
  if (kind === "place") return placeLogic(condition, ruleset);
  const one = meaning && valueLogic(meaning, exact === true);
  if (!one) return undefined;
  // Of several values one is enough; within `some` each is an object of its forms.
  const anyOf = kind === "texts" || (meaning.is === "languages" && !meaning.first);
  const met: Logic = anyOf
    ? { some: [at(`${path}.values`), one((form) => at(form))] }
    : one((form) => at(`${path}.${meaning.is === "languages" ? "first" : form}`));
  const positive = and(state("known"), met);
  const negation = or(state("absent"), and(state("known"), denied(met)));
  return positiveOf(condition.op).denied ? { yes: negation, no: positive } : { yes: positive, no: negation };
}

/** The test of one value that is known, given how to get at its forms; undefined where JsonLogic has no words for it. */
function valueLogic(meaning: Meaning, exact: boolean): ((value: (form: string) => Logic) => Logic) | undefined {
  const form = exact ? "exact" : "value";
  const spoken = exact ? "exactWords" : "words";
  switch (meaning.is) {
    case "equal":
      return (value) => or(...meaning.texts.map((text) => equal(value(form), text)));
    case "pattern": {
      const { parts, openStart, openEnd } = meaning;
      const [only] = parts;
      if (only === undefined) return openStart || openEnd ? () => yes : (value) => equal(value(form), "");
      if (parts.length > 1) return undefined;
      if (openStart && openEnd) return (value) => ({ in: [only, value(form)] });
      return openStart
        ? (value) => equal({ substr: [value(form), -only.length] }, only)
        : openEnd
          ? (value) => equal({ substr: [value(form), 0, only.length] }, only)
          : (value) => equal(value(form), only);
    }
    case "words": {
      const join = meaning.every ? and : or;
      return (value) => join(...meaning.words.map((word): Logic => ({ in: [` ${word} `, value(spoken)] })));
    }
    case "phrase":
      return (value) => ({ in: [spaced(meaning.words), value(spoken)] });
    case "range":
      return rangeLogic(
        Number.isFinite(meaning.low) ? meaning.low : undefined,
        Number.isFinite(meaning.high) ? meaning.high : undefined,
        meaning,
      );
    case "dates": {
      const number = (date: string) =>
        date === firstDate || date === lastDate ? undefined : Number(date.replaceAll("-", ""));
      return rangeLogic(number(meaning.low), number(meaning.high), meaning);
    }
    case "flag":
      return (value) => equal(value("value"), meaning.flag);
    case "languages":
      return (value) =>
        or(
          ...meaning.ranges.map((tag): Logic =>
            tag === "*"
              ? yes
              : or(equal(value("value"), tag), equal({ substr: [value("value"), 0, tag.length + 1] }, `${tag}-`)),
          ),
        );
    case "state":
    case "anniversary":
    case "entries":
    case "schedule":
      return undefined;
  }
}

const rangeLogic =
  (low: number | undefined, high: number | undefined, open: { openLow: boolean; openHigh: boolean }) =>
  (value: (form: string) => Logic): Logic => {
    const it = value("value");
    if (low !== undefined && low === high && !open.openLow && !open.openHigh) return equal(it, low);
    return and(
      ...(low === undefined ? [] : [{ [open.openLow ? ">" : ">="]: [it, low] }]),
      ...(high === undefined ? [] : [{ [open.openHigh ? "<" : "<="]: [it, high] }]),
    );
  };

/** Entries of a place as Kleene's `any` of `all`: the parts that are told are compared, one that is not told is unknown. */
function placeLogic(condition: Condition, ruleset: Ruleset): { yes: Logic; no: Logic } | undefined {
  const entries: PlaceEntry[] = [];
  for (const entry of condition.value as PlaceEntry[]) {
    if ("list" in entry) entries.push(...(ruleset.placeLists.find((list) => list.id === entry.list)?.places ?? []));
    else entries.push(entry);
  }
  if (entries.some((entry) => "km" in entry)) return undefined;
  const part = (name: string, value: string) => ({
    yes: equal(at(`place.${name}`), value),
    // Known, and another.
    no: and(denied(equal(at(`place.${name}`), "")), denied(equal(at(`place.${name}`), value))),
  });
  const known = equal(at("place.state"), "known");
  const judged = entries.map((entry) => {
    const told = entry as { continent?: string; country?: string; region?: string; city?: string };
    const parts = [
      ...(told.continent ? [part("continent", told.continent.toUpperCase())] : []),
      ...(told.country ? [part("country", told.country.toUpperCase())] : []),
      ...(told.region ? [part("region", told.region.toUpperCase())] : []),
      ...(told.city ? [part("city", comparable(told.city))] : []),
    ];
    return { yes: and(...parts.map((item) => item.yes)), no: or(...parts.map((item) => item.no)) };
  });
  const some =
    judged.length === 0
      ? { yes: no, no: yes }
      : { yes: or(...judged.map((item) => item.yes)), no: and(...judged.map((item) => item.no)) };
  const both = { yes: and(known, some.yes), no: and(known, some.no) };
  return positiveOf(condition.op).denied ? { yes: both.no, no: both.yes } : both;
}

/** Everything in a ruleset that JsonLogic can say, and what it cannot. */
export function toJsonLogic(ruleset: Ruleset): LogicExport {
  const asked: LogicExport["conditions"] = [];
  const audiences = new Map(ruleset.audiences.map((item) => [item.id, item.rule]));
  const leaf = (condition: Condition): { yes: Logic; no: Logic } => {
    const said = conditionLogic(condition, ruleset);
    // Whatever is not known to be otherwise holds.
    if (said) return condition.unknown ? { yes: denied(said.no), no: said.no } : said;
    const key = JSON.stringify(condition);
    let index = asked.findIndex((item) => JSON.stringify(item.condition) === key);
    if (index < 0)
      index = asked.push({ name: `conditions.${asked.length}`, says: ruleText(condition, ruleset), condition }) - 1;
    return { yes: equal(at(`conditions.${index}`), true), no: equal(at(`conditions.${index}`), false) };
  };
  const of = (rule: Rule): { yes: Logic; no: Logic } => {
    if (rule === null) return { yes, no };
    if (isCondition(rule)) return leaf(rule);
    const members = groupOf(rule);
    if (!members) return of(audiences.get((rule as { audience: string }).audience) ?? null);
    const parts = members.rules.map(of);
    const [all, any] = [parts.map((part) => part.yes), parts.map((part) => part.no)];
    if (members.group === "all") return { yes: and(...all), no: or(...any) };
    return members.group === "any" ? { yes: or(...all), no: and(...any) } : { yes: and(...any), no: or(...all) };
  };
  const leftOut: string[] = [];
  const slots: LogicExport["slots"] = {};
  for (const slot of ruleset.slots) {
    const on = slot.variants.filter((variant) => variant.on);
    for (const variant of on) {
      if (variant.rememberDays)
        leftOut.push(
          t("{slot}, {variant}: that it is kept showing for {rememberDays} days", {
            slot: slot.name,
            variant: variant.name,
            rememberDays: variant.rememberDays,
          }),
        );
      if (variant.arms.length > 1)
        leftOut.push(t("{slot}, {variant}: its arms", { slot: slot.name, variant: variant.name }));
    }
    const shown: Logic =
      slot.take === 1
        ? { if: [...on.flatMap((variant) => [of(variant.rule).yes, variant.id]), "fallback"] }
        : { merge: on.map((variant): Logic => ({ if: [of(variant.rule).yes, variant.id, []] })) };
    if (slot.take > 1)
      leftOut.push(
        t("{slot}: that only the first {take} of the list are shown, and the fallback where it is empty", {
          slot: slot.name,
          take: slot.take,
        }),
      );
    slots[slot.id] = { if: [of(slot.pages).yes, shown, null] };
  }
  for (const [list, word] of [
    [ruleset.popups, "pop-up"],
    [ruleset.redirects, "redirect"],
    [ruleset.offers, "offer"],
    [ruleset.markers, "marker"],
  ] as const)
    for (const item of list) leftOut.push(t("The {word} {name}", { word, name: item.name }));
  leftOut.push(t("Contents of variants: they stand in the ruleset’s own JSON"));
  return {
    format: "mirada-jsonlogic/1",
    audiences: Object.fromEntries(ruleset.audiences.map((item) => [item.id, of(item.rule).yes])),
    slots,
    conditions: asked,
    leftOut,
  };
}

/** The signals that rules of a ruleset ask, and the conditions of its export, for one visit: what the expressions are evaluated on. */
export function signalDocument(engine: Engine, visit: Visit, exported: LogicExport): Logic {
  const { ruleset } = engine;
  const reading = engine.read(visit);
  const fields = new Map(ruleset.dataFields.map((field) => [`${field.signal}.${field.name}`, field]));
  const signals = new Set<string>();
  const note = (rule: Rule): void => {
    if (rule === null) return;
    if (isCondition(rule)) signals.add(rule.signal);
    else groupOf(rule)?.rules.forEach(note);
  };
  for (const { rule } of allRules(ruleset)) note(rule);
  const out: Record<string, Logic> = {};
  for (const signal of signals) {
    const info = signalInfo(signal, ruleset);
    if (!info || info.kind === "schedule") continue;
    const value = getterOf(signal, fields)?.(reading);
    out[pathOf(signal)] =
      value === null
        ? { state: "unknown" }
        : value === undefined
          ? { state: "absent" }
          : { state: "known", ...formsOf(info.kind, value) };
  }
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  out.conditions = exported.conditions.map(({ condition }) => {
    const { verdict } = evaluate(condition, reading, compiler);
    return verdict === "unknown" ? null : verdict === "true";
  });
  return out;
}

function formsOf(kind: string, value: unknown): Record<string, Logic> {
  const text = (item: Text): Record<string, Logic> => {
    return {
      value: item.folded,
      exact: item.exact,
      words: spaced(item.words(false)),
      exactWords: spaced(item.words(true)),
    };
  };
  if (kind === "text") return text(value as Text);
  if (kind === "texts") return { values: (value as Text[]).map(text) };
  if (kind === "date") return { value: Number(String(value).replaceAll("-", "")) };
  if (kind === "language") {
    const tags = (value as string[]).map((tag) => tag.toLowerCase());
    return { first: tags[0] ?? "", values: tags.map((tag) => ({ value: tag })) };
  }
  if (kind === "place") {
    const place = value as { country: string; region?: string | null; city?: string | null };
    return {
      country: place.country.toUpperCase(),
      continent: continentOf(place.country.toUpperCase()) ?? "",
      region: place.region?.toUpperCase() ?? "",
      city: place.city ? comparable(place.city) : "",
    };
  }
  return { value: value as Logic };
}
