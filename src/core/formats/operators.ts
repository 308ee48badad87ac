/**
 * The operators of conditions (docs/engine.md, section 3): one entry each. What an operator means of one value is data; its test,
 * the solver's candidates and its JsonLogic are made from that, so that none of them can say anything else. A meaning of a new kind
 * is refused by the compiler until the engine can judge it; nothing is proven of it, and JsonLogic asks the caller, until they can.
 */
import { text, type Words } from "../messages/t";
import { toMinor } from "../money/currency";
import { comparable } from "../text/fold";
import { words } from "../text/words";

/** What values a signal has, and so which operators fit it (docs/engine.md, sections 2 and 3). */
export type SignalKind =
  "text" | "texts" | "number" | "money" | "flag" | "date" | "place" | "language" | "schedule" | "address";

/**
 * What a condition's `value` holds: nothing; a text; a part of a text, which is not empty; a pattern with `*`; words; words in
 * their order; a list of texts; a limit (a number, or an amount of money); a low and a high limit; a date; language ranges; places,
 * or blocks of addresses; a schedule.
 */
export type ValueShape =
  | "nothing"
  | "text"
  | "part"
  | "pattern"
  | "words"
  | "phrase"
  | "texts"
  | "limit"
  | "limits"
  | "date"
  | "languages"
  | "entries"
  | "schedule";

/** What an operator asks of one value. Texts are in comparable form. */
export type Meaning =
  /** Whether there is a value, or whether that is known. */
  | { is: "state"; of: "present" | "absent" | "known" }
  /** One of some texts. */
  | { is: "equal"; texts: readonly string[] }
  /** The parts in their order, with anything between them, and before or after where an end is open. */
  | { is: "pattern"; parts: readonly string[]; openStart: boolean; openEnd: boolean }
  | { is: "words"; words: readonly string[]; every: boolean }
  | { is: "phrase"; words: readonly string[] }
  /** A number or amount from low to high; a limit itself is in it unless that side is open. */
  | { is: "range"; low: number; high: number; openLow: boolean; openHigh: boolean }
  /** The same of dates, YYYY-MM-DD. */
  | { is: "dates"; low: string; high: string; openLow: boolean; openHigh: boolean }
  /** The same day and month as today’s. */
  | { is: "anniversary" }
  | { is: "flag"; flag: boolean }
  /** Language ranges, in small letters: of the first language alone, or of any. */
  | { is: "languages"; ranges: readonly string[]; first: boolean }
  /** Places or blocks of addresses, as the condition has them. */
  | { is: "entries" }
  | { is: "schedule" };

/** Meanings that ask something of a text. */
export type OfText = Extract<Meaning, { is: "equal" | "pattern" | "words" | "phrase" }>;

/** How a value of a condition is read. */
export interface ValueReader {
  /** Whether capital letters count. */
  exact: boolean;
  /** A limit as the number that the signal’s values are: minor units of money. NaN: it is none. */
  limit(value: unknown): number;
}

/** How values of conditions on signals of a kind are read; `currency` is the site’s. */
export const valueReader = (kind: SignalKind | undefined, currency: string, exact = false): ValueReader => ({
  exact,
  limit: (value) =>
    kind === "money"
      ? ((typeof value === "string" ? toMinor(value, currency) : undefined) ?? NaN)
      : typeof value === "number"
        ? value
        : NaN,
});

interface Base {
  /** The kinds of signals that it fits. */
  kinds: readonly SignalKind[];
  value: ValueShape;
  /** Its words, in menus and between signal and value in a sentence. */
  words: Words;
  /** When it holds, in a sentence for whoever builds a rule. */
  means: Words;
  /** How much more work than the cheapest one it is, roughly: what is cheap is asked first. */
  cost: number;
}
/** An operator denies another, or has a meaning of its own. */
export type Operator = Base &
  (
    | { denies: string; meaning?: undefined }
    | {
        denies?: undefined;
        /** Undefined where the value is not of its shape (a condition that is still being written). */
        meaning(value: unknown, read: ValueReader): Meaning | undefined;
      }
  );

const every: readonly SignalKind[] = [
  "text",
  "texts",
  "number",
  "money",
  "flag",
  "date",
  "place",
  "language",
  "address",
];
const written = ["text", "texts"] as const;
const numeric = ["number", "money"] as const;

