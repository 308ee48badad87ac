import { formatMoney, toMinor } from "../money/currency";
import { groupOf, isCondition, valueless, type Condition, type Op, type Rule } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import type { Schedule } from "../formats/schedule";
import { continentNames, countryName, type Continent } from "../visit/countries";
import { signalInfo, type SignalInfo } from "../visit/signals";
import {
  datePhrase,
  daysPhrase,
  joinParts,
  listed,
  missing,
  monthNames,
  plain,
  value,
  zonePhrase,
  type Part,
} from "./phrases";

/** What sentences look names up in. */
export type SentenceNames = Pick<Ruleset, "site" | "dataFields" | "markers" | "offers" | "audiences" | "placeLists">;

/**
 * A rule as one English sentence, to follow "when". Members of a group inside another stand in brackets, so that two rules
 * that group differently never read the same.
 */
export function ruleSentence(rule: Rule, names: SentenceNames): Part[] {
  return phrase(rule, names, true);
}

/** The same as text. */
export const ruleText = (rule: Rule, names: SentenceNames): string => joinParts(ruleSentence(rule, names));

function phrase(rule: Rule, names: SentenceNames, top: boolean): Part[] {
  if (rule === null) return [plain("always")];
  if (isCondition(rule)) return conditionPhrase(rule, names);
  const members = groupOf(rule);
  if (!members) {
    const { audience } = rule as { audience: string };
    const found = names.audiences.find((item) => item.id === audience);
    return [plain("the visitor belongs to "), found ? value(`“${found.name}”`) : missing(`“${audience}”`)];
  }
  const { group, rules } = members;
  if (rules.length === 0) return [missing(`${group} of … (nothing yet)`)];
  const word = group === "all" ? " and " : " or ";
  const inner = rules.flatMap((member, index) => [
    ...(index > 0 ? [plain(word)] : []),
    ...phrase(member, names, false),
  ]);
  const open: Part = { text: group === "none" ? "none of (" : "(", kind: "group" };
  const close: Part = { text: ")", kind: "group" };
  if (group === "none") return [open, ...inner, close];
  return top ? inner : [open, ...inner, close];
}

const deviceWords: Record<string, string> = {
  phone: "on a phone",
  tablet: "on a tablet",
  desktop: "at a desktop computer",
  bot: "a crawler",
  other: "on another device",
};
const kindWords: Record<string, string> = {
  direct: "directly",
  internal: "from another page of the site",
  search: "from a search engine",
  mail: "from web mail",
  social: "from a social network",
  other: "from another site",
};

const opWords: Partial<Record<Op, string>> = {
  is: "is",
  isNot: "is not",
  contains: "contains",
  containsNot: "does not contain",
  startsWith: "starts with",
  startsNotWith: "does not start with",
  endsWith: "ends with",
  matches: "matches",
  matchesNot: "does not match",
  isOneOf: "is",
  isNoneOf: "is none of",
  hasAllWords: "has all the words",
  hasAnyWord: "has a word of",
  hasNoneOfWords: "has no word of",
  hasPhrase: "has the phrase",
  eq: "is",
  ne: "is not",
  lt: "is less than",
  lte: "is at most",
  gt: "is more than",
  gte: "is at least",
  between: "is between",
  on: "is on",
  before: "is before",
  after: "is after",
  anniversary: "has its anniversary",
};
/** The words of an op, for menus. */
export const opLabel = (op: Op): string =>
  (op === "isOneOf" ? undefined : opWords[op]) ??
  ({
    isOneOf: "is one of",
    isTrue: "is so",
    isFalse: "is not so",
    isIn: "is in",
    isNotIn: "is not in",
    prefers: "prefers",
    accepts: "reads",
    within: "is within",
    outside: "is outside",
    isPresent: "is there",
    isAbsent: "is not there",
    isKnown: "is known",
  }[op as string] as string);

