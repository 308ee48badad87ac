import { t } from "../messages/t";
import { toMinor } from "../money/currency";
import { problemList, problemsOf, type Fault, type Problem, type Report } from "../formats/problem";
import { isValueless, operators, type Op, type SignalKind } from "../formats/operators";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import { placeEntrySchema, type Ruleset } from "../formats/ruleset";
import { scheduleSchema } from "../formats/schedule";
import { isDate } from "../calendar/calendar";
import { words } from "../text/words";
import { parseBlock } from "../visit/address";
import { continents } from "../visit/countries";
import { isBasicRange } from "../visit/language";
import { signalInfo } from "../visit/signals";

/** What a rule may lean on: the parts of a ruleset that declare names. */
export type RuleNames = Pick<Ruleset, "site" | "dataFields" | "markers" | "offers" | "audiences" | "placeLists">;

/** Signals that a rule may not use, with why. */
export type Forbidden = (signal: string) => string | undefined;

/** How large a rule may be: far more than anybody writes, and little enough to be looked through. */
const deepestRule = 40;
const mostConditions = 1000;
const mostValues = 5000;
const longestValue = 5000;

/**
 * What is wrong with a rule beyond its shape: signals, ops and values that do not fit, empty groups, unknown names.
 * @param base the path of the rule in its document
 * @param forbidden signals that may not be used here, also not by way of an audience
 */
export function checkRule(
  rule: Rule,
  names: RuleNames,
  base: readonly PropertyKey[] = [],
  forbidden?: Forbidden,
  bounded = true,
): Problem[] {
  const { problems, report } = problemList();
  let conditions = 0;
  const walk = (inner: Rule, path: readonly PropertyKey[], depth = 0): void => {
    if (inner === null) return;
    if (bounded && depth > deepestRule)
      return void report(path, "size", t("stands within more than {deepestRule} groups", { deepestRule }));
    if (isCondition(inner)) {
      conditions += 1;
      if (bounded && conditions === mostConditions + 1)
        report(
          base,
          "size",
          t("has more than {mostConditions} conditions: make audiences of its parts", { mostConditions }),
        );
      if (bounded && conditions > mostConditions) return;
      const large = bounded ? tooLarge(inner.value) : undefined;
      if (large) return void report([...path, "value"], "size", large);
      checkCondition(inner, names, (at, code, problem) => report([...path, ...at], code, problem));
      const because = forbidden?.(inner.signal);
      if (because) report([...path, "signal"], "not-here", because);
      return;
    }
    const members = groupOf(inner);
    if (members) {
      if (members.rules.length === 0)
        report([...path, members.group], "empty", t("must not be empty: add a condition or remove the group"));
      members.rules.forEach((member, index) => walk(member, [...path, members.group, index], depth + 1));
      return;
    }
    const { audience } = inner as { audience: string };
    if (!names.audiences.some((item) => item.id === audience))
      report([...path, "audience"], "unknown-name", t('there is no audience "{audience}"', { audience }));
    else if (forbidden)
      for (const signal of signalsOf(inner, names)) {
        const because = forbidden(signal);
        if (because)
          report([...path, "audience"], "not-here", t("{because}, also not by way of an audience", { because }));
      }
  };
  walk(rule, base);
  return problems;
}

/** Every signal that a rule leans on, by way of audiences too. Circles are walked once. */
export function signalsOf(rule: Rule, names: Pick<Ruleset, "audiences">, seen = new Set<string>()): Set<string> {
  const out = new Set<string>();
  const walk = (inner: Rule): void => {
    if (inner === null) return;
    if (isCondition(inner)) out.add(inner.signal);
    else if ("audience" in inner) {
      if (seen.has(inner.audience)) return;
      seen.add(inner.audience);
      walk(names.audiences.find((item) => item.id === inner.audience)?.rule ?? null);
    } else groupOf(inner)?.rules.forEach(walk);
  };
  walk(rule);
  return out;
}

/** What is too large of a condition's value; undefined: nothing. */
function tooLarge(value: unknown): string | undefined {
  const all = Array.isArray(value) ? (value as unknown[]) : [value];
  if (all.length > mostValues)
    return t("has more than {mostValues} values: make a place list or an audience", { mostValues });
  return all.some((one) => typeof one === "string" && one.length > longestValue)
    ? t("is longer than {longestValue} signs", { longestValue })
    : undefined;
}

function checkCondition(condition: Condition, names: RuleNames, report: Report): void {
  const { signal, op, value, exact } = condition;
  const info = signalInfo(signal, names);
  if (!info)
    return signal === ""
      ? report(["signal"], "missing", t("choose a signal"))
      : report(["signal"], "unknown-name", t('there is no signal "{signal}"', { signal }));
  if (!operators[op].kinds.includes(info.kind))
    return report(["op"], "not-here", t('"{op}" does not fit {label}', { op, label: info.label }));
  if (exact !== undefined && info.kind !== "text" && info.kind !== "texts")
    report(["exact"], "not-here", t("is only for text"));
  if (isValueless(op)) {
    if (value !== undefined) report(["value"], "not-here", t('"{op}" takes no value', { op }));
    return;
  }
  if (value === undefined) return report(["value"], "missing", t("is missing"));
  checkValue(info.kind, op, value, names, (path, code, problem) => report(["value", ...path], code, problem));
}