const state = (of: "present" | "absent" | "known", words: Words, means: Words): Operator => ({
  kinds: every,
  value: "nothing",
  words,
  means,
  cost: 0,
  meaning: () => ({ is: "state", of }),
});
const ofText = (
  value: "text" | "part" | "pattern" | "words" | "phrase",
  words: Words,
  means: Words,
  meaning: (comparable: string) => Meaning,
): Operator => ({
  kinds: written,
  value,
  words,
  means,
  cost: value === "words" || value === "phrase" ? 6 : 0,
  meaning: (told, { exact }) => (typeof told === "string" ? meaning(comparable(told, exact)) : undefined),
});
const pattern = (parts: readonly string[], openStart: boolean, openEnd: boolean): Meaning => ({
  is: "pattern",
  parts,
  openStart,
  openEnd,
});
/** Denying one makes the answer of most visitors yes: it parts them late. */
const denial = (denies: string, { kinds, value, cost }: Base, words: Words, means: Words): Operator => ({
  kinds,
  value,
  words,
  means,
  cost: cost + 2,
  denies,
});
const ofNumber = (
  words: Words,
  means: Words,
  range: (limit: number) => Omit<Meaning & { is: "range" }, "is">,
): Operator => ({
  kinds: numeric,
  value: "limit",
  words,
  means,
  cost: 0,
  meaning(told, { limit }) {
    const number = limit(told);
    return Number.isFinite(number) ? { is: "range", ...range(number) } : undefined;
  },
});
const ofDate = (
  words: Words,
  means: Words,
  range: (date: string) => Omit<Meaning & { is: "dates" }, "is">,
): Operator => ({
  kinds: ["date"],
  value: "date",
  words,
  means,
  cost: 0,
  meaning: (told) => (typeof told === "string" && told !== "" ? { is: "dates", ...range(told) } : undefined),
});
const flag = (value: boolean, words: Words, means: Words): Operator => ({
  kinds: ["flag"],
  value: "nothing",
  words,
  means,
  cost: 0,
  meaning: () => ({ is: "flag", flag: value }),
});
const languages = (first: boolean, words: Words, means: Words): Operator => ({
  kinds: ["language"],
  value: "languages",
  words,
  means,
  cost: 0,
  meaning: (told) =>
    Array.isArray(told)
      ? { is: "languages", ranges: told.map((range) => String(range).toLowerCase()), first }
      : undefined,
});

/** Dates before and after all that can be written. */
export const [firstDate, lastDate] = ["", "~"] as const;
const closed = { openLow: false, openHigh: false };

const is = ofText("text", text("is"), text("The whole text is this one."), (told) => ({ is: "equal", texts: [told] }));
const contains = ofText("part", text("contains"), text("This text stands anywhere in it."), (told) =>
  pattern([told], true, true),
);
const startsWith = ofText("part", text("starts with"), text("It begins with this text."), (told) =>
  pattern([told], false, true),
);
const matches = ofText(
  "pattern",
  text("matches"),
  text("The whole text fits the pattern; * stands for any characters."),
  (told) => {
    const parts = told.split("*");
    if (parts.length === 1) return { is: "equal", texts: parts };
    return pattern(
      parts.filter((part) => part !== ""),
      parts[0] === "",
      parts.at(-1) === "",
    );
  },
);
const isOneOf: Operator = {
  kinds: written,
  value: "texts",
  words: text("is one of"),
  means: text("The whole text is one of these."),
  cost: 0,
  meaning: (told, { exact }) =>
    Array.isArray(told) ? { is: "equal", texts: told.map((item) => comparable(String(item), exact)) } : undefined,
};
const hasAnyWord = ofText(
  "words",
  text("contains any of the words"),
  text("At least one of these whole words is in it."),
  (told) => ({ is: "words", words: words(told), every: false }),
);
const eq = ofNumber(text("is"), text("It is exactly this number."), (limit) => ({
  low: limit,
  high: limit,
  ...closed,
}));
const isIn: Operator = {
  kinds: ["place", "address"],
  value: "entries",
  words: text("is in"),
  means: text("It is in one of these."),
  cost: 0,
  meaning: (told) => (Array.isArray(told) ? { is: "entries" } : undefined),
};
const within: Operator = {
  kinds: ["schedule"],
  value: "schedule",
  words: text("is within"),
  means: text("The schedule is open."),
  cost: 0,
  meaning: () => ({ is: "schedule" }),
};