function conditionPhrase(condition: Condition, names: SentenceNames): Part[] {
  const parts = knownPhrase(condition, names);
  return condition.unknown ? [...parts, plain(" (or it is not known)")] : parts;
}

function knownPhrase(condition: Condition, names: SentenceNames): Part[] {
  const { signal, op } = condition;
  const info = signalInfo(signal, names);
  if (!info) return [missing(signal === "" ? "(choose a signal)" : `(no signal ${signal})`)];
  const { label } = info;
  if (op === "isKnown") return [plain(`${label} is known`)];
  if (op === "isPresent") return [plain(`there is ${someOf(label)}`)];
  if (op === "isAbsent") return [plain(`there is no ${label.replace(/^the /, "")}`)];
  const given = condition.value;
  if (!valueless.has(op) && (given === undefined || (given === "" && op !== "is" && op !== "isNot")))
    return [
      plain(`${info.kind === "schedule" ? "it" : info.kind === "place" ? "the visitor" : label} ${opLabel(op)} `),
      missing(),
    ];

  try {
    return valuePhrase(condition, info, given, names);
  } catch {
    // While it is being written, or from a file, a value may have any shape: what cannot be worded is not there yet.
    return [plain(`${label} ${opLabel(op)} `), missing()];
  }
}

/** A condition with its value, which is of the shape that its op takes. @throws TypeError if it is not */
function valuePhrase({ signal, op, exact }: Condition, info: SignalInfo, given: unknown, names: SentenceNames): Part[] {
  const { label } = info;
  switch (info.kind) {
    case "schedule":
      return [plain(op === "outside" ? "it is not " : "it is "), ...schedulePhrase(given as Schedule, names.site.zone)];
    case "place":
      return [
        plain(op === "isNotIn" ? "the visitor is not in " : "the visitor is in "),
        ...placesPhrase(given as PlaceEntry[], names),
      ];
    case "language":
      return [
        plain(op === "prefers" ? "the visitor prefers " : "the visitor reads "),
        ...listed(
          (given as string[]).map((tag) => value(languageName(tag))),
          "or",
        ),
      ];
    case "flag":
      if (signal === "history.returning")
        return [plain(op === "isTrue" ? "the visitor has been here before" : "the visitor is here for the first time")];
      return [plain(`${label} is `), value(op === "isTrue" ? "on" : "off")];
    case "money":
      return [plain(`${label} ${opLabel(op)} `), ...pair(given, (amount) => money(amount, names))];
    case "number": {
      const seen = /^history\.category\.(.+)$/.exec(signal);
      if (seen && op === "gte")
        return [plain("the visitor has seen "), value(seen[1] as string), plain(" at least "), value(times(given))];
      return [plain(`${label} ${opLabel(op)} `), ...pair(given, String)];
    }
    case "date":
      return op === "anniversary"
        ? [plain(`it is the anniversary of ${label}`)]
        : [plain(`${label} ${opLabel(op)} `), value(datePhrase(String(given)))];
    case "address":
      return [plain(`${label} ${opLabel(op)} `), ...listed((given as string[]).map(value), "or")];
    default: {
      const words = (text: string): Part[] | undefined => {
        const table = signal === "device.kind" ? deviceWords : signal === "referrer.kind" ? kindWords : undefined;
        if (!table || exact || (op !== "is" && op !== "isOneOf" && op !== "isNot")) return undefined;
        const found = Object.hasOwn(table, text) ? table[text] : undefined;
        return found === undefined ? undefined : [value(found)];
      };
      const all = Array.isArray(given) ? given.map(String) : [String(given)];
      const special = all.map(words);
      if (special.every((part) => part !== undefined)) {
        const verb =
          signal === "device.kind"
            ? op === "isNot"
              ? "the visitor is not "
              : "the visitor is "
            : op === "isNot"
              ? "the visitor does not arrive "
              : "the visitor arrives ";
        return [
          plain(verb),
          ...listed(
            special.map((part) => part[0] as Part),
            "or",
          ),
        ];
      }
      const several = /Words?$/.test(op) ? String(given).split(/\s+/).filter(Boolean) : all;
      const shown = op === "hasPhrase" ? [String(given)] : several;
      const join = op === "hasAllWords" ? "and" : "or";
      return [
        plain(`${label} ${opLabel(op)} `),
        ...listed(
          shown.map((text) => value(text === "" ? "empty" : `“${text}”`)),
          join,
        ),
        ...(exact ? [plain(" (case counts)")] : []),
      ];
    }
  }
}

