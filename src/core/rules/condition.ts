import { toMinor } from "../money/currency";
import type { Condition, Op } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import { scheduleSchema, type Schedule } from "../formats/schedule";
import type { Place } from "../formats/visit";
import { day as dayLength, fromDay, isLeap, parseDate } from "../calendar/calendar";
import { readySchedule, type ReadySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import { comparable } from "../text/fold";
import type { Text } from "../text/text";
import { wildcard } from "../text/wildcard";
import { words } from "../text/words";
import { inBlock, parseBlock, type Address, type Block } from "../visit/address";
import { matchesRange } from "../visit/language";
import { getterOf, type Reading, type Value } from "../visit/reading";
import { signalInfo, type SignalKind } from "../visit/signals";
import { listTests, placeTest } from "./place";
import { NO, not, truthOf, UNKNOWN, YES, type Truth } from "./truth";

/** A condition made ready to be judged for any visit. */
export interface ReadyCondition {
  readonly condition: Condition;
  readonly kind: SignalKind;
  judge(r: Reading): Truth;
  /** What is judged before `"unknown": true` makes an unknown hold. */
  bare(r: Reading): Truth;
  /** The actual value; null for schedules, which are judged by the instant. */
  value(r: Reading): Value;
  readonly schedule?: ReadySchedule;
}

/** What conditions need of a ruleset, made ready once. */
export class RuleContext {
  readonly #lists;
  readonly #schedules = new Map<string, ReadySchedule>();
  readonly fields;
  readonly audiences;
  constructor(readonly ruleset: Ruleset) {
    this.#lists = listTests(ruleset.placeLists);
    this.fields = new Map(ruleset.dataFields.map((field) => [`${field.signal}.${field.name}`, field]));
    this.audiences = new Map(ruleset.audiences.map((audience) => [audience.id, audience]));
  }
  get lists() {
    return this.#lists;
  }
  /** Equal schedules are made ready once. */
  schedule(schedule: Schedule): ReadySchedule {
    const key = JSON.stringify(schedule);
    let ready = this.#schedules.get(key);
    if (!ready) this.#schedules.set(key, (ready = readySchedule(schedule, this.ruleset.site.zone)));
    return ready;
  }
}

type Test<T> = (value: T, r: Reading) => boolean;

/** Ops that deny another: true when the signal is absent, and of several values only if none of them holds. */
const denials: Partial<Record<Op, Op>> = {
  isNot: "is",
  containsNot: "contains",
  startsNotWith: "startsWith",
  matchesNot: "matches",
  isNoneOf: "isOneOf",
  hasNoneOfWords: "hasAnyWord",
  ne: "eq",
};

/** The positive form of an op: what it denies, or itself. */
export const positiveOf = (op: Op): { op: Op; denied: boolean } => {
  const denied = denials[op];
  return denied ? { op: denied, denied: true } : { op, denied: false };
};

function textTest(op: Op, value: unknown, exact: boolean): Test<Text> {
  const form = (text: Text): string => (exact ? text.exact : text.folded);
  const want = (text: unknown): string => comparable(text as string, exact);
  switch (op) {
    case "is":
    case "isOneOf": {
      const wanted = new Set([value].flat().map(want));
      return (text) => wanted.has(form(text));
    }
    case "contains": {
      const wanted = want(value);
      return (text) => form(text).includes(wanted);
    }
    case "startsWith": {
      const wanted = want(value);
      return (text) => form(text).startsWith(wanted);
    }
    case "endsWith": {
      const wanted = want(value);
      return (text) => form(text).endsWith(wanted);
    }
    case "matches": {
      const fits = wildcard(want(value));
      return (text) => fits(form(text));
    }
    case "hasAllWords":
    case "hasAnyWord": {
      const wanted = words(want(value));
      return (text) => {
        const found = new Set(text.words(exact));
        return op === "hasAllWords" ? wanted.every((word) => found.has(word)) : wanted.some((word) => found.has(word));
      };
    }
    case "hasPhrase": {
      const wanted = words(want(value));
      return (text) => {
        const found = text.words(exact);
        for (let start = 0; start + wanted.length <= found.length; start++)
          if (wanted.every((word, index) => found[start + index] === word)) return true;
        return false;
      };
    }
    default:
      throw new Error(`${op} is no op for text`);
  }
}

function numberTest(op: Op, value: unknown, read: (value: unknown) => number): Test<number> {
  if (op === "between") {
    const [low, high] = (value as unknown[]).map(read) as [number, number];
    return (number) => number >= low && number <= high;
  }
  const limit = read(value);
  switch (op) {
    case "eq":
      return (number) => number === limit;
    case "lt":
      return (number) => number < limit;
    case "lte":
      return (number) => number <= limit;
    case "gt":
      return (number) => number > limit;
    case "gte":
      return (number) => number >= limit;
    default:
      throw new Error(`${op} is no op for numbers`);
  }
}

function dateTest(op: Op, value: unknown, siteZone: string): Test<string> {
  if (op === "on") return (date) => date === value;
  if (op === "before") return (date) => date < (value as string);
  if (op === "after") return (date) => date > (value as string);
  const zone = zoneOf(siteZone);
  return (date, r) => {
    const today = fromDay(Math.floor(zone.toLocal(r.at) / dayLength));
    const born = fromDay(parseDate(date) as number);
    const leapling = born.month === 2 && born.day === 29 && !isLeap(today.year);
    return born.month === today.month && (leapling ? 28 : born.day) === today.day;
  };
}

function languageTest(op: Op, value: unknown): Test<string[]> {
  const ranges = (value as string[]).map((tag) => tag.toLowerCase());
  const fits = (tag: string): boolean => {
    const lower = tag.toLowerCase();
    return ranges.some((range) => matchesRange(lower, range));
  };
  return op === "prefers" ? (tags) => fits(tags[0] as string) : (tags) => tags.some(fits);
}

/**
 * Makes a condition ready. It must have passed `checkRule`.
 * @throws Error if its signal does not exist or its op does not fit.
 */
export function readyCondition(condition: Condition, context: RuleContext): ReadyCondition {
  const made = makeReady(condition, context);
  const { judge } = made;
  return { ...made, bare: judge, judge: condition.unknown ? holdsUnknown(judge) : judge };
}

const holdsUnknown =
  (judge: (r: Reading) => Truth) =>
  (r: Reading): Truth => {
    const truth = judge(r);
    return truth === UNKNOWN ? YES : truth;
  };

function makeReady(condition: Condition, context: RuleContext): Omit<ReadyCondition, "bare"> {
  const { signal, op, value, exact = false } = condition;
  const info = signalInfo(signal, context.ruleset);
  if (!info) throw new Error(`there is no signal ${signal}`);
  const { kind } = info;

  if (kind === "schedule") {
    const schedule = context.schedule(scheduleSchema.parse(value));
    const outside = op === "outside";
    return {
      condition,
      kind,
      schedule,
      value: () => null,
      judge(r) {
        const holds = schedule.holds(r.at, schedule.visitorZone ? r.zone : undefined);
        return holds === undefined ? UNKNOWN : truthOf(holds !== outside);
      },
    };
  }

  const get = getterOf(signal, context.fields);
  if (!get) throw new Error(`there is no signal ${signal}`);
  const ready = (
    judge: (found: NonNullable<Value>, r: Reading) => Truth,
    absent: Truth,
  ): Omit<ReadyCondition, "bare"> => ({
    condition,
    kind,
    value: get,
    judge(r) {
      const found = get(r);
      return found === null ? UNKNOWN : found === undefined ? absent : judge(found, r);
    },
  });

  if (op === "isPresent") return ready(() => YES, NO);
  if (op === "isAbsent") return ready(() => NO, YES);
  if (op === "isKnown") return { condition, kind, value: get, judge: (r) => truthOf(get(r) !== null) };

  const { op: positive, denied } = positiveOf(op);
  // What is asked most, in as few steps as can be: a text that is one of some.
  if (kind === "text" && (positive === "is" || positive === "isOneOf")) {
    const wanted = [value].flat().map((text) => comparable(text as string, exact));
    const only = wanted.length === 1 ? wanted[0] : undefined;
    const set = new Set(wanted);
    const [hit, miss] = denied ? ([NO, YES] as const) : ([YES, NO] as const);
    return {
      condition,
      kind,
      value: get,
      judge(r) {
        const found = get(r);
        if (found === undefined) return miss;
        if (found === null) return UNKNOWN;
        const form = exact ? (found as Text).exact : (found as Text).folded;
        return (only === undefined ? set.has(form) : form === only) ? hit : miss;
      },
    };
  }
  /** Wraps a two-valued test of one known value. */
  const of = <T>(test: Test<T>): Omit<ReadyCondition, "bare"> =>
    ready((found, r) => truthOf(test(found as T, r) !== denied), truthOf(denied));
  switch (kind) {
    case "text":
      return of(textTest(positive, value, exact));
    case "texts": {
      const test = textTest(positive, value, exact);
      return of<Text[]>((found, r) => found.some((text) => test(text, r)));
    }
    case "number":
      return of(numberTest(positive, value, Number));
    case "money": {
      const { currency } = context.ruleset.site;
      return of(numberTest(positive, value, (amount) => toMinor(amount as string, currency) as number));
    }
    case "flag":
      return of<boolean>((flag) => flag === (op === "isTrue"));
    case "date":
      return of(dateTest(op, value, context.ruleset.site.zone));
    case "language":
      return of(languageTest(op, value));
    case "place": {
      const test = placeTest(value as PlaceEntry[], context.lists);
      return ready((place) => (op === "isNotIn" ? not(test(place as Place)) : test(place as Place)), NO);
    }
    case "address": {
      const blocks = (value as string[]).map((text) => parseBlock(text) as Block);
      return of<Address>((address) => blocks.some((block) => inBlock(address, block)) !== (op === "isNotIn"));
    }
  }
}