const table = {
  is,
  isNot: denial("is", is, text("is not"), text("The text is another, or there is none.")),
  contains,
  containsNot: denial("contains", contains, text("does not contain"), text("This text stands nowhere in it.")),
  startsWith,
  startsNotWith: denial("startsWith", startsWith, text("does not start with"), text("It begins with another text.")),
  endsWith: ofText("part", text("ends with"), text("It ends with this text."), (told) => pattern([told], true, false)),
  matches,
  matchesNot: denial("matches", matches, text("does not match"), text("The text does not fit the pattern.")),
  isOneOf,
  isNoneOf: denial("isOneOf", isOneOf, text("is none of"), text("The text is none of these.")),
  hasAllWords: ofText(
    "words",
    text("contains all the words"),
    text("All of these whole words are in it, in any order."),
    (told) => ({ is: "words", words: words(told), every: true }),
  ),
  hasAnyWord,
  hasNoneOfWords: denial(
    "hasAnyWord",
    hasAnyWord,
    text("contains none of the words"),
    text("None of these whole words is in it."),
  ),
  hasPhrase: ofText("phrase", text("contains the phrase"), text("These words follow one another in it."), (told) => ({
    is: "phrase",
    words: words(told),
  })),
  eq,
  ne: denial("eq", eq, text("is not"), text("It is another number.")),
  lt: ofNumber(text("is less than"), text("It is below this number."), (high) => ({
    low: -Infinity,
    high,
    openLow: false,
    openHigh: true,
  })),
  lte: ofNumber(text("is at most"), text("It is this number or less."), (high) => ({
    low: -Infinity,
    high,
    ...closed,
  })),
  gt: ofNumber(text("is more than"), text("It is above this number."), (low) => ({
    low,
    high: Infinity,
    openLow: true,
    openHigh: false,
  })),
  gte: ofNumber(text("is at least"), text("It is this number or more."), (low) => ({ low, high: Infinity, ...closed })),
  between: {
    kinds: numeric,
    value: "limits",
    words: text("is between"),
    means: text("It is from the first number to the second, both counted."),
    cost: 0,
    meaning(told, { limit }) {
      if (!Array.isArray(told)) return undefined;
      const [low = NaN, high = NaN] = told.map(limit);
      return Number.isFinite(low) && Number.isFinite(high) ? { is: "range", low, high, ...closed } : undefined;
    },
  },
  isTrue: flag(true, text("is true"), text("It is so.")),
  isFalse: flag(false, text("is false"), text("It is not so.")),
  on: ofDate(text("is on"), text("It is this day."), (date) => ({ low: date, high: date, ...closed })),
  before: ofDate(text("is before"), text("It is an earlier day."), (high) => ({
    low: firstDate,
    high,
    openLow: false,
    openHigh: true,
  })),
  after: ofDate(text("is after"), text("It is a later day."), (low) => ({
    low,
    high: lastDate,
    openLow: true,
    openHigh: false,
  })),
  anniversary: {
    kinds: ["date"],
    value: "nothing",
    words: text("has its anniversary"),
    means: text("Its day and month are today’s."),
    cost: 0,
    meaning: () => ({ is: "anniversary" }),
  },
  isIn,
  isNotIn: denial("isIn", isIn, text("is not in"), text("It is in none of these.")),
  prefers: languages(true, text("prefers"), text("The first choice of the visitor’s browser is one of these.")),
  accepts: languages(false, text("reads"), text("Any choice of the visitor’s browser is one of these.")),
  within,
  outside: denial("within", within, text("is outside"), text("The schedule is closed.")),
  isPresent: state("present", text("has a value"), text("There is a value, whatever it is.")),
  isAbsent: state("absent", text("is empty"), text("It is known that there is no value.")),
  isKnown: state("known", text("is known"), text("It is known whether there is a value.")),
} satisfies Record<string, Operator>;

export type Op = keyof typeof table;
export const operators: Readonly<Record<Op, Operator>> = table;
export const ops = Object.keys(table) as [Op, ...Op[]];
export const isOp = (name: string): name is Op => Object.hasOwn(table, name);

/** The operators that fit a kind of signal, in the order in which they are offered. */
export const opsOf = (kind: SignalKind): readonly Op[] => ops.filter((op) => operators[op].kinds.includes(kind));

/** The positive form of an operator: what it denies, or itself. */
export function positiveOf(op: Op): { op: Op; denied: boolean } {
  const { denies } = operators[op];
  return denies !== undefined && isOp(denies) ? { op: denies, denied: true } : { op, denied: false };
}

/** What an operator, or the one that it denies, means with a value; undefined where the value is not of its shape. */
export function meaningOf(op: Op, value: unknown, read: ValueReader): Meaning | undefined {
  return operators[positiveOf(op).op].meaning?.(value, read);
}

/** Whether an operator takes no value. */
export const isValueless = (op: Op): boolean => operators[op].value === "nothing";
/** Whether it names whole values, one or several: what fits where all values are known. */
export const namesValues = (op: Op): boolean => /^texts?$/.test(operators[op].value);
/** Whether it asks only whether anything is known. */
export const asksKnown = (op: Op): boolean => stateOf(op) === "known";
/** Whether it asks only whether there is a value. */
export const asksState = (op: Op): boolean => stateOf(op) !== undefined;
function stateOf(op: Op): "present" | "absent" | "known" | undefined {
  const meaning = meaningOf(op, undefined, valueReader(undefined, ""));
  return meaning?.is === "state" ? meaning.of : undefined;
}