function checkValue(kind: SignalKind, op: Op, value: unknown, names: RuleNames, report: Report): void {
  const list = (item: (value: unknown, index: number) => void): void => {
    if (!Array.isArray(value)) return report([], "kind", t("must be a list"));
    if (value.length === 0) return report([], "empty", t("must not be empty"));
    value.forEach(item);
  };
  const text = (told: unknown, path: PropertyKey[] = []): told is string => {
    if (typeof told === "string") return true;
    report(path, "kind", t("must be text"));
    return false;
  };
  const limit = (told: unknown, path: PropertyKey[] = []): number | undefined => {
    if (kind === "number") {
      if (typeof told === "number" && Number.isFinite(told)) return told;
      report(path, "kind", t("must be a number"));
      return undefined;
    }
    const { currency } = names.site;
    const minor = typeof told === "string" ? toMinor(told, currency) : undefined;
    if (minor === undefined) report(path, "form", moneyProblem(told, currency));
    return minor;
  };
  const { value: shape } = operators[op];
  switch (shape) {
    case "nothing":
      return;
    case "text":
    case "pattern":
      return void text(value);
    case "part":
      if (text(value) && value === "") report([], "empty", t("must not be empty"));
      return;
    case "words":
    case "phrase":
      if (text(value) && words(value).length === 0) report([], "empty", t("must have a word in it"));
      return;
    case "texts":
      return list((item, index) => text(item, [index]));
    case "limit":
      return void limit(value);
    case "limits": {
      if (!Array.isArray(value) || value.length !== 2)
        return report([], "kind", t("must be two values, the low and the high one"));
      const [low, high] = value.map((item, index) => limit(item, [index]));
      if (low !== undefined && high !== undefined && low > high)
        report([], "order", t("has the low value above the high one"));
      return;
    }
    case "date":
      if (typeof value !== "string" || !isDate(value)) report([], "form", t("must be a date, YYYY-MM-DD, that exists"));
      return;
    case "languages":
      return list((item, index) => {
        if (typeof item !== "string" || !isBasicRange(item))
          report([index], "form", t("must be a language such as pt or pt-PT"));
      });
    case "entries":
      return list((item, index) => {
        if (kind === "address") {
          const block = typeof item === "string" ? parseBlock(item) : { problem: t("must be text") };
          if ("problem" in block) report([index], "form", block.problem);
        } else
          for (const { path, code, problem } of checkPlaceEntry(item, names)) report([index, ...path], code, problem);
      });
    case "schedule": {
      const read = scheduleSchema.safeParse(value);
      if (!read.success)
        for (const { path, code, problem } of problemsOf(read.error.issues))
          report(path.split("/").slice(1), code, problem);
      return;
    }
  }
}

const moneyProblem = (value: unknown, currency: string): string =>
  typeof value === "string" && /^\d+\.\d+$/.test(value)
    ? t("has more decimals than {currency}", { currency })
    : t('must be an amount as text, such as "60.00"');

interface FaultAt extends Fault {
  path: PropertyKey[];
}

/** What is wrong with one entry of a list of places. `names.placeLists` is left out where lists may not be named. */
export function checkPlaceEntry(entry: unknown, names: { placeLists?: Ruleset["placeLists"] }): FaultAt[] {
  const read = placeEntrySchema.safeParse(entry);
  if (!read.success)
    return problemsOf(read.error.issues).map(({ path, ...fault }) => ({ path: path.split("/").slice(1), ...fault }));
  const place = read.data;
  const out: FaultAt[] = [];
  const report = (key: string, code: Fault["code"], problem: string) => out.push({ path: [key], code, problem });
  if ("list" in place) {
    if (!names.placeLists) report("list", "not-here", t("a place list holds no lists"));
    else if (!names.placeLists.some((list) => list.id === place.list))
      report("list", "unknown-name", t('there is no place list "{list}"', { list: place.list }));
  } else if ("continent" in place) {
    if (!continents.some((code) => code === place.continent.toUpperCase()))
      report("continent", "choice", t("must be one of {continents}", { continents: continents.join(", ") }));
  } else if ("km" in place) {
    if (Math.abs(place.lat) > 90) report("lat", "range", t("must be from -90 to 90"));
    if (Math.abs(place.lon) > 180) report("lon", "range", t("must be from -180 to 180"));
    if (place.km <= 0) report("km", "range", t("must be above 0"));
  } else {
    if (!/^[A-Za-z]{2}$/.test(place.country))
      report("country", "form", t("must be a two-letter country code such as PT"));
    if (place.region !== undefined && !/^[A-Za-z]{2}-[A-Za-z0-9]{1,3}$/.test(place.region))
      report("region", "form", t("must be a full region code such as PT-11"));
    if (place.city === "") report("city", "empty", t("must not be empty"));
  }
  return out;
}
