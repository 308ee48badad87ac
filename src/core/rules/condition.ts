import {
  firstDate,
  lastDate,
  meaningOf,
  operators,
  positiveOf,
  valueReader,
  type Meaning,
  type OfText,
  type SignalKind,
} from "../formats/operators";
import type { Condition } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import { scheduleSchema, type Schedule } from "../formats/schedule";
import type { Place } from "../formats/visit";
import { day as dayLength, fromDay, isLeap, parseDate } from "../calendar/calendar";
import { readySchedule, type ReadySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import type { Text } from "../text/text";
import { wildcard } from "../text/wildcard";
import { inBlock, parseBlock, type Address, type Block } from "../visit/address";
import { matchesRange } from "../visit/language";
import type { Reading, Value } from "../visit/reading";
import { getterOf, signalInfo, type SignalNames } from "../visit/signals";
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

/** What a condition asks of one value; undefined where its signal does not exist or its value is not of its shape. */
export function conditionMeaning(
  { signal, op, value, exact }: Condition,
  names: Pick<Ruleset, "site"> & SignalNames,
): Meaning | undefined {
  const kind = signalInfo(signal, names)?.kind;
  return kind && meaningOf(op, value, valueReader(kind, names.site.currency, exact));
}

const inOrder = (wanted: readonly string[], found: readonly string[]): boolean => {
  for (let start = 0; start + wanted.length <= found.length; start++)
    if (wanted.every((word, index) => found[start + index] === word)) return true;
  return false;
};

function textTest(meaning: OfText, exact: boolean): Test<Text> {
  const form = (text: Text): string => (exact ? text.exact : text.folded);
  switch (meaning.is) {
    case "equal": {
      const wanted = new Set(meaning.texts);
      return (text) => wanted.has(form(text));
    }
    case "pattern": {
      const fits = wildcard(meaning.parts, meaning.openStart, meaning.openEnd);
      return (text) => fits(form(text));
    }
    case "words": {
      const { words, every } = meaning;
      return (text) => {
        const found = new Set(text.words(exact));
        return every ? words.every((word) => found.has(word)) : words.some((word) => found.has(word));
      };
    }
    case "phrase":
      return (text) => inOrder(meaning.words, text.words(exact));
  }
}

/** Whether a value lies between two limits; each side is asked only where there is a limit. */
function rangeTest<T extends number | string>(
  { low, high, openLow, openHigh }: { low: T; high: T; openLow: boolean; openHigh: boolean },
  [least, most]: readonly [T, T],
): Test<T> {
  if (low === high && !openLow && !openHigh) return (value) => value === low;
  const above: Test<T> | undefined =
    low === least ? undefined : openLow ? (value) => value > low : (value) => value >= low;
  const below: Test<T> | undefined =
    high === most ? undefined : openHigh ? (value) => value < high : (value) => value <= high;
  if (above && below) return (value, r) => above(value, r) && below(value, r);
  return above ?? below ?? (() => true);
}

/** Whether a date has its anniversary where the site is; who was born on 29 February has it on the 28th in other years. */
function anniversaryTest(siteZone: string): Test<string> {
  const zone = zoneOf(siteZone);
  return (date, r) => {
    const today = fromDay(Math.floor(zone.toLocal(r.at) / dayLength));
    const born = fromDay(parseDate(date) as number);
    const leapling = born.month === 2 && born.day === 29 && !isLeap(today.year);
    return born.month === today.month && (leapling ? 28 : born.day) === today.day;
  };
}

function languageTest({ ranges, first }: Extract<Meaning, { is: "languages" }>): Test<string[]> {
  const fits = (tag: string): boolean => {
    const lower = tag.toLowerCase();
    return ranges.some((range) => matchesRange(lower, range));
  };
  return first ? (tags) => fits(tags[0] as string) : (tags) => tags.some(fits);
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

  if (!operators[op].kinds.includes(kind)) throw new Error(`${op} is no op for ${info.label}`);
  const meaning = conditionMeaning(condition, context.ruleset);
  if (!meaning) throw new Error(`${signal} ${op}: the value is not of its shape`);
  const { denied } = positiveOf(op);

  if (meaning.is === "schedule") {
    const schedule = context.schedule(scheduleSchema.parse(value));
    return {
      condition,
      kind,
      schedule,
      value: () => null,
      judge(r) {
        const holds = schedule.holds(r.at, schedule.visitorZone ? r.zone : undefined);
        return holds === undefined ? UNKNOWN : truthOf(holds !== denied);
      },
    };
  }

  const get = getterOf(signal, context.fields);
  if (!get) throw new Error(`there is no signal ${signal}`);
  /** Absent: what it comes to where the signal is known not to be there. */
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
  /** Wraps a two-valued test of one known value. */
  const of = <T>(test: Test<T>): Omit<ReadyCondition, "bare"> =>
    ready((found, r) => truthOf(test(found as T, r) !== denied), truthOf(denied));

  switch (meaning.is) {
    case "state":
      return {
        known: { condition, kind, value: get, judge: (r: Reading) => truthOf(get(r) !== null) },
        present: ready(() => YES, NO),
        absent: ready(() => NO, YES),
      }[meaning.of];
    case "equal":
    case "pattern":
    case "words":
    case "phrase": {
      if (meaning.is === "equal" && kind === "text") return oneOf(condition, meaning.texts, denied, get);
      const test = textTest(meaning, exact);
      // Of several texts one is enough.
      return kind === "texts" ? of<Text[]>((found, r) => found.some((text) => test(text, r))) : of(test);
    }
    case "range":
      return of(rangeTest(meaning, [-Infinity, Infinity]));
    case "dates":
      return of(rangeTest(meaning, [firstDate, lastDate]));
    case "anniversary":
      return of(anniversaryTest(context.ruleset.site.zone));
    case "flag":
      return of<boolean>((flag) => flag === meaning.flag);
    case "languages":
      return of(languageTest(meaning));
    case "entries": {
      if (kind === "address") {
        const blocks = (value as string[]).map((text) => parseBlock(text) as Block);
        return of<Address>((address) => blocks.some((block) => inBlock(address, block)));
      }
      const test = placeTest(value as PlaceEntry[], context.lists);
      return ready((place) => (denied ? not(test(place as Place)) : test(place as Place)), NO);
    }
  }
}

/** What is asked most, in as few steps as can be: a text that is one of some. */
function oneOf(
  condition: Condition,
  texts: readonly string[],
  denied: boolean,
  get: (r: Reading) => Value,
): Omit<ReadyCondition, "bare"> {
  const only = texts.length === 1 ? texts[0] : undefined;
  const set = new Set(texts);
  const exact = condition.exact === true;
  const [hit, miss] = denied ? ([NO, YES] as const) : ([YES, NO] as const);
  return {
    condition,
    kind: "text",
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