const someOf = (label: string): string => {
  const bare = label.replace(/^the /, "");
  return /^[aeiou]/i.test(bare) ? `an ${bare}` : `a ${bare}`;
};
const times = (count: unknown): string => (count === 1 ? "once" : `${String(count)} times`);

function pair(given: unknown, text: (item: unknown) => string): Part[] {
  if (Array.isArray(given)) return [value(text(given[0])), plain(" and "), value(text(given[1]))];
  return [value(text(given))];
}

function money(amount: unknown, { site }: SentenceNames): string {
  const minor = typeof amount === "string" ? toMinor(amount, site.currency) : undefined;
  return minor === undefined ? String(amount) : formatMoney(minor, site.currency, site.language);
}

const languages = new Intl.DisplayNames("en", { type: "language" });
/** The English name of a language tag. */
export function languageName(tag: string): string {
  try {
    return languages.of(tag) ?? tag;
  } catch {
    return tag;
  }
}

/** Entries of a list of places as people say them. */
export function placesPhrase(entries: readonly PlaceEntry[], names: Pick<Ruleset, "placeLists">): Part[] {
  return listed(
    entries.map((entry) => {
      if ("list" in entry)
        return value(`“${names.placeLists.find((list) => list.id === entry.list)?.name ?? entry.list}”`);
      if ("continent" in entry)
        return value(continentNames[entry.continent.toUpperCase() as Continent] ?? entry.continent);
      if ("km" in entry) return value(`${entry.km} km around ${entry.lat}, ${entry.lon}`);
      return value([entry.city, entry.region, countryName(entry.country)].filter(Boolean).join(", "));
    }),
    "or",
  );
}

const yearlyPhrase = (date: string): string => {
  if (date.length > 5) return datePhrase(date);
  const [month, day] = date.split("-").map(Number) as [number, number];
  return `${day} ${monthNames[month - 1]}`;
};
const localPhrase = (local: string): string => `${datePhrase(local.slice(0, 10))}, ${local.slice(11)}`;

/** A schedule as people say it, to follow "it is". The zone stands beside every time. */
export function schedulePhrase(schedule: Schedule, siteZone: string): Part[] {
  if (typeof schedule !== "object" || schedule === null) return [missing()];
  const zone = schedule.zone === "site" ? siteZone : schedule.zone;
  const parts: Part[][] = [];
  if (schedule.days) parts.push([value(daysPhrase(schedule.days))]);
  if (schedule.dates)
    parts.push(
      listed(
        schedule.dates.map((date) => value(yearlyPhrase(date))),
        "or",
      ),
    );
  if (schedule.repeat) parts.push([plain("on the days of "), value(schedule.repeat)]);
  if (schedule.windows)
    parts.push(
      listed(
        schedule.windows.map((window) => value(`between ${window.start} and ${window.end}`)),
        "or",
      ),
    );
  if (schedule.from) parts.push([plain("from "), value(localPhrase(schedule.from))]);
  if (schedule.until) parts.push([plain("until "), value(localPhrase(schedule.until))]);
  if (parts.length === 0) parts.push([value("any time")]);
  const spaced = parts.flatMap((part, index) => (index > 0 ? [plain(" "), ...part] : part));
  return [...spaced, plain(`, ${zone === "visitor" ? "the visitor’s time" : zonePhrase(zone)}`)];
}
